/** What a new level begins with, for a type: the parts of its files that depend on it. */
interface Starter {
  /** What it shows, in a sentence. */
  readonly about: string
  readonly items: readonly string[]
  readonly places?: readonly string[]
  readonly things: readonly string[]
  readonly goal: string
  readonly wrong: readonly string[]
  readonly right: readonly string[]
}

const refusal = (text: string): string => `    feedback: { refused: [{ sound: knock }, { message: "${text}" }] }`
const keyHook = '  key-hook: { type: pickup, at: [0.3, 2, 1.2], set: { gives: key } }'
const takeKey = ['  - walk-to: key-hook', '  - press: key-hook', '  - expect: { carries: key }']

/** A pit, and a checkpoint to come back to. */
function falling(about: string): Starter {
  return {
    about,
    items: [],
    places: [
      '  foot: { at: [1.5, 0.8] } # where a player comes back to before the checkpoint',
      '  beside-post: { at: [1, 3.4] }',
    ],
    things: [
      '  post:',
      '    type: checkpoint',
      '    at: [1, 3.4]',
      '    zones: { near: { radius: 0.6 } } # it counts for a character that walks into this',
      '    set: { place: beside-post }',
      '    feedback: { accepted: [{ sound: chime, pause: 5 }] }',
      '  hole:',
      '    type: pit',
      '    at: [3, 2]',
      '    set: { back-to: foot }',
      '    feedback: { accepted: [{ sound: thud }] }',
      '  lever: { type: lever, at: [4.7, 2, 1], set: { stays: true } }',
    ],
    goal: '{ interactable: lever, is: "on" }',
    wrong: ['  - walk-to: [3, 2]', '  - expect: { sound: thud }', '  - expect: { spot: [1.5, 0.8] }'],
    right: [
      '  - walk-to: [1, 3.4]',
      '  - walk-to: [3, 2]',
      '  - expect: { spot: [1, 3.4] }',
      '  - walk-to: [3, 3.4] # round the hole',
      '  - walk-to: lever',
      '  - press: lever',
      '  - expect: { goal: done }',
    ],
  }
}

const starters: Readonly<Record<string, Starter>> = {
  door: {
    about: 'A locked door between two rooms, and the key to it.',
    items: ['  key: { title: key }'],
    things: [
      keyHook,
      '  front-door:',
      '    type: door',
      '    in: doorway # it fills this doorway except when it is open',
      '    set:',
      '      lock: { item: key, item-use: keep }',
      '      closes: { after: 4 } # by itself, 4 seconds after it opened',
      refusal('Locked. The {item} would fit.'),
      '  far-lever: { type: lever, at: [10.7, 2, 1], set: { stays: true } }',
    ],
    goal: '{ interactable: far-lever, is: "on" }',
    wrong: [
      '  - walk-to: front-door',
      '  - press: front-door',
      '  - expect: { refused: front-door, because: { carries: key } }',
      '  - expect: { sound: knock }',
      '  - expect: { not: { interactable: front-door, is: open }, for: 2 }',
    ],
    right: [
      ...takeKey,
      '  - walk-to: front-door',
      '  - press: front-door',
      '  - expect: { interactable: front-door, is: open, within: 1 }',
      '  - walk-to: far-lever',
      '  - press: far-lever',
      '  - expect: { goal: done }',
    ],
  },
  chest: {
    about: 'A locked chest, the key to it, and what is in it.',
    items: ['  key: { title: key }', '  coin: { title: coin, stacks: 9 }'],
    things: [
      keyHook,
      '  sea-chest:',
      '    type: chest',
      '    at: [3, 3.5]',
      '    turn: 180 # it looks south',
      '    set:',
      '      lock: { item: key, item-use: consume }',
      '      gives: [{ item: coin, count: 3 }]',
      refusal('Locked. The {item} would fit.'),
    ],
    goal: '{ carries: coin, count: 3 }',
    wrong: [
      '  - walk-to: sea-chest',
      '  - press: sea-chest',
      '  - expect: { refused: sea-chest, because: { carries: key } }',
    ],
    right: [
      ...takeKey,
      '  - walk-to: sea-chest',
      '  - press: sea-chest',
      '  - expect: { carries: coin, count: 3, within: 1 }',
      '  - expect: { goal: done }',
    ],
  },
  keyhole: {
    about: 'A keyhole apart from the door that it unlocks.',
    items: ['  key: { title: key }'],
    things: [
      keyHook,
      '  wall-lock:',
      '    type: keyhole',
      '    at: [3.5, 3.9, 1.2]',
      '    set: { item: key, item-use: keep }',
      refusal('The {item} would fit.'),
      '  front-door:',
      '    type: door',
      '    in: doorway',
      '    set: { lock: { keyhole: wall-lock }, stays-open: true }',
      refusal('Something else unlocks this.'),
      '  far-lever: { type: lever, at: [10.7, 2, 1], set: { stays: true } }',
    ],
    goal: '{ interactable: far-lever, is: "on" }',
    wrong: [
      '  - walk-to: front-door',
      '  - press: front-door',
      '  - expect: { refused: front-door, because: { interactable: wall-lock } }',
    ],
    right: [
      ...takeKey,
      '  - walk-to: wall-lock',
      '  - press: wall-lock',
      '  - walk-to: front-door',
      '  - press: front-door',
      '  - expect: { interactable: front-door, is: open, within: 1 }',
      '  - walk-to: far-lever',
      '  - press: far-lever',
      '  - expect: { goal: done }',
    ],
  },
  pickup: {
    about: 'Three coins to pick up, one of them by walking over it.',
    items: ['  coin: { title: coin, stacks: 3 }'],
    things: [
      '  coin-1: { type: pickup, at: [0.3, 2, 0.8], set: { gives: coin } }',
      '  coin-2: { type: pickup, at: [4.7, 0.4, 0.8], set: { gives: coin } }',
      '  coin-3: { type: pickup, at: [3, 3], set: { gives: coin, taken-by: [enter] } }',
    ],
    goal: '{ carries: coin, count: 3 }',
    wrong: ['  - walk-to: [2.2, 2]', '  - press', '  - expect: { unanswered: true }'],
    right: [
      '  - walk-to: coin-1',
      '  - press: coin-1',
      '  - walk-to: coin-2',
      '  - press: coin-2',
      '  - walk-to: coin-3',
      '  - expect: { carries: coin, count: 3 }',
      '  - expect: { goal: done }',
    ],
  },
  lever: {
    about: 'A lever that must be kept pressed, and a hatch that hears it.',
    items: [],
    things: [
      '  winch: { type: lever, at: [0.3, 2, 1], set: { hold: 1.5, sends: wound } }',
      '  hatch: { type: door, in: doorway, set: { motion: { kind: slide }, lock: { signal: wound }, stays-open: true },',
      '    feedback: { refused: [{ sound: knock }, { message: "It does not open by hand." }] } }',
      '  far-lever: { type: lever, at: [10.7, 2, 1], set: { stays: true } }',
    ],
    goal: '{ interactable: far-lever, is: "on" }',
    wrong: [
      '  - walk-to: winch',
      '  - hold: winch',
      '  - wait: 1',
      '  - release',
      '  - expect: { not: { interactable: winch, is: "on" }, for: 2 }',
    ],
    right: [
      '  - walk-to: winch',
      '  - hold: winch',
      '  - expect: { interactable: winch, is: "on", within: 1.5 }',
      '  - release',
      '  - expect: { interactable: hatch, is: open, within: 1 }',
      '  - walk-to: far-lever',
      '  - press: far-lever',
      '  - expect: { goal: done }',
    ],
  },
  button: {
    about: 'A button, and a lamp at the other end of the room that hears it.',
    items: [],
    things: [
      '  call: { type: button, at: [0.3, 2, 1.2], set: { sends: called } }',
      '  call-lamp: { type: lamp, at: [4.5, 3.8, 2], set: { lit-by: called } }',
    ],
    goal: '{ interactable: call-lamp, is: lit }',
    wrong: ['  - press', '  - expect: { unanswered: true }', '  - expect: { interactable: call-lamp, is: dark }'],
    right: [
      '  - walk-to: call',
      '  - press: call',
      '  - expect: { interactable: call-lamp, is: lit }',
      '  - expect: { goal: done }',
    ],
  },
  'pressure-plate': {
    about: 'A plate on the floor, and a lamp that is lit while somebody stands on it.',
    items: [],
    things: [
      '  mat: { type: pressure-plate, at: [3.5, 2.5], set: { sends: trodden, sends-back: left } }',
      '  mat-lamp: { type: lamp, at: [3.5, 3.8, 2], set: { lit-by: trodden, put-out-by: left } }',
    ],
    goal: '{ interactable: mat-lamp, is: lit }',
    wrong: ['  - walk-to: [1, 3]', '  - expect: { interactable: mat-lamp, is: dark }'],
    right: [
      '  - walk-to: mat',
      '  - expect: { interactable: mat-lamp, is: lit }',
      '  - walk-to: [1, 1]',
      '  - expect: { interactable: mat-lamp, is: dark }',
      '  - expect: { goal: done }',
    ],
  },
  'dial-lock': {
    about: 'A chest that a dial unlocks.',
    items: ['  coin: { title: coin }'],
    things: [
      '  dial: { type: dial-lock, at: [0.3, 2, 1.2], set: { wheels: 3, positions: 10, combination: [4, 1, 7] } }',
      '  safe:',
      '    type: chest',
      '    at: [3, 3.5]',
      '    turn: 180',
      '    set: { lock: { keyhole: dial }, gives: [{ item: coin }] }',
      refusal('The dial must stand right first.'),
    ],
    goal: '{ carries: coin }',
    wrong: [
      '  - walk-to: dial',
      '  - dial: dial',
      '    to: [4, 1, 8]',
      '  - expect: { interactable: dial, is: locked }',
      '  - walk-to: safe',
      '  - press: safe',
      '  - expect: { refused: safe, because: { interactable: dial } }',
    ],
    right: [
      '  - walk-to: dial',
      '  - dial: dial',
      '    to: [4, 1, 7]',
      '  - expect: { interactable: dial, is: turned }',
      '  - walk-to: safe',
      '  - press: safe',
      '  - expect: { carries: coin, within: 1 }',
      '  - expect: { goal: done }',
    ],
  },
  drawer: {
    about: 'A drawer with something in it.',
    items: ['  letter: { title: letter }'],
    things: ['  desk: { type: drawer, at: [3, 3.5], set: { gives: [{ item: letter }] } }'],
    goal: '{ carries: letter }',
    wrong: ['  - walk-to: desk', '  - press: desk', '  - expect: { not: { carries: letter }, for: 1 }'],
    right: [
      '  - walk-to: desk',
      '  - press: desk',
      '  - wait: 0.4',
      '  - press: desk',
      '  - expect: { carries: letter }',
      '  - expect: { goal: done }',
    ],
  },
  lamp: {
    about: 'A lamp that is lit while somebody stands before it with a lantern.',
    items: ['  lantern: { title: lantern }'],
    things: [
      '  hook: { type: pickup, at: [0.3, 2, 1.2], set: { gives: lantern } }',
      '  beacon: { type: lamp, at: [4, 3.5, 2], set: { while: { inside: near, carrying: lantern } } }',
    ],
    goal: '{ interactable: beacon, is: lit }',
    wrong: ['  - walk-to: [4, 3]', '  - expect: { interactable: beacon, is: dark }'],
    right: [
      '  - walk-to: hook',
      '  - press: hook',
      '  - walk-to: [4, 3]',
      '  - expect: { interactable: beacon, is: lit }',
      '  - expect: { goal: done }',
    ],
  },
  exit: {
    about: 'A tunnel that leads to a place in the far room, and another that leads back.',
    items: [],
    places: [
      '  far-end: { at: [9, 2.5], facing: 0 } # where one arrives, and which way one looks',
      '  near-end: { at: [1, 2.5] }',
    ],
    things: [
      '  tunnel: { type: exit, at: [0.3, 2, 1.2], set: { exit-to: { place: far-end } } }',
      '  way-back: { type: exit, at: [10.7, 3, 1.2], set: { exit-to: { place: near-end } } }',
      '  far-lever: { type: lever, at: [10.7, 2, 1], set: { stays: true } }',
    ],
    goal: '{ interactable: far-lever, is: "on" }',
    wrong: ['  - press', '  - expect: { unanswered: true }', '  - expect: { not: { spot: [9, 2.5] } }'],
    right: [
      '  - walk-to: tunnel',
      '  - press: tunnel',
      '  - expect: { spot: [9, 2.5] }',
      '  - walk-to: far-lever',
      '  - press: far-lever',
      '  - expect: { goal: done }',
    ],
  },
  pit: falling('A pit: a player that falls into it comes back to the last checkpoint.'),
  checkpoint: falling('A checkpoint: a player comes back to it after a fall.'),
}

/** The types that a new level can start from. */
export const starterTypes = Object.keys(starters)

/** The files of a new level, by name: the level, two walkthroughs, and a page on how to go on. */
export function starterFiles(name: string, type: string): Readonly<Record<string, string>> {
  const starter = starters[type]
  if (!starter) throw new Error(`there is no starter for ${type}`)
  const title = name.replaceAll('-', ' ')
  const walkthrough = (way: string, steps: readonly string[]): string =>
    `walkthrough: 1\ntitle: "${title}, ${way}"\nsteps:\n${steps.join('\n')}\n`
  return {
    [`${name}.level.yaml`]: levelText(title, type, starter),
    [`${name}.wrong-way.walkthrough.yaml`]: walkthrough('the wrong way first', starter.wrong),
    [`${name}.right-way.walkthrough.yaml`]: walkthrough('the right way', starter.right),
    'README.md': readme(name, title, starter),
  }
}

function levelText(title: string, type: string, { about, items, places = [], things, goal }: Starter): string {
  const hasDoorway = things.some((line) => line.includes('doorway'))
  const hasExit = things.some((line) => line.includes('type: exit'))
  const east = '  east: { outline: [[5.3, 0], [11, 0], [11, 4], [5.3, 4]] }\n'
  const doorway =
    '\n# Gaps that join two rooms.\ndoorways:\n  doorway: { joins: [west, east], at: [5.15, 2], width: 1.4, depth: 0.3 }\n'
  return `# ${about} All lengths are metres: x east, y north; times are seconds.
zintel: 1
title: "${title}"

# Polygons that can be walked.
rooms:
  west: { outline: [[0, 0], [5, 0], [5, 4], [0, 4]] }
${hasDoorway ? east + doorway : hasExit ? east : ''}
${items.length > 0 ? `items:\n${items.join('\n')}\n\n` : ''}${places.length > 0 ? `# Where one can be moved to.\nplaces:\n${places.join('\n')}\n\n` : ''}# Instances of types: zintel types lists them, zintel types ${type} tells all about this one.
interactables:
${things.join('\n')}

# Who plays: radius in metres, speed in metres a second, how high the hand is and how far it reaches.
characters:
  player: { role: player, start: [1.5, 1], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }

# What must be, and stay, reachable.
goals:
  done: ${goal}
`
}

function readme(name: string, title: string, { about }: Starter): string {
  return `# ${title}

${about}

Play it the wrong way first, then the right way:

    zintel play ${name}.level.yaml ${name}.wrong-way.walkthrough.yaml ${name}.right-way.walkthrough.yaml

Ask what is broken:

    zintel check ${name}.level.yaml

See it from above:

    zintel draw ${name}.level.yaml --out plan.svg

Then change a line in \`${name}.level.yaml\`, and do it again. \`zintel types\` lists the types, and \`zintel types door\` prints a
filled-in example of one.
`
}

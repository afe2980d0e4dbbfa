/**
 * Whether the same can happen, and be perceived, in the same order, in two levels: times and spots aside. Both are explored with clocks that
 * only run, all moves that nobody perceives are silent, and the two graphs are compared by branching bisimulation: by signatures, refined
 * until nothing changes (Blom and Orzan, "A distributed algorithm for strong bisimulation reduction of state spaces", 2002, with silent moves
 * collapsed first). What is bisimilar is the same; what is not may in rare cases still be, so `false` says that it was not shown.
 */
export function isSamePlay(one, other) {
  const labels = one.labels
  if (other.labels !== labels) throw new Error('graphs to be compared share their labels')
  const shift = one.count
  const edges = [...one.edges]
  for (const [from, label, to] of other.edges) edges.push([from + shift, label, to + shift])
  const blocks = refined(collapsed(one.count + other.count, edges))
  return blocks(0) === blocks(shift)
}

/** What can happen in a level, as a graph; null where there is more than `budget` allows. `labels` is shared by graphs that are compared. */
export function happenings(stage, labels, budget, { Search, moveKind, eachPress, isOffered, refusalOf, unmetParts }) {
  const search = new Search(stage, 'loose', budget)
  if (!search.hasStart) return null
  while (!search.advance(1000));
  if (!search.isComplete) return null
  const { tables, expanded } = stage
  const { interactables, items, places, characters, pressKinds, goals } = expanded
  const edges = []
  const seen = new Set()
  const numberOf = (label) => {
    const known = labels.get(label)
    if (known !== undefined) return known
    labels.set(label, labels.size + 1)
    return labels.size
  }
  const add = (from, label, to) => {
    const number = label === '' ? 0 : numberOf(label)
    const key = `${from} ${number} ${to}`
    if (seen.has(key) || (number === 0 && from === to)) return
    seen.add(key)
    edges.push([from, number, to])
  }
  const told = (entries) => (entries ?? []).map((entry) => ` tells ${JSON.stringify(entry)}`).join('')
  const looks = looksOf(interactables)
  let doing = []
  const watcher = {
    begins: () => {
      doing = []
    },
    taken: ({ machine, transition: { when, feedback }, to }, from) => {
      const { name, feedback: own, states } = interactables[machine]
      if (when.kind === 'enter' || when.kind === 'leave') doing.push(told(own.accepted))
      doing.push(told(feedback))
      if (to < 0 || to === from) return
      if (looks[machine][from] !== looks[machine][to]) doing.push(` ${name} is now ${looks[machine][to]}`)
      if (states[to].motion) doing.push(told(own.started))
    },
    waits: () => undefined,
    notTaken: ({ machine, transition }, _actor, unmet) => {
      const room = unmet.some(({ kind }) => kind === 'room')
      if (transition.when.kind === 'hold' || (room && interactables[machine].feedback['too-full']))
        doing.push(told(refusalOf(interactables[machine], transition, unmet)))
    },
    item: ({ actor, item, before, after, consumed }, row) => {
      const { feedback } = row ? interactables[row.machine] : { feedback: {} }
      const tells = told(after > before ? feedback.gained : after < before ? feedback.consumed : feedback['too-full'])
      doing.push(
        ` ${characters[actor].name}: ${items[item].name} ${before} to ${after}${consumed ? ', used up' : ''}${tells}`,
      )
    },
    moved: (actor, place, isDone) => doing.push(` ${characters[actor].name} moved ${places[place].name} ${isDone}`),
    leaves: (actor, { level, place }) => doing.push(` ${characters[actor].name} leaves ${level} ${place}`),
    pushed: (actor, machine) => doing.push(` ${characters[actor].name} pushed by ${interactables[machine].name}`),
    flag: () => undefined,
    counter: () => undefined,
    content: () => undefined,
    letsGo: (actor) => doing.push(` ${characters[actor].name} lets go`),
    crossed: () => undefined,
    sent: () => undefined,
    heard: () => undefined,
  }
  const moves = search.movesAnew(watcher)
  const regs = new Int32Array(tables.at.size)
  for (let index = 0; index < search.store.count; index++) {
    const patch = search.read(index, regs)
    for (const [goal, { name }] of goals.entries()) if (search.holds(index, goal)) add(index, `goal ${name}`, index)
    for (let actor = 0; actor < characters.length; actor++) {
      if (regs[tables.at.held(actor)] !== 0) continue
      eachPress(tables, search.signatureOf(actor, regs, patch), regs, actor, (machine, pressKind) => {
        const placed = interactables[machine]
        const rows = tables.states[machine][regs[machine]].presses[pressKind].filter((row) =>
          isOffered(row, regs, actor),
        )
        const isAccepted = rows.some(({ guard }) => guard(regs, actor))
        const prompts = (placed.feedback.focused ?? []).filter(({ shown }) => shown !== 'if-accepted' || isAccepted)
        if (prompts.length > 0) add(index, `${characters[actor].name} sees ${placed.name}${told(prompts)}`, index)
        if (isAccepted || rows.length === 0) return
        const unmet = unmetParts(rows[0].transition.guard, tables, regs, actor)
        const label = `${characters[actor].name} refused by ${placed.name} ${pressed(pressKinds[pressKind])}`
        add(index, label + told(refusalOf(placed, rows[0].transition, unmet)), index)
      })
    }
    moves.each(regs, patch, (after, on, kind, what, taken) => {
      const parts = [...doing]
      if (taken.length === 0) parts.length = 0
      if (kind === moveKind.press) {
        const input = moves.inputs.read(what)
        const who = characters[input.actor].name
        if (input.do === 'press') {
          const { name, feedback } = interactables[input.machine]
          parts.unshift(
            `${who} works ${name} ${pressed(pressKinds[input.pressKind])}${input.kept ? ' and holds' : ''}${told(feedback.accepted)}`,
          )
        } else if (input.do === 'dial') parts.unshift(`${who} dials ${input.wheel} ${input.to}`)
        else parts.unshift(`${who} lets go`)
      }
      if (kind === moveKind.wait && what >= 0 && tables.clocks[what].motion) {
        parts.unshift(told(interactables[tables.clocks[what].machine].feedback.finished))
      }
      add(index, parts.join(''), search.find(after, on))
    })
  }
  return { count: search.store.count, edges, labels }
}

/** A way to press, as a label has it: with what chance draws, since nobody chooses that. */
function pressed({ press, option, chance }) {
  return option ?? (chance === null ? press : `${press}, drawing ${chance}`)
}

/** What is seen of each state of each interactable. */
function looksOf(interactables) {
  return interactables.map(({ states, size, doorway }) =>
    states.map(({ look, pose, motion, blocksWalk, blocksSight }) => {
      const hasBody = size !== null || doorway !== null
      const moves = motion && [motion.to, motion.kind, motion.turn, motion.slide]
      return JSON.stringify([look, hasBody && [pose, moves, blocksWalk, blocksSight]])
    }),
  )
}

/** The graph without circles of silent moves: for each situation its node, and the moves between nodes, those that are silent last to first. */
function collapsed(count, edges) {
  const silent = Array.from({ length: count }, () => [])
  for (const [from, label, to] of edges) if (label === 0) silent[from].push(to)
  const { component, components } = componentsOf(count, silent)
  const moves = Array.from({ length: components }, () => new Map())
  for (const [from, label, to] of edges) {
    const [a, b] = [component[from], component[to]]
    if (label === 0 && a === b) continue
    moves[a].set(`${label} ${b}`, [label, b])
  }
  return { component, moves: moves.map((own) => [...own.values()]) }
}

/**
 * The strongly connected components of a graph, numbered so that edges lead to smaller numbers (Tarjan, "Depth-first search and linear graph
 * algorithms", 1972).
 */
function componentsOf(count, next) {
  const order = new Int32Array(count)
  const low = new Int32Array(count)
  const at = new Int32Array(count)
  const component = new Int32Array(count).fill(-1)
  const open = []
  let visited = 0
  let components = 0
  for (let start = 0; start < count; start++) {
    if (order[start] !== 0) continue
    const path = [start]
    order[start] = low[start] = ++visited
    open.push(start)
    while (path.length > 0) {
      const node = path.at(-1)
      const to = next[node][at[node]++]
      if (to === undefined) {
        path.pop()
        if (path.length > 0) low[path.at(-1)] = Math.min(low[path.at(-1)], low[node])
        if (low[node] !== order[node]) continue
        for (let member = -1; member !== node;) {
          member = open.pop()
          component[member] = components
        }
        components++
      } else if (order[to] === 0) {
        order[to] = low[to] = ++visited
        open.push(to)
        path.push(to)
      } else if (component[to] < 0) low[node] = Math.min(low[node], order[to])
    }
  }
  return { component, components }
}

/** Gives for a situation the number of its block: those in one block are branching bisimilar. */
function refined({ component, moves }) {
  let blocks = new Int32Array(moves.length)
  let count = 1
  for (;;) {
    const signatures = []
    const numbers = new Map()
    const now = new Int32Array(moves.length)
    // Silent moves lead to smaller numbers, whose signatures are known by then.
    for (const [node, own] of moves.entries()) {
      const signature = new Set()
      for (const [label, to] of own) {
        if (label !== 0 || blocks[to] !== blocks[node]) signature.add(`${label}:${blocks[to]}`)
        else for (const part of signatures[to]) signature.add(part)
      }
      signatures.push(signature)
      const key = `${blocks[node]}|${[...signature].sort().join(',')}`
      if (!numbers.has(key)) numbers.set(key, numbers.size)
      now[node] = numbers.get(key)
    }
    const isStable = numbers.size === count
    blocks = now
    count = numbers.size
    if (isStable) return (situation) => blocks[component[situation]]
  }
}

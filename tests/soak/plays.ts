import { Search } from '../../src/explore/index.ts'
import { checkNow, checkProject, type FileReport } from '../../src/findings/index.ts'
import { expandLevel, inLevel, loadLevel } from '../../src/interactables/index.ts'
import { isThere } from '../../src/machine/index.ts'
import { finish, type Level } from '../../src/model/index.ts'
import { begunAt, makeStage, Play, type Stage } from '../../src/play/index.ts'
import { cellAt, type Patches, signatureAt, surroundings } from '../../src/space/index.ts'
import { joined, type RandomProject } from './projects.ts'
import type { Random } from './random.ts'

/** A level that was checked, and all situations that are possible in it. */
export interface Trial {
  readonly stage: Stage
  readonly search: Search
  readonly report: FileReport
}

/** The most situations of a level that is played; larger ones are passed over. */
const most = 20_000

/** Checks the levels of a project together, and explores them from one of its starts, by chance; null where that does not come to an end. */
export function trialOfProject(made: RandomProject, random: Random): Trial | null {
  const { project, parts } = made
  const whole = makeStage(joined(made))
  const [usual, ...others] = whole.expanded.joined!.starts
  const start = random.pick([usual!, ...others])
  const stage = start === usual ? whole : begunAt(whole, start.name)
  const search = new Search(stage, 'loose', most)
  while (!search.advance(5000));
  if (!search.isComplete) return null
  const levels = Object.fromEntries(parts.map(({ name, expanded }) => [name, expanded]))
  const reports = finish(checkProject(project, levels, { budget: 10 * most, grouping: false }))
  // What cannot be met from the usual start may be met from another.
  const fromUsual = (report: FileReport): string[] =>
    report.findings
      .flatMap((one) => [one, ...one.follows])
      .flatMap(({ rule, subject, message }) =>
        rule === 'unreachable-goal' && message.includes('usually starts') ? [subject] : [],
      )
  const questions = reports.flatMap((report, i) => {
    const apart = start === usual ? [] : fromUsual(report)
    return report.questions
      .filter(({ rule, subject }) => rule !== 'unreachable-goal' || !apart.includes(subject))
      .map((one) => ({ ...one, subject: inLevel(parts[i]!.name, one.subject) }))
  })
  return { stage, search, report: { ...reports[0]!, questions } }
}

/** Checks a level and explores it; null where that does not come to an end. */
export function trialOf(level: Level): Trial | null {
  const reading = loadLevel(level)
  if (!reading.value) throw new Error(JSON.stringify(reading.diagnostics))
  const stage = makeStage(expandLevel(reading.value, reading.source))
  const search = new Search(stage, 'loose', most)
  while (!search.advance(5000));
  if (!search.isComplete) return null
  return { stage, search, report: checkNow(reading.value, reading.source, { budget: 10 * most, grouping: false }) }
}

/** The situations that a play may be in, as far as its patches can be told; none of them need be possible. */
function situations({ stage, search }: Trial, play: Play): number[] {
  const { tables, space } = stage
  const regs = play.registers()
  for (let i = tables.at.firstClock; i < regs.length; i++) if (regs[i]! > 0) regs[i] = 1
  for (const [wheel, values] of tables.wheelValues.entries()) {
    const at = tables.at.wheel(wheel)
    if (!values.includes(regs[at]!)) regs[at] = tables.wheelOthers[wheel]!
  }
  const patches = space.patches.map((ground, who) => patchesOf(stage, ground, play, who))
  const found: number[] = []
  const place = (who: number): void => {
    if (who === patches.length) {
      for (const first of patches[0]!) {
        const index = search.find(regs, first)
        if (index >= 0) found.push(index)
      }
      return
    }
    for (const patch of patches[who]!) {
      regs[tables.at.place(who)] = patch
      place(who + 1)
    }
  }
  place(1)
  return found
}

/** The patches that a character may be on: just one, but for spots on a border. */
function patchesOf({ space, expanded }: Stage, ground: Patches, play: Play, who: number): number[] {
  const spot = play.spotOf(who)
  const person = expanded.characters[who]!
  const signature = signatureAt(expanded, space.layout, person, spot)
  const exact = ground.patchOf(spot, { ...signature, zones: play.zonesOf(who) })
  if (exact >= 0) return [exact]
  const key = JSON.stringify(signature.candidates)
  return ground
    .patchesIn(cellAt(ground.grid, spot))
    .filter((patch) => JSON.stringify(ground.patches[patch]!.signature.candidates) === key)
}

/** What is wrong with where a play has come to; null: nothing. */
export function wrongIn(trial: Trial, play: Play): string | null {
  if (play.ended !== null) return trial.search.storms.length > 0 ? null : 'a storm that exploring does not know'
  if (situations(trial, play).length > 0) return null
  const { stage } = trial
  const spots = stage.expanded.characters.map((_, who) => {
    const { zones, bodies } = surroundings(stage.space, stage.expanded.characters[who]!, play.spotOf(who))
    return { spot: play.spotOf(who), zones, bodies, known: play.zonesOf(who) }
  })
  const states = stage.expanded.interactables.map(({ name }, i) => `${name} ${play.stateOf(i)}`)
  return `a situation that is not among the possible ones: ${JSON.stringify(spots)} ${states.join(', ')}`
}

/** What a report says that a play has shown to be wrong; null: nothing. */
export function contradicted({ stage, report }: Trial, play: Play): string | null {
  const answers = new Map(report.questions.map((one) => [`${one.rule} ${one.subject}`, one.answer]))
  const { interactables } = stage.expanded
  for (const row of play.taken) {
    const { machine, place, transition } = stage.tables.rows[row]!
    const name = interactables[machine]!.name
    const titles = [`${name}/${transition.name ?? ''}`, `${name}/transition-${String(place + 1)}`]
    for (const title of titles) if (answers.get(`dead-transition ${title}`) === 'found') return `${title} is not dead`
  }
  for (const [i, { name }] of interactables.entries()) {
    if (answers.get(`unreachable-state ${name}/${play.stateOf(i)}`) === 'found') return `${name} ${play.stateOf(i)}`
  }
  for (const goal of play.goalsMet()) {
    if (answers.get(`unreachable-goal ${goal}`) === 'found') return `the goal ${goal} can be met`
  }
  for (const [i, entry] of play.log.entries()) {
    if (entry.what !== 'press' || entry.outcome !== 'refused' || entry.interactable === null) continue
    const after = play.log.slice(i + 1).filter(({ at }) => at === entry.at)
    const isTold = after.some((one) => one.what === 'feedback' && one.interactable === entry.interactable)
    if (!isTold && answers.get(`silent-refusal ${entry.interactable}`) === 'ruled-out') {
      return `${entry.interactable} refuses in silence`
    }
  }
  return null
}

/** Plays at random: `look` is asked after every input and every slice of time; it ends the play where it is not null. */
export function playAtRandom(trial: Trial, random: Random, inputs: number, look: (play: Play) => string | null): Play {
  const play = new Play(trial.stage)
  if (look(play) !== null) return play
  for (let i = 0; i < inputs && play.ended === null; i++) {
    const who = random.pick(
      [...trial.stage.expanded.characters.keys()].filter((one) => isThere(trial.stage.tables, play.registers(), one)),
    )
    act(trial.stage, play, random, who)
    if (look(play) !== null) return play
    for (let slices = random.below(3); slices > 0 && play.ended === null; slices--) {
      const due = play.nextDue()
      const ms = random.pick([0, 1, 1, 7, 50, 100, 240, 1000, due ?? 300, Math.max(0, (due ?? 20) - 1)])
      play.advance(ms)
      if (look(play) !== null) return play
    }
  }
  return play
}

function act(stage: Stage, play: Play, random: Random, who: number): void {
  const { interactables, pressKinds, wheels } = stage.expanded
  const thing = random.below(Math.max(1, interactables.length))
  const options = pressKinds.flatMap(({ option }) => (option === null ? [] : [option]))
  const choice = random.below(20)
  if (choice < 5) walkSomewhere(stage, play, random, who)
  else if (choice < 8 && interactables.length > 0) {
    if (play.walkTo(who, interactables[thing]!.name) && random.chance(0.7)) play.advanceWhileWalking(who, 20_000)
  } else if (choice < 9) play.steer(who, [random.between(-1, 1), random.between(-1, 1)])
  else if (choice < 10) play.steer(who, null)
  else if (choice < 14) play.press(who, random.below(pressKinds.length))
  else if (choice < 16) play.hold(who)
  else if (choice < 17) play.release(who)
  else if (choice < 18 && options.length > 0) play.choose(who, random.pick(options))
  else if (choice < 19 && interactables.length > 0) play.face(who, interactables[thing]!.name)
  else if (wheels.length > 0) {
    const wheel = random.pick(wheels)
    const own = wheels.filter(({ interactable }) => interactable === wheel.interactable)
    play.dial(who, wheel.interactable, 1 + random.below(own.length), random.below(wheel.positions))
  }
}

/** To a spot anywhere near, straight or by a corner, or a little way only. */
function walkSomewhere(stage: Stage, play: Play, random: Random, who: number): void {
  const { left, low, size, columns, rows } = stage.space.patches[who]!.grid
  const anywhere = (): [number, number] => [
    random.between(left, left + columns * size),
    random.between(low, low + rows * size),
  ]
  const [x, y] = play.spotOf(who)
  const near = (): [number, number] => [x + random.between(-0.3, 0.3), y + random.between(-0.3, 0.3)]
  play.walk(who, random.chance(0.4) ? [near()] : random.chance(0.5) ? [anywhere()] : [near(), anywhere()])
  if (random.chance(0.6)) play.advanceWhileWalking(who, random.pick([100, 1000, 20_000]))
}

/** How many questions of a report there are, and how many are undecided. */
export function counted(report: FileReport): { readonly all: number; readonly undecided: number } {
  return { all: report.questions.length, undecided: report.counts.undecided }
}

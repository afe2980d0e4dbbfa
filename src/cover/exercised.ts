import { perform, type PlayStep } from '../explore/index.ts'
import { refusalReader } from '../findings/index.ts'
import { moments } from '../model/index.ts'
import { Play, type Stage } from '../play/index.ts'
import { momentItemKey, rowKey, stateKey } from './items.ts'

/** Collects what plays come to, by the keys of items. */
export class Exercised {
  readonly keys = new Set<string>()
  readonly #stage: Stage
  readonly #refusalIn: (play: Play) => string | null

  constructor(stage: Stage) {
    this.#stage = stage
    this.#refusalIn = refusalReader(stage)
  }

  /** To be called after each step: what a play has come to by then. A prompt that is passed in the middle of a walk is not seen. */
  look(play: Play): void {
    const { expanded, tables } = this.#stage
    const refusal = this.#refusalIn(play)
    if (refusal !== null) this.keys.add(refusal)
    for (const { index, initial } of expanded.interactables) this.keys.add(stateKey(index, initial))
    for (const row of play.taken) {
      const { machine, to } = tables.rows[row]!
      this.keys.add(rowKey(row))
      if (to >= 0) this.keys.add(stateKey(machine, to))
    }
    for (const who of expanded.characters.keys()) {
      for (const pressKind of expanded.pressKinds.keys()) {
        const [first] = play.candidates(who, pressKind)
        if (first !== undefined) this.keys.add(momentItemKey(first, 'focused'))
      }
    }
    for (const one of play.moments) {
      const [machine = '', name = ''] = one.split(' ')
      const moment = moments.find((known) => known === name)
      if (moment) this.keys.add(momentItemKey(Number(machine), moment))
    }
  }
}

/** What steps exercise: of each what it adds; the first of all what comes by itself at the start. */
export function exercisedBy(stage: Stage, steps: readonly PlayStep[]): ReadonlySet<string>[] {
  const exercised = new Exercised(stage)
  const play = new Play(stage)
  const added = (): ReadonlySet<string> => {
    const before = new Set(exercised.keys)
    exercised.look(play)
    return new Set([...exercised.keys].filter((key) => !before.has(key)))
  }
  const first = added()
  const rest = steps.map((step) => {
    perform(play, step)
    return added()
  })
  return [first, ...rest]
}

import { howPressed, perform, type PlayStep, replay } from '../../explore/index.ts'
import type { CompiledTransition } from '../../machine/index.ts'
import type { Play, Stage } from '../../play/index.ts'
import type { Found } from '../rule.ts'

/** The first transition that the last of some steps sets off; else the last that was taken before; null for none. */
export function setOffBy(stage: Stage, steps: readonly PlayStep[]): CompiledTransition | null {
  const play = replay(stage, steps.slice(0, -1))
  const before = play.taken.length
  const last = steps.at(-1)
  if (last) perform(play, last)
  const row = play.taken[before] ?? play.taken.at(-1)
  return row === undefined ? null : stage.tables.rows[row]!
}

/** The step that presses an interactable, for the character that would press it where a play stands; null where nobody could. */
export function pressOn(play: Play, machine: number, ask: number): PlayStep | null {
  const { characters, interactables } = play.stage.expanded
  const who = characters.findIndex((_, one) => play.candidates(one, ask)[0] === machine)
  if (who < 0) return null
  return {
    who,
    do: 'press',
    on: interactables[machine]!.name,
    ...howPressed(play.stage.expanded, ask),
    looking: false,
    kept: false,
  }
}

/** A finding about an interactable, with the state in which the steps leave it. */
export function stateAfter<Facts extends { readonly state: string }>(
  stage: Stage,
  machine: number,
  found: Found<Facts>,
): Found<Facts> {
  return { ...found, facts: { ...found.facts, state: replay(stage, found.steps).stateOf(machine) } }
}

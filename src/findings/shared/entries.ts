import type { Feedback, Level } from '../../model/index.ts'

/** An entry of feedback where the file has it. */
export interface WrittenEntry {
  readonly entry: Feedback
  readonly path: string
  /** The instance or the type that it belongs to. */
  readonly owner: string
  /** The moment; null: that of a transition. */
  readonly moment: string | null
}

/** All feedback that a level says, in file order: instances, then types. */
export function writtenEntries({ interactables = {}, types = {} }: Level): WrittenEntry[] {
  const list = (
    entries: readonly Feedback[] | undefined,
    path: string,
    owner: string,
    moment: string | null,
  ): WrittenEntry[] => (entries ?? []).map((entry, i) => ({ entry, path: `${path}.${String(i)}`, owner, moment }))
  const byMoment = (feedback: object | undefined, path: string, owner: string): WrittenEntry[] =>
    Object.entries((feedback ?? {}) as Record<string, readonly Feedback[]>).flatMap(([moment, entries]) =>
      list(entries, `${path}.feedback.${moment}`, owner, moment),
    )
  return [
    ...Object.entries(interactables).flatMap(([name, { feedback }]) =>
      byMoment(feedback, `interactables.${name}`, name),
    ),
    ...Object.entries(types).flatMap(([name, { feedback, transitions = [] }]) => [
      ...byMoment(feedback, `types.${name}`, name),
      ...transitions.flatMap((row, i) => {
        const path = `types.${name}.transitions.${String(i)}`
        return [
          ...list(row.feedback, `${path}.feedback`, name, null),
          ...list(row.refused, `${path}.refused`, name, 'refused'),
        ]
      }),
    ]),
  ]
}

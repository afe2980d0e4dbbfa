/** The files on the desk, by their names; folders are part of a name. */
export type Files = Readonly<Record<string, string>>

/** What one step did to one file; null: the file was not there, or is not there any more. */
export interface FileChange {
  readonly file: string
  readonly before: string | null
  readonly after: string | null
}

/** A step that can be taken back as a whole. */
export interface Step {
  /** What was done, as the tooltip of undo says it. */
  readonly says: string
  readonly changes: readonly FileChange[]
  /** When it was done last, in milliseconds; typing that goes on soon after is part of it. */
  readonly at: number
  readonly isTyping: boolean
}

/** Everything that was done, and how much of it stands. */
export interface History {
  readonly steps: readonly Step[]
  /** How many of the steps stand; those behind were taken back. */
  readonly done: number
}

export const emptyHistory: History = { steps: [], done: 0 }

/** How long after a keystroke another one belongs to the same step, in milliseconds. */
const pause = 700

/** How much text the steps may keep in all, in characters: the oldest go first. */
const most = 48_000_000

/** Files with changes made to them; a file that is to be null is left out. */
export function withChanges(files: Files, changes: readonly FileChange[]): Files {
  const next: Record<string, string> = { ...files }
  for (const { file, after } of changes) {
    if (after === null) Reflect.deleteProperty(next, file)
    else next[file] = after
  }
  return next
}

/** A history with one more step, after those that stand; typing goes into the step before it where that is fresh. */
export function withStep(history: History, step: Step): History {
  const steps = history.steps.slice(0, history.done)
  const last = steps.at(-1)
  const [only] = step.changes
  const [before] = last?.changes ?? []
  const goesOn =
    last?.isTyping &&
    step.isTyping &&
    step.at - last.at < pause &&
    last.changes.length === 1 &&
    step.changes.length === 1 &&
    before?.file === only?.file
  if (goesOn && before && only) {
    steps[steps.length - 1] = { ...last, at: step.at, changes: [{ ...before, after: only.after }] }
  } else steps.push(step)
  return { steps: withinMost(steps), done: Math.min(steps.length, withinMost(steps).length) }
}

function withinMost(steps: readonly Step[]): readonly Step[] {
  let sum = 0
  for (let i = steps.length - 1; i >= 0; i--) {
    for (const { before, after } of steps[i]!.changes) sum += (before?.length ?? 0) + (after?.length ?? 0)
    if (sum > most && i < steps.length - 1) return steps.slice(i + 1)
  }
  return steps
}

/** The changes that take the last step back; null where there is nothing to take back. */
export function undone({ steps, done }: History): { readonly step: Step; readonly changes: FileChange[] } | null {
  const step = steps[done - 1]
  if (!step) return null
  const changes = step.changes.map(({ file, before, after }) => ({ file, before: after, after: before }))
  return { step, changes: changes.reverse() }
}

/** The changes that do again what was taken back last; null where nothing was. */
export function redone({ steps, done }: History): { readonly step: Step; readonly changes: FileChange[] } | null {
  const step = steps[done]
  return step ? { step, changes: [...step.changes] } : null
}

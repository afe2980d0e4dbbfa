import { inOrder, kindOf } from './files.ts'
import {
  emptyHistory,
  type FileChange,
  type Files,
  type History,
  redone,
  type Step,
  undone,
  withChanges,
  withStep,
} from './history.ts'

/** Everything on the desk that outlives a reload. */
export interface DeskState {
  readonly files: Files
  /** The file that is looked at; null while the desk is empty. */
  readonly open: string | null
  /** The files as they were opened, or saved last: what differs is still to be saved. */
  readonly saved: Files
  /** The file as it was when comparing began, by name. */
  readonly baseline: Files
  readonly history: History
}

export const emptyDesk: DeskState = { files: {}, open: null, saved: {}, baseline: {}, history: emptyHistory }

/** The files, and their one history. Nothing here knows of a page. */
export class Desk {
  #state: DeskState
  readonly #listeners = new Set<() => void>()

  constructor(state: DeskState = emptyDesk) {
    this.#state = state
  }

  get state(): DeskState {
    return this.#state
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener)
    return () => {
      this.#listeners.delete(listener)
    }
  }

  readonly snapshot = (): DeskState => this.#state

  #set(change: Partial<DeskState>): void {
    this.#state = { ...this.#state, ...change }
    for (const listener of [...this.#listeners]) listener()
  }

  /** The text of a file; empty where it is not there. */
  text(file: string): string {
    return this.#state.files[file] ?? ''
  }

  /** Looks at a file that is on the desk. */
  look(file: string): void {
    if (Object.hasOwn(this.#state.files, file) && file !== this.#state.open) this.#set({ open: file })
  }

  /** Puts files on the desk in place of those of the same name, and looks at the one that one would begin with. */
  add(files: Files, says: string): void {
    const changes = Object.entries(files).map(([file, after]): FileChange => {
      return { file, before: this.#state.files[file] ?? null, after }
    })
    if (changes.length === 0) return
    this.change(changes, says)
    const begin = inOrder(files).find(({ kind }) => kind === 'level') ?? inOrder(files)[0]
    this.#set({
      open: begin?.name ?? this.#state.open,
      saved: { ...this.#state.saved, ...files },
      baseline: { ...this.#state.baseline, ...files },
    })
  }

  /** Takes files off the desk; this can be undone. */
  remove(names: readonly string[]): void {
    const changes = names.flatMap((file): FileChange[] => {
      const before = this.#state.files[file]
      return before === undefined ? [] : [{ file, before, after: null }]
    })
    this.change(changes, names.length === 1 ? `take ${names[0] ?? ''} off the desk` : 'clear the desk')
  }

  /** Does something to one or more files, as one step of the history. Changes that change nothing are left out. */
  change(
    changes: readonly FileChange[],
    says: string,
    { isTyping = false, now = Date.now() }: { readonly isTyping?: boolean; readonly now?: number } = {},
  ): void {
    const real = changes.filter(({ before, after }) => before !== after)
    if (real.length === 0) return
    const step: Step = { says, changes: real, at: now, isTyping }
    this.#apply(real, withStep(this.#state.history, step))
  }

  /** Gives one file another text, as one step of the history. */
  write(file: string, text: string, says: string, isTyping = false): void {
    const before = this.#state.files[file]
    if (before !== undefined) this.change([{ file, before, after: text }], says, { isTyping })
  }

  /** Takes the last step back, and looks at what it changed. */
  undo(): void {
    const back = undone(this.#state.history)
    if (back) this.#apply(back.changes, { ...this.#state.history, done: this.#state.history.done - 1 }, true)
  }

  /** Does again what was taken back last. */
  redo(): void {
    const again = redone(this.#state.history)
    if (again) this.#apply(again.changes, { ...this.#state.history, done: this.#state.history.done + 1 }, true)
  }

  /** A file was written somewhere as it is now. */
  markSaved(names: readonly string[]): void {
    const now = Object.fromEntries(names.map((name) => [name, this.text(name)]))
    this.#set({ saved: { ...this.#state.saved, ...now } })
  }

  /** From here on a file is compared with what it is now. */
  compareFromHere(file: string): void {
    this.#set({ baseline: { ...this.#state.baseline, [file]: this.text(file) } })
  }

  #apply(changes: readonly FileChange[], history: History, shows = false): void {
    const files = withChanges(this.#state.files, changes)
    const shown = shows ? changes.find(({ after }) => after !== null)?.file : undefined
    const wanted = shown ?? this.#state.open
    const open = wanted !== null && Object.hasOwn(files, wanted) ? wanted : (inOrder(files)[0]?.name ?? null)
    this.#set({ files, history, open })
  }
}

/** The files that are not saved as they are. */
export function unsaved({ files, saved }: DeskState): string[] {
  return Object.keys(files).filter((name) => files[name] !== saved[name])
}

/** The level to show beside a file: itself, or for a project its first level, for a walkthrough the one that it is for. */
export function levelFor({ files, open }: Pick<DeskState, 'files' | 'open'>): string | null {
  if (open === null) return null
  const text = files[open] ?? ''
  const kind = kindOf(open, text)
  const levels = inOrder(files).filter((one) => one.kind === 'level')
  if (kind === 'level') return open
  if (kind === 'walkthrough') {
    const [, named] = /^\s*level\s*:\s*["']?([^"'#\n]+?)["']?\s*(?:#.*)?$/m.exec(text) ?? []
    const found = levels.find(({ name }) => named !== undefined && name.endsWith(named.replace(/^\.\//, '')))
    if (found) return found.name
    // A walkthrough is called as its level, with what it is about behind that.
    const stem = (name: string): string => name.slice(name.lastIndexOf('/') + 1).split('.')[0] ?? ''
    return levels.find(({ name }) => stem(name) === stem(open))?.name ?? levels[0]?.name ?? null
  }
  return levels[0]?.name ?? null
}

import type { FileReport } from '../findings/index.ts'

/** Everything that a command needs from the process it runs in: so that tests can run it in theirs. */
export interface World {
  /** Writes to standard output. */
  out(text: string): void
  /** Writes to standard error. */
  err(text: string): void
  /** Whether standard output may have colours. */
  readonly colours: boolean
  /** Where standard error shows progress: its columns; null where it is not a terminal. */
  readonly progressColumns: number | null
  /** Columns to wrap text at. */
  readonly columns: number
  /** The text of a file, or of standard input for `-`; throws with a reason for people. */
  readText(file: string): Promise<string>
  /** The YAML and JSON files of a folder, or those that a pattern such as `levels/*.yaml` fits, sorted; null for anything else. */
  find(what: string): Promise<readonly string[] | null>
  /** Writes a file whole, or not at all; throws with a reason for people. */
  writeText(file: string, text: string): Promise<void>
  /**
   * Writes a file whole where what is in it is still `before`; first does what must be done beforehand. Throws with a
   * reason for people, with nothing done, where the file has changed.
   */
  replaceText(file: string, before: string, text: string, beforehand: () => Promise<void>): Promise<void>
  /** Whether there is a file or a folder of that name. */
  exists(file: string): Promise<boolean>
  /** Deletes a file. */
  remove(file: string): Promise<void>
  /** How files are now: the same as before where none of them was saved in between. */
  stamp(files: readonly string[]): Promise<string>
  /** Comes back once files are no longer as they were, or when the person at the keyboard interrupts. */
  changed(files: readonly string[], stamp: string): Promise<void>
  /** Asks the person at the keyboard yes or no; null where there is nobody to ask. */
  ask(question: string): Promise<boolean | null>
  /** The page about a rule, in Markdown. */
  page(rule: string): Promise<string>
  now(): number
  pause(): Promise<void>
  /** Threads that many files are shared out to; null: there are none. */
  readonly helpers: Helpers | null
  /** Whether progress is told by somebody else. */
  readonly isSilent: boolean
  /** Aborted when the person at the keyboard interrupts. */
  readonly signal: { readonly aborted: boolean }
}

/** A file that was checked, and its text. */
export interface Checked {
  readonly report: FileReport
  readonly text: string
}

/** How far checks go. */
export interface Limits {
  /** The most situations that are looked at. */
  readonly budget: number
  /** Whether no changes are tried with which goals could be met. */
  readonly quick: boolean
  /** Whether it is found out how much time there is to spare. */
  readonly margins: boolean
}

/** A file that is to be checked in another thread. */
export interface HelpTask {
  readonly file: string
  readonly text: string
  readonly limits: Limits
  /** What the world of the first thread is like, as far as it has a say in what is written. */
  readonly columns: number
  readonly colours: boolean
}

/** What came of it: what was checked, in order, and what is to be written to standard error. */
export interface HelpDone {
  readonly checked: readonly Checked[]
  readonly err: string
}

/** Other threads that check files. */
export interface Helpers {
  /** How many at a time are worth having. */
  readonly most: number
  start(): Helper
}

/** A thread that checks one file after the other, a project as a whole. */
export interface Helper {
  check(file: string, text: string, limits: Limits): Promise<HelpDone>
  /** Ends the check that is going on with what is known. */
  interrupt(): void
  end(): Promise<void>
}

/** The version of the command. */
export const version = '0.1.0'

/** Exit codes: what a command found. */
export const exit = { clean: 0, findings: 1, unusable: 2, undecided: 3, internal: 70, interrupted: 130 } as const

/** A reason, in words, why a command cannot go on; ends it with exit code 2. */
export class Unusable extends Error {}

/** The same world, in which each file is read once, however often it is asked for: a pipe has its text only once. */
export function readingOnce(world: World): World {
  const read = new Map<string, Promise<string>>()
  return {
    ...world,
    readText: (file) => {
      const text = read.get(file) ?? world.readText(file)
      read.set(file, text)
      return text
    },
  }
}

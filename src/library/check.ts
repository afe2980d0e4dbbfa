import type { Progress } from '../explore/index.ts'
import {
  check as checked,
  checkProject as checkedProject,
  type FileReport,
  rules as allRules,
  type Severity,
} from '../findings/index.ts'
import type { Expanded } from '../interactables/index.ts'
import { finish } from '../model/index.ts'
import type { Project } from '../play/index.ts'
import { type AnyLevel, expandedOf, readingOf } from './prepared.ts'

/** How a check may be limited, and what stands round the level. */
export interface CheckOptions {
  /** The most situations that are looked at; 2,000,000 where it is left out. */
  readonly budget?: number | undefined
  /** Whether findings are grouped under their causes, which takes longest; they are where it is left out. */
  readonly grouping?: boolean | undefined
  /**
   * Whether no changes are tried with which goals that cannot be met, or can be lost, could be; they are where it is left out, which takes
   * about as long again.
   */
  readonly quick?: boolean | undefined
  /** Whether the time to spare on the way to each goal is worked out; it is not where it is left out. */
  readonly margins?: boolean | undefined
  /** The project that the level belongs to, what it is called there, and all its levels; it is checked alone where this is left out. */
  readonly project?:
    | {
        readonly project: Project
        readonly level: string
        readonly levels: Readonly<Record<string, AnyLevel>>
      }
    | undefined
}

/**
 * Checks a level: plays and explores it, asks every rule, and groups findings under their causes. A level of a project is looked at by itself,
 * with what the others ask for and give left open: `checkProject` explores them together. A generator that yields every few
 * milliseconds how far it has come, so that it can be paused or left: see `runInSlices`. Throws a `LevelError` where the level
 * cannot be used.
 */
export function check(level: AnyLevel, options: CheckOptions = {}): Generator<Progress, FileReport> {
  const { value, source } = readingOf(level)
  const { project, ...others } = options
  if (!project) return checked(value, source, others)
  return checked(value, source, { ...others, project: { ...project, levels: allExpanded(project.levels) } })
}

/**
 * Checks the levels of a project as one: what is carried from level to level, and where one comes to, is as it is in the project. Reports by the
 * names of the levels. Where the levels cannot be explored as one (more than one character acts in one of them, say), each is checked by itself, and
 * what hangs on the others is undecided. A generator, as `check` is. Throws a `LevelError` where a level cannot be used.
 */
export function* checkProject(
  project: Project,
  levels: Readonly<Record<string, AnyLevel>>,
  options: Omit<CheckOptions, 'project'> = {},
): Generator<Progress, Readonly<Record<string, FileReport>>> {
  const reports = yield* checkedProject(project, allExpanded(levels), options)
  return Object.fromEntries(Object.keys(levels).map((name, i) => [name, reports[i]!]))
}

function allExpanded(levels: Readonly<Record<string, AnyLevel>>): Record<string, Expanded> {
  return Object.fromEntries(Object.entries(levels).map(([name, one]) => [name, expandedOf(one)]))
}

/** Checks a level to the end, without a pause; see `check`. */
export function checkNow(level: AnyLevel, options: CheckOptions = {}): FileReport {
  return finish(check(level, options))
}

/** The rules that a check asks, in the order in which it does, with how bad what they find is. */
export const rules: readonly { readonly name: string; readonly severity: Severity }[] = allRules.map(
  ({ name, severity }) => ({ name, severity }),
)

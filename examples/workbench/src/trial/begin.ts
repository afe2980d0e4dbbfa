import {
  type FileReport,
  layOutLevel,
  type LevelPlay,
  prepareLevel,
  runInSlices,
  runWalkthrough,
  startPlay,
  startProject,
} from 'zintel'
import { readLevel, readProject, readWalkthrough } from 'zintel/yaml'
import { levelFor } from '../desk/desk.ts'
import { commonOf, kindOf, membersOf } from '../desk/files.ts'
import type { Files } from '../desk/history.ts'
import { type ScriptStep, scriptOfWalkthrough } from './script.ts'
import type { Begun } from './use-trial.ts'

/** Where a play of a project begins: at one of its starts in the level, if it has one; at its usual start; or at one by its name. */
export type From = 'this-level' | 'usual-start' | { readonly start: string }

/** Where the steps of a finding begin, of a level that was explored by itself or together with others. */
export function fromOf(report: FileReport | null, steps: FileReport['findings'][number]['steps']): From {
  const [first] = steps
  if (first?.do === 'start') return { start: first.at }
  return (report?.together ?? []).length > 0 ? 'usual-start' : 'this-level'
}

/**
 * A way to begin a play of a level, or of its project where that begins in the level or anywhere else that is asked for; tried once so
 * that what is wrong is told at once.
 */
export async function begun(files: Files, file: string, from: From): Promise<Begun> {
  try {
    const prepared = (name: string) => prepareLevel(readLevel(files[name] ?? '', name, commonOf(files, name)))
    const level = prepared(file)
    await runInSlices(layOutLevel(level), { now: () => performance.now(), pause: nextTask })
    const inProject = projectBegun(files, file, from, prepared)
    const begin = inProject ?? (() => startPlay(level, 0, true))
    begin()
    return { begin, why: null }
  } catch (error) {
    return { begin: null, why: error instanceof Error ? error.message : String(error) }
  }
}

/** Lets the page have its turn. */
function nextTask(): Promise<void> {
  return new Promise((done) => setTimeout(done, 0))
}

/** A way to begin the project that a level belongs to; null where it does not begin there, or there is none that can be played. */
function projectBegun(
  files: Files,
  file: string,
  from: From,
  prepared: (name: string) => ReturnType<typeof prepareLevel>,
): (() => LevelPlay) | null {
  for (const [name, text] of Object.entries(files)) {
    if (kindOf(name, text) !== 'project') continue
    const project = readProject(text, name)
    const { value } = project
    if (!value) continue
    const members = membersOf(name, value.levels)
    const own = members.find((one) => one.file === file)?.name
    if (own === undefined || members.some((one) => !Object.hasOwn(files, one.file))) continue
    const starts = typeof value.start === 'string' ? null : Object.entries(value.start)
    const here = starts?.find(([, { level }]) => level === own)?.[0] ?? null
    const isHere = starts === null ? value.start === own : here !== null
    if (from === 'this-level' && !isHere) continue
    const start = from === 'this-level' ? here : from === 'usual-start' ? null : from.start
    try {
      const levels = Object.fromEntries(members.map((one) => [one.name, prepared(one.file)]))
      startProject(project, levels, start)
      return () => startProject(project, levels, start)
    } catch {
      return null
    }
  }
  return null
}

/** The steps of a walkthrough, to be watched; or why they cannot be. */
export function stepsOfWalkthrough(
  files: Files,
  name: string,
  file: string | null,
): { readonly steps: ScriptStep[]; readonly why: null } | { readonly steps: null; readonly why: string } {
  const of = levelFor({ files, open: name }) ?? file
  if (of === null) return { steps: null, why: 'There is no level for this walkthrough on the desk.' }
  try {
    const level = prepareLevel(readLevel(files[of] ?? '', of, commonOf(files, of)))
    const reading = readWalkthrough(files[name] ?? '', name, level)
    const { value, diagnostics } = reading
    if (!value) return { steps: null, why: diagnostics[0]?.message ?? 'The walkthrough cannot be read.' }
    const { characters } = level.contents
    const first = (characters.find(({ role }) => role === 'player') ?? characters[0])?.name ?? ''
    const ends = runWalkthrough(level, reading).steps.map(({ at }) => at)
    return { steps: scriptOfWalkthrough(value.steps, first, ends), why: null }
  } catch (error) {
    return { steps: null, why: error instanceof Error ? error.message : String(error) }
  }
}

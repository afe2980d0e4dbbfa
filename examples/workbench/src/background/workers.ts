import { proxy, type Remote, wrap } from 'comlink'
import type { FileReport, Progress } from 'zintel'
import type { Files } from '../desk/history.ts'
import type { CheckWish, WorkApi } from './worker.ts'

function begin(): { readonly worker: Worker; readonly api: Remote<WorkApi> } {
  const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
  return { worker, api: wrap<WorkApi>(worker) }
}

const reading = begin()
let checking: ReturnType<typeof begin> | null = null
let checkingOthers: ReturnType<typeof begin> | null = null
let planning: ReturnType<typeof begin> | null = null
let comparing: ReturnType<typeof begin> | null = null

/** Reads and draws: answers are quick, and never wait for a check. */
export const reader = reading.api

/** Checks a level beside everything else; null where it was stopped, or another check was asked for. */
export function checkLevel(
  files: Files,
  file: string,
  wish: CheckWish,
  onProgress: (progress: Progress) => void,
): Promise<FileReport | null> {
  checking ??= begin()
  return checking.api.check(files, file, wish, proxy(onProgress))
}

/** What was found in levels that are not open, and what that hangs on. */
const known = new Map<string, { readonly on: string; readonly report: FileReport }>()

/** The same for a level that is not open, beside the check of the one that is; at once where nothing has changed that it hangs on. */
export async function checkOther(files: Files, file: string, wish: CheckWish): Promise<FileReport | null> {
  checkingOthers ??= begin()
  const { api } = checkingOthers
  const on = JSON.stringify([wish, await api.dependsOn(files, file, wish.together)])
  const before = known.get(file)
  if (before?.on === on) return before.report
  const nothing = proxy(() => undefined)
  const report = await api.check(files, file, wish, nothing)
  if (report) known.set(file, { on, report })
  return report
}

/** What the way to a goal needs, found beside checks; null where another was asked for meanwhile. */
export function needsOf(files: Files, file: string, goal: string): ReturnType<Remote<WorkApi>['needs']> {
  planning ??= begin()
  return planning.api.needs(files, file, goal)
}

export function stopChecking(): void {
  if (checking) void checking.api.stop()
}

/** The report of a level with the time to spare on the way to its goals, made beside checks; null where it cannot be made. */
export function reportOf(files: Files, file: string): Promise<FileReport | null> {
  comparing ??= begin()
  return comparing.api.checkOnce(files, file)
}

import { useEffect, useRef, useState } from 'react'
import type { FileReport, Progress } from 'zintel'
import { kindOf } from './desk/files.ts'
import type { Files } from './desk/history.ts'
import { checkLevel, checkOther, stopChecking } from './background/workers.ts'

/** How far a check has come, and what is known so far. */
export interface CheckState {
  readonly report: FileReport | null
  /** Whether the report is grouped by cause, with changes tried; else it is of the first, quick look. */
  readonly isWhole: boolean
  /** Whether the report is for a text that is no longer there. */
  readonly isOld: boolean
  /** Whether a check goes on; how far it has come is told by its progress. */
  readonly running: boolean
  readonly trouble: string | null
  /** How long it took until the first answers, in milliseconds. */
  readonly ms: number
}

const nothing: CheckState = { report: null, isWhole: false, isOld: false, running: false, trouble: null, ms: 0 }

/** How far a check has come: told often, to whoever listens, and to nobody else. */
export class CheckProgress {
  #now = { share: 0, says: '' }
  readonly #listeners = new Set<() => void>()

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener)
    return () => {
      this.#listeners.delete(listener)
    }
  }

  readonly snapshot = (): { readonly share: number; readonly says: string } => this.#now

  set(share: number, says: string): void {
    this.#now = { share, says }
    for (const listener of [...this.#listeners]) listener()
  }
}

/** How long nothing is typed before a check begins, in milliseconds. */
const quiet = 150

/** Checks a level beside everything else, whenever its text, or that of the project round it, changes. */
export function useCheck(
  files: Files,
  file: string | null,
  canBeRead: boolean,
): CheckState & { readonly progress: CheckProgress; readonly again: () => void; readonly stop: () => void } {
  const [state, setState] = useState<CheckState>(nothing)
  const [round, setRound] = useState(0)
  const checked = useRef<string | null>(null)
  const run = useRef(0)
  const [progress] = useState(() => new CheckProgress())
  // What a check looks at: the levels, their project, and what they have in common.
  const text =
    file === null ? '' : JSON.stringify(Object.entries(files).filter(([name]) => !name.includes('.walkthrough.')))
  useEffect(() => {
    const own = ++run.current
    if (file === null) {
      setState(nothing)
      return
    }
    if (checked.current !== file) setState(nothing)
    checked.current = file
    if (!canBeRead) {
      stopChecking()
      setState((before) => ({ ...before, running: false }))
      return
    }
    setState((before) => ({
      ...before,
      isOld: before.report !== null,
      trouble: null,
      running: true,
    }))
    const timer = window.setTimeout(() => {
      void answer(files, file)
    }, quiet)
    async function answer(all: Files, of: string): Promise<void> {
      const began = performance.now()
      const isOwn = (): boolean => own === run.current
      const tell = (says: string) => (now: Progress) => {
        if (isOwn()) progress.set(shareOf(now), says + detailOf(now))
      }
      progress.set(0, 'Reading …')
      try {
        const looking = { quick: true, grouping: false, together: false }
        const first = await checkLevel(all, of, looking, tell('Looking through it'))
        if (!isOwn()) return
        if (!first) {
          setState((before) => ({ ...before, running: false }))
          return
        }
        const ms = performance.now() - began
        // What hangs on the other levels of a project is still open then.
        const isInProject = Object.entries(all).some(([name, one]) => kindOf(name, one) === 'project')
        const isWhole = first.outcome !== 'checked' || (first.findings.length === 0 && !isInProject)
        setState({
          report: first,
          isWhole,
          isOld: false,
          running: !isWhole,
          trouble: null,
          ms,
        })
        if (isWhole) return
        const whole = await checkLevel(
          all,
          of,
          { quick: false, grouping: true, together: true },
          tell('Grouping by cause, and trying changes'),
        )
        if (isOwn() && whole)
          setState({
            report: whole,
            isWhole: true,
            isOld: false,
            running: false,
            trouble: null,
            ms: performance.now() - began,
          })
      } catch (error) {
        if (!isOwn()) return
        const why = error instanceof Error ? error.message : String(error)
        setState((before) => ({ ...before, running: false, trouble: `It could not be checked: ${why}` }))
      }
    }
    return () => {
      window.clearTimeout(timer)
    }
    // The files are in the text.
  }, [text, file, canBeRead, round])
  return {
    ...state,
    progress,
    again: () => {
      setRound((before) => before + 1)
    },
    stop: () => {
      run.current++
      stopChecking()
      setState((before) => ({ ...before, running: false }))
    },
  }
}

const order: readonly Progress['doing'][] = [
  'laying out',
  'exploring',
  'replaying',
  'judging',
  'grouping',
  'trying fixes',
]

/** How much of a check is behind one, told by what it is doing: how long each part takes is not known. */
function shareOf({ doing }: Progress): number {
  return (order.indexOf(doing) + 0.5) / order.length
}

function detailOf({ doing, situations }: Progress): string {
  return ` (${doing}, ${situations.toLocaleString('en')} situations)`
}

/** What was found in another level on the desk; null while it is not known yet. */
export interface OtherLevel {
  readonly file: string
  readonly report: FileReport | null
}

/**
 * Checks the other levels on the desk beside the one that is open: what is changed in one may be found in another. First answers for all of them
 * come before any is grouped by cause.
 */
export function useOthers(files: Files, file: string | null, canBeRead: boolean): readonly OtherLevel[] {
  const [known, setKnown] = useState<ReadonlyMap<string, FileReport>>(new Map())
  const own = useRef(0)
  const others = Object.keys(files).filter((name) => name !== file && kindOf(name, files[name] ?? '') === 'level')
  const text = JSON.stringify(Object.entries(files).filter(([name]) => !name.includes('.walkthrough.')))
  useEffect(() => {
    const run = ++own.current
    setKnown((before) => (before.size === 0 ? before : new Map()))
    if (!canBeRead || others.length === 0) return
    const timer = window.setTimeout(() => {
      void answer()
    }, quiet)
    const isInProject = Object.entries(files).some(([name, one]) => kindOf(name, one) === 'project')
    async function answer(): Promise<void> {
      let left: readonly string[] = others
      for (const grouping of [false, true]) {
        const found: string[] = []
        for (const name of left) {
          const report = await checkOther(files, name, { quick: true, grouping, together: grouping }).catch(() => null)
          if (run !== own.current) return
          if (!report) continue
          setKnown((before) => new Map(before).set(name, report))
          if (report.findings.length > 0 || isInProject) found.push(name)
        }
        left = found
      }
    }
    return () => {
      window.clearTimeout(timer)
    }
    // The files are in the text.
  }, [text, file, canBeRead])
  return others.map((name) => ({ file: name, report: known.get(name) ?? null }))
}

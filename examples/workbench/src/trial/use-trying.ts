import { type RefObject, useCallback, useState } from 'react'
import type { FileReport, LevelPlay } from 'zintel'
import type { Files } from '../desk/history.ts'
import type { Finding } from '../margin/finding.ts'
import { scriptOf, type ScriptStep } from './script.ts'
import { focusPlan } from './Tape.tsx'
import { useTrial } from './use-trial.ts'

/** Steps of a finding that are shown, and the report that it is in. */
export interface Showing {
  readonly report: FileReport | null
  readonly steps: Finding['steps']
}

/** What is tried: a way to begin, and steps that are played, if any. */
interface Tried {
  readonly begin: () => LevelPlay
  readonly steps: readonly ScriptStep[] | null
}

/** What the desk holds at this moment, also while something is waited for. */
export interface Now {
  readonly files: Files
  readonly file: string | null
}

/** How the rest of the desk hears of it. */
export interface Hearing {
  /** Why something cannot be played; null: it can. */
  readonly onTrouble: (why: string | null) => void
  /** A play has begun; of a finding, or by hand. */
  readonly onBegun: (of: Showing | null) => void
}

/** Trying the level out: by hand, along a walkthrough, or along the steps of a finding. */
export function useTrying(now: RefObject<Now>, { onTrouble, onBegun }: Hearing) {
  const [tried, setTried] = useState<Tried | null>(null)
  const [isBeginning, setBeginning] = useState(false)
  const trying = useTrial(tried?.begin ?? null, tried?.steps ?? null)
  const begin = useCallback(
    (steps: readonly ScriptStep[] | null, of: Showing | null = null): void => {
      void (async () => {
        const { begun, fromOf } = await import('./begin.ts')
        const { files, file } = now.current
        if (file === null) return
        setBeginning(true)
        const { begin: play, why } = await begun(files, file, of === null ? 'this-level' : fromOf(of.report, of.steps))
        setBeginning(false)
        if (now.current.file !== file) return
        onTrouble(why)
        if (play === null) return
        setTried({ begin: play, steps: of === null ? steps : scriptOf(of.steps) })
        focusPlan()
        onBegun(of)
      })()
    },
    [now, onTrouble, onBegun],
  )
  const watch = useCallback(
    (name: string): void => {
      void import('./begin.ts').then(({ stepsOfWalkthrough }) => {
        const { files, file } = now.current
        const { steps, why } = stepsOfWalkthrough(files, name, file)
        if (steps === null) onTrouble(why)
        else begin(steps)
      })
    },
    [now, onTrouble, begin],
  )
  const stop = useCallback((): void => {
    setTried(null)
  }, [])
  return { trying, isBeginning, begin, watch, stop }
}

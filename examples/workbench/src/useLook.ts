import { useEffect, useRef, useState } from 'react'
import type { Files } from './desk/history.ts'
import type { Covered, LevelLook, Look } from './background/look.ts'
import { reader } from './background/workers.ts'

/** What the text says, and the last of it that could be drawn. */
export interface Looked {
  /** What the file that is open says; null until it was read. */
  readonly look: Look | null
  /** The level, as it could be read last; null where it never could. */
  readonly level: LevelLook | null
  /** What the level's own file says. */
  readonly levelSpans: Look['spans']
  /** Whether the level's text can no longer be read, so that `level` is of an earlier one. */
  readonly isOld: boolean
  readonly covered: Covered
}

const nothing: Looked = { look: null, level: null, levelSpans: {}, isOld: false, covered: {} }

/** How long nothing changes before what ranges cover is worked out anew, in milliseconds. */
const quiet = 250

/** Reads the file that is open, and the level that it is about, beside everything else. */
export function useLook(files: Files, open: string | null, file: string | null): Looked {
  const [looked, setLooked] = useState<Looked>(nothing)
  const run = useRef(0)
  const of = useRef<string | null>(null)
  useEffect(() => {
    const own = ++run.current
    if (open === null) {
      setLooked(nothing)
      return
    }
    let timer = 0
    void (async () => {
      const look = await reader.look(files, open)
      const levelLook = file === null || file === open ? look : await reader.look(files, file)
      if (own !== run.current) return
      const isOther = of.current !== file
      of.current = file
      setLooked((before) => ({
        look,
        level: levelLook.level ?? (isOther ? null : before.level),
        levelSpans: levelLook.spans,
        isOld: levelLook.level === null,
        covered: isOther ? {} : before.covered,
      }))
      if (file === null || levelLook.level === null) return
      timer = window.setTimeout(() => {
        void reader.cover(files, file).then((covered) => {
          if (covered && own === run.current) setLooked((before) => ({ ...before, covered }))
        })
      }, quiet)
    })()
    return () => {
      window.clearTimeout(timer)
    }
  }, [files, open, file])
  return looked
}

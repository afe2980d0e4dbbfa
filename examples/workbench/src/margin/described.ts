import { useEffect, useState } from 'react'
import type { InteractableSheet } from 'zintel'
import { reader } from '../background/workers.ts'
import type { Files } from '../desk/history.ts'
import type { OwnType } from './Machine.tsx'

export interface Described {
  readonly sheet: InteractableSheet
  readonly machine: string
  readonly own: OwnType | null
  /** The path of what it is about. */
  readonly of: string
}

/** What is to be said of the thing that is selected, and its machine. */
export function useDescribed(
  files: Files,
  file: string | null,
  selected: string | null,
  canBeRead: boolean,
): Described | null {
  const [described, setDescribed] = useState<Described | null>(null)
  useEffect(() => {
    if (file === null || !canBeRead || !selected?.startsWith('interactables.')) {
      if (!selected?.startsWith('interactables.')) setDescribed(null)
      return
    }
    let isWanted = true
    reader.describe(files, file, selected.slice(14)).then(
      (answer) => {
        if (isWanted) setDescribed({ ...answer, of: selected })
      },
      () => {
        if (isWanted) setDescribed(null)
      },
    )
    return () => {
      isWanted = false
    }
  }, [files, file, selected, canBeRead])
  return described?.of === selected ? described : null
}

/** The machine with the state lit that it is in, where one tries the level. */
export function useMachine(
  files: Files,
  file: string | null,
  name: string | null,
  state: string | null,
  plain: string | null,
): string | null {
  const [lit, setLit] = useState<{ readonly key: string; readonly svg: string } | null>(null)
  const key = `${String(name)} ${String(state)}`
  useEffect(() => {
    if (file === null || name === null || state === null) return
    let isWanted = true
    reader.machine(files, file, name, state).then(
      (svg) => {
        if (isWanted) setLit({ key, svg })
      },
      () => undefined,
    )
    return () => {
      isWanted = false
    }
  }, [files, file, name, state, key])
  return state !== null && lit?.key === key ? lit.svg : plain
}

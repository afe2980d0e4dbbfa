import { get, set } from 'idb-keyval'
import { type Desk, type DeskState, emptyDesk } from './desk.ts'
import { emptyHistory } from './history.ts'

const key = 'desk'

/** How long the desk is quiet before it is kept, in milliseconds. */
const quiet = 300

/** How much text of the history is kept across a reload, in characters. */
const mostHistory = 4_000_000

/** What was kept in this browser; an empty desk where nothing was, or what was kept cannot be used. */
export async function keptDesk(): Promise<DeskState> {
  try {
    const kept = await get<Partial<DeskState>>(key)
    if (!kept?.files || typeof kept.files !== 'object') return emptyDesk
    return { ...emptyDesk, ...kept }
  } catch {
    return emptyDesk
  }
}

/** Keeps the desk in this browser, whenever it changes. `onTrouble` is told where that fails, as when there is no room. */
export function keepDesk(desk: Desk, onTrouble: (message: string | null) => void): () => void {
  let timer = 0
  const keep = (): void => {
    const { state } = desk
    const size = state.history.steps.reduce(
      (sum, { changes }) =>
        sum + changes.reduce((own, { before, after }) => own + (before?.length ?? 0) + (after?.length ?? 0), 0),
      0,
    )
    set(key, size > mostHistory ? { ...state, history: emptyHistory } : state).then(
      () => {
        onTrouble(null)
      },
      () => {
        onTrouble('This browser cannot keep the desk across a reload. Save your files before you leave the page.')
      },
    )
  }
  const end = desk.subscribe(() => {
    window.clearTimeout(timer)
    timer = window.setTimeout(keep, quiet)
  })
  const now = (): void => {
    window.clearTimeout(timer)
    keep()
  }
  window.addEventListener('pagehide', now)
  return () => {
    end()
    window.removeEventListener('pagehide', now)
  }
}

import type { Placed } from '../../interactables/index.ts'
import { nearestName } from '../../model/index.ts'
import type { Stage } from '../../play/index.ts'

/** A place where a signal is sent: to one interactable, to those that bear a tag, or to all. */
export interface Sender {
  readonly signal: number
  readonly by: Placed
  readonly row: number
  readonly path: string
  readonly interactable: number | null
  readonly tag: number | null
}

/** A place where a signal is waited for. */
export interface Listener {
  readonly signal: number
  readonly by: Placed
  readonly row: number
  readonly path: string
}

/** All places where signals are sent and waited for, in file order. */
export function signalsOf({ tables, expanded }: Stage): { readonly sent: Sender[]; readonly heard: Listener[] } {
  const sent: Sender[] = []
  const heard: Listener[] = []
  for (const { index: row, machine, transition } of tables.rows) {
    const by = expanded.interactables[machine]!
    for (const change of transition.changes) {
      if (change.kind === 'send') sent.push({ ...change, by, row })
    }
    if (transition.when.kind === 'signal') heard.push({ ...transition.when, by, row })
  }
  return { sent, heard }
}

/** Whether a signal that is sent could come to one that waits for it. */
export function reaches(sender: Sender, listener: Listener): boolean {
  if (sender.signal !== listener.signal) return false
  if (sender.interactable !== null) return sender.interactable === listener.by.index
  return sender.tag === null || listener.by.tags.includes(sender.tag)
}

/** The nearest name to that of a signal among others; null where none is near. */
export function nearestSignal({ expanded }: Stage, signal: number, others: Iterable<number>): string | null {
  const names = [...new Set(others)].filter((one) => one !== signal).map((one) => expanded.signals[one]!)
  return nearestName(expanded.signals[signal]!, names)
}

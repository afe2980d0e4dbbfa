import type { FileChange } from './desk/history.ts'
import { type Finding, keyOf } from './margin/finding.ts'
import type { Spot } from './sheet/view.ts'

/** A line to mark in the text. */
export interface BookNote {
  readonly from: number
  readonly to: number
  readonly severity: 'error' | 'warning' | 'info'
  readonly message: string
}

/** A mark on the plan: the number of a finding, at what it is about. */
export interface SheetMark {
  readonly key: string
  readonly at: Spot
  readonly text: string
  /** What is to be said of this spot; empty where the number says enough. */
  readonly says: string
  readonly isChosen: boolean
  readonly sign: 'error' | 'warning' | 'advice'
  /** How many other marks are at the same spot before it: it is put beside them. */
  readonly shift: number
}

/** Numbers of findings, at what they are about; of the one that is chosen, the spots that show it too. */
export function marksOf(
  findings: readonly Finding[],
  chosen: string | null,
  shapes: readonly { readonly kind: string; readonly name: string }[],
): SheetMark[] {
  const at = (name: string): Spot | null => {
    const shape = shapes.find(
      (one): one is { kind: 'handle'; name: string; at: Spot } => one.kind === 'handle' && one.name === name,
    )
    return shape?.at ?? null
  }
  const taken = new Map<string, number>()
  return findings.flatMap((one, i): SheetMark[] => {
    const key = keyOf(one)
    const isChosen = key === chosen
    const own = one.about === null ? null : at(one.about)
    const spots = isChosen ? one.spots : own ? [] : one.spots.slice(0, 1)
    const all = [...(own ? [{ at: own, text: '' }] : []), ...spots]
    return all.map((spot) => {
      const place = JSON.stringify(spot.at)
      const before = taken.get(place) ?? 0
      taken.set(place, before + 1)
      return { key, at: spot.at, text: String(i + 1), says: spot.text, isChosen, sign: one.severity, shift: before }
    })
  })
}

export function noteOf({ place, severity, message, rule }: Finding, text: string): BookNote[] {
  if (place?.line == null) return []
  const from = offsetOf(text, place.line) + (place.column ?? 1) - 1
  const word = /^[^\s,\]}:]+/.exec(text.slice(from, from + 200))?.[0].length ?? 1
  return [
    { from, to: from + word, severity: severity === 'advice' ? 'info' : severity, message: `${rule}: ${message}` },
  ]
}

export function offsetOf(text: string, line: number): number {
  let from = 0
  for (let at = 1; at < line; at++) from = text.indexOf('\n', from) + 1
  return from
}

/** The part that a position in the text belongs to; null: none. */
export function pathAt(spans: Readonly<Record<string, readonly [number, number]>>, at: number): string | null {
  return (
    Object.entries(spans).find(
      ([path, [from, to]]) =>
        at >= from && at <= to && /^(?:rooms|doorways|obstacles|places|interactables|characters)\./.test(path),
    )?.[0] ?? null
  )
}

/** Where a change has put a text that is still to be written; null: nowhere. */
export function blankIn(changes: readonly FileChange[]): readonly [number, number] | null {
  for (const { before, after } of changes) {
    const all = [...(after ?? '').matchAll(/\(say here:[^)"]*\)?/g)]
    const fresh = all.find(({ index }) => before?.slice(index, index + 10) !== '(say here:')
    if (fresh) return [fresh.index, fresh.index + fresh[0].length]
  }
  return null
}

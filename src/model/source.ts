import type { Diagnostic, Place } from './diagnostics.ts'

/** A part of a text: offsets from 0, the end not included. */
export interface Span {
  readonly start: number
  readonly end: number
}

/** A text that was read, the plain value in it, and where in the text each part of the value stands. */
export interface Source {
  readonly file: string | null
  readonly text: string
  /** The plain value; undefined where `diagnostics` is not empty. */
  readonly value: unknown
  readonly diagnostics: readonly Diagnostic[]
  /** The place of a path's value, or of the nearest part round it that is there. */
  place(path: string): Place
  /** The place of the key that a path ends in, or else of its value. */
  keyPlace(path: string): Place
  /** The span of the value at a path; null where there is none. */
  span(path: string): Span | null
  /** The span of the key that a path ends in; null where there is none, as for the entries of a list. */
  keySpan(path: string): Span | null
  /** Whether a part stands in another file, which the level has in common with others: it is not changed from here. */
  isElsewhere(path: string): boolean
  /** Whether another text, such as this one after a change, could be read as this was. */
  reads(text: string): boolean
}

/** A source for a value that was made in TypeScript: its places are paths. */
export function valueSource(value: unknown): Source {
  const place = (path: string): Place => ({ file: null, line: null, column: null, path })
  const none = (): null => null
  return {
    file: null,
    text: '',
    value,
    diagnostics: [],
    place,
    keyPlace: place,
    span: none,
    keySpan: none,
    isElsewhere: () => false,
    reads: () => true,
  }
}

/** Joins a path and a key: `join('rooms', 'quay')` is `rooms.quay`. */
export function join(path: string, key: string): string {
  return path === '' ? key : `${path}.${key}`
}

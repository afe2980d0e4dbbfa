/** Where something stands: in a file, in a level value, or both. */
export interface Place {
  /** The file as the caller named it; null for a level made in TypeScript. */
  readonly file: string | null
  /** First line, counted from 1; null without a text. */
  readonly line: number | null
  /** First column, counted from 1; null without a text. */
  readonly column: number | null
  /** Path in the level value, such as `interactables.mill-door.set.lock`; empty for the whole. */
  readonly path: string
}

/**
 * One reason why an input could not be used. Data, not text: `diagnosticText` gives the words.
 * `found`, `expected` and `nearest` are null where they would say nothing.
 */
export interface Diagnostic {
  readonly code:
    | 'not-readable'
    | 'too-large'
    | 'too-deep'
    | 'bad-syntax'
    | 'duplicate-key'
    | 'bad-key'
    | 'unknown-key'
    | 'contradiction'
    | 'missing-key'
    | 'wrong-shape'
    | 'wrong-version'
    | 'wrong-kind'
  readonly place: Place
  /** What is wrong, as a sentence without its place. */
  readonly message: string
  readonly found: string | null
  readonly expected: string | null
  /** The right name that is nearest to what was found. */
  readonly nearest: string | null
}

/** Makes a diagnostic; what is left out of `more` is null. */
export function diagnostic(
  code: Diagnostic['code'],
  place: Place,
  message: string,
  more: Partial<Pick<Diagnostic, 'found' | 'expected' | 'nearest'>> = {},
): Diagnostic {
  return { code, place, message, found: null, expected: null, nearest: null, ...more }
}

/** `file:line:column`, or the file and the path, or the path alone; "the level" where nothing is known. */
export function placeText(place: Place): string {
  if (place.line !== null) {
    return `${place.file ?? 'level'}:${String(place.line)}:${String(place.column ?? 1)}`
  }
  if (place.file !== null) return place.path === '' ? place.file : `${place.file} (${place.path})`
  return place.path === '' ? 'the level' : place.path
}

/** The whole of a diagnostic on one line, its place first. */
export function diagnosticText(problem: Diagnostic): string {
  const parts = [`${printable(placeText(problem.place))}: ${printable(problem.message)}`]
  if (problem.expected !== null) parts.push(`Expected ${problem.expected}.`)
  if (problem.found !== null) parts.push(`Found ${problem.found}.`)
  if (problem.nearest !== null) parts.push(`Did you mean "${problem.nearest}"?`)
  return parts.join(' ')
}

/**
 * The line a place is on, with a mark under its column, indented by two; empty where there is no text or line.
 * Lines longer than 100 characters are cut round the mark.
 */
export function placeFrame(text: string, place: Place): string {
  if (place.line === null) return ''
  const line = text.split(/\r\n|\r|\n/)[place.line - 1]
  if (line === undefined) return ''
  const column = Math.max(0, (place.column ?? 1) - 1)
  const from = Math.max(0, column - 60)
  const shown = printable(line.slice(from, from + 100))
  const number = String(place.line)
  const word = /^(?:[\w-]+|"[^"]*"|'[^']*')?/.exec(shown.slice(column - from))?.[0].length ?? 1
  const mark = '^'.repeat(Math.max(1, word))
  return `  ${number} | ${shown}\n  ${' '.repeat(number.length)} | ${' '.repeat(column - from)}${mark}`
}

/** A value as a message quotes it: JSON, cut at 60 characters, control characters escaped. */
export function quoted(value: unknown): string {
  if (value === undefined) return 'nothing'
  const text = typeof value === 'number' ? String(value) : (JSON.stringify(value) as string | undefined)
  if (text === undefined) return `a ${typeof value}`
  return printable(text.length > 60 ? `${text.slice(0, 57)}...` : text)
}

/** A text with control and formatting characters spelt out, so that it cannot change how others are shown. */
export function printable(text: string): string {
  return text.replace(/\p{Cc}|\p{Cf}/gu, (c) => {
    if (c === '\t') return ' '
    return `\\u{${(c.codePointAt(0) ?? 0).toString(16)}}`
  })
}

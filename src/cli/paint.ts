import picocolors from 'picocolors'
import wrapAnsi from 'wrap-ansi'

/** Colours for text; without them every function gives its text back. */
export interface Paint {
  readonly bold: (text: string) => string
  readonly faint: (text: string) => string
  readonly error: (text: string) => string
  readonly warning: (text: string) => string
  readonly good: (text: string) => string
  readonly place: (text: string) => string
}

/** Colours, or none. */
export function paint(colours: boolean): Paint {
  const c = picocolors.createColors(colours)
  return { bold: c.bold, faint: c.dim, error: c.red, warning: c.yellow, good: c.green, place: c.cyan }
}

/** Breaks a text into lines of at most so many columns, wide characters counted as two, each after an indent. Long words are left whole. */
export function wrapped(text: string, columns: number, indent: string): string {
  const lines = wrapAnsi(text, Math.max(1, columns - indent.length)).split('\n')
  return lines.map((line) => `${indent}${line}`).join('\n')
}

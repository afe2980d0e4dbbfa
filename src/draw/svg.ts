/** Colours that all drawings share. */
export const ink = '#25303b'
/** The ground behind a drawing. */
export const paper = '#f4efe4'

/** Text made safe inside SVG. Characters that XML forbids are left out. */
export function escaped(text: string): string {
  return text
    .replace(/[\p{Cc}\uFFFE\uFFFF]/gu, '')
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
}

/** An SVG element; attributes that are null are left out. Numbers are rounded to a hundredth. */
export function element(
  name: string,
  attributes: Readonly<Record<string, string | number | null>>,
  ...inner: readonly string[]
): string {
  const written = Object.entries(attributes)
    .filter((entry): entry is [string, string | number] => entry[1] !== null)
    .map(([key, value]) => ` ${key}="${typeof value === 'number' ? round(value) : escaped(value)}"`)
    .join('')
  return inner.length === 0 ? `<${name}${written}/>` : `<${name}${written}>${inner.join('')}</${name}>`
}

/** A number rounded to a hundredth, as short as it can be written. */
export function round(value: number): string {
  return String(Math.round(value * 100) / 100)
}

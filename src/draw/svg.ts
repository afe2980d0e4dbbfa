import { escaped } from '../model/index.ts'

/** Colours that all drawings share. */
export const ink = '#25303b'
/** The ground behind a drawing. */
export const paper = '#f4efe4'

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

/** What a drawing is called, what stands under that, and its size in pixels. */
export interface Sheet {
  readonly title: string
  readonly heading: string
  readonly below: string
  readonly width: number
  readonly height: number
}

/** A whole drawing as SVG, with its heading on top. */
export function sheet({ title, heading, below, width, height }: Sheet, ...parts: readonly string[]): string {
  return `${element(
    'svg',
    {
      xmlns: 'http://www.w3.org/2000/svg',
      width,
      height,
      viewBox: `0 0 ${String(Math.ceil(width))} ${String(Math.ceil(height))}`,
      'font-family': 'DejaVu Sans, Verdana, sans-serif',
    },
    element('title', {}, escaped(title)),
    element('rect', { width: '100%', height: '100%', fill: paper }),
    element('text', { x: 20, y: 30, 'font-size': 19, 'font-weight': 700, fill: ink }, escaped(heading)),
    element('text', { x: 20, y: 48, 'font-size': 12, fill: ink }, escaped(below)),
    ...parts,
  )}\n`
}

/** A number rounded to a hundredth, as short as it can be written. */
export function round(value: number): string {
  return String(Math.round(value * 100) / 100)
}

import { memo, useSyncExternalStore } from 'react'
import { border, roundMetres, type Size, type Spot, toScreen, type View } from './view.ts'

/** How far the sheet is being dragged, in pixels: the numbers along it follow, and nothing else has to be drawn again. */
export class Panned {
  by: Spot = [0, 0]
  readonly #listeners = new Set<() => void>()

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener)
    return () => {
      this.#listeners.delete(listener)
    }
  }

  readonly snapshot = (): Spot => this.by

  set(by: Spot): void {
    this.by = by
    for (const listener of [...this.#listeners]) listener()
  }
}

/** The frame of the sheet, with metres along it as on a surveyor's plan. */
export const Border = memo(function Border({
  view: settled,
  size: { width, height },
  panned,
}: {
  readonly view: View
  readonly size: Size
  readonly panned: Panned
}) {
  const [dx, dy] = useSyncExternalStore(panned.subscribe, panned.snapshot)
  const view = { ...settled, x: settled.x + dx, y: settled.y + dy }
  const step = roundMetres(view.scale, 70)
  const first = (low: number): number => Math.ceil(low / step) * step
  const [right, low] = [width - border, height - border]
  const count = (from: number, to: number): number => Math.max(0, Math.min(200, Math.floor((to - from) / step) + 1))
  const west = first((border - view.x) / view.scale)
  const south = first((view.y - low) / view.scale)
  const xs = Array.from({ length: count(west, (right - view.x) / view.scale) }, (_, i) => west + i * step)
  const ys = Array.from({ length: count(south, (view.y - border) / view.scale) }, (_, i) => south + i * step)
  const text = (metres: number): string => String(Math.round(metres * 100) / 100)
  return (
    <g className="border" aria-hidden="true">
      <path
        className="margin"
        d={`M0 0H${String(width)}V${String(height)}H0zM${String(border)} ${String(border)}V${String(low)}H${String(right)}V${String(border)}z`}
      />
      <rect
        className="frame"
        x={border}
        y={border}
        width={Math.max(0, right - border)}
        height={Math.max(0, low - border)}
      />
      {xs.map((metres) => {
        const [x] = toScreen(view, [metres, 0])
        return (
          <g key={metres}>
            <path d={`M${String(x)} ${String(border)}v-5M${String(x)} ${String(low)}v5`} />
            <text x={x} y={height - 8}>
              {text(metres)}
            </text>
          </g>
        )
      })}
      {ys.map((metres) => {
        const [, y] = toScreen(view, [0, metres])
        return (
          <g key={metres}>
            <path d={`M${String(border)} ${String(y)}h-5M${String(right)} ${String(y)}h5`} />
            <text x={13} y={y}>
              {text(metres)}
            </text>
          </g>
        )
      })}
    </g>
  )
})

/** What the sheet shows, to which scale, and where north is. */
export function TitleBlock({
  title,
  view,
  size,
  file,
}: {
  readonly title: string
  readonly view: View
  readonly size: Size
  readonly file: string
}) {
  const bar = roundMetres(view.scale, 60)
  const [width, height] = [Math.min(320, Math.max(230, 40 + title.length * 8, 40 + file.length * 6)), 50]
  const [x, y] = [size.width - border - width, size.height - border - height]
  const end = 14 + bar * view.scale
  return (
    <g transform={`translate(${String(x)} ${String(y)})`} className="title-block" aria-hidden="true">
      <rect width={width} height={height} />
      <text x="12" y="17" className="title">
        {title}
      </text>
      <path d={`M14 31v7M14 35H${String(end)}M${String(end)} 31v7`} />
      <text x={end + 8} y="35.5">
        {bar} m
      </text>
      <g transform={`translate(${String(width - 18)} 26)`}>
        <path className="north" d="M0 -12L5 6L0 2L-5 6z" />
        <text x="0" y="16" className="middle">
          N
        </text>
      </g>
    </g>
  )
}

import { memo, useEffect, useMemo, useState } from 'react'
import { placeLabels, type PlanLabel, type PlanShape } from 'zintel/draw'
import { extentOf, type Size, type View } from './view.ts'

interface LabelsProps {
  readonly shapes: readonly PlanShape[]
  readonly view: View
  readonly size: Size
  readonly still: boolean
  readonly layer: React.RefObject<HTMLCanvasElement | null>
}

/** What lies beyond the sheet on every side and is drawn even so, in pixels: it comes into sight while one drags. */
const beyond = 300

/** How long the scale stays the same before names are put where they fit, in milliseconds. */
const quiet = 160

/**
 * The names of rooms, things and people, where they cover neither one another nor what they name. They are painted: hundreds of texts
 * that a browser keeps apart would cost it more than the rest of the plan.
 */
export const Labels = memo(function Labels({ shapes, view, size, still, layer }: LabelsProps) {
  const scale = useSettled(view.scale, quiet)
  const placed = useMemo(() => placedAt(shapes, scale, still), [shapes, scale, still])
  const [, setTheme] = useState(0)
  // Another theme has other colours.
  useEffect(() => {
    const observer = new MutationObserver(() => {
      setTheme((count) => count + 1)
    })
    observer.observe(document.documentElement, { attributes: true, attributeFilter: ['data-mantine-color-scheme'] })
    return () => {
      observer.disconnect()
    }
  }, [])
  useEffect(() => {
    const context = layer.current?.getContext('2d')
    if (!context) return
    const styles = getComputedStyle(context.canvas)
    const colour = (name: string): string => styles.getPropertyValue(name)
    const ratio = window.devicePixelRatio
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.clearRect(0, 0, context.canvas.width, context.canvas.height)
    // While one zooms, names keep their size and go along with what they name.
    context.setTransform(ratio, 0, 0, ratio, (view.x + beyond) * ratio, (view.y + beyond) * ratio)
    const by = view.scale / scale
    context.textAlign = 'center'
    context.textBaseline = 'middle'
    context.lineJoin = 'round'
    for (const { label, x, y, leader, at } of placed) {
      const isRoom = label.kind === 'room'
      context.font = isRoom
        ? `italic ${String(label.size)}px "DejaVu Serif", Georgia, serif`
        : `${String(label.size)}px "DejaVu Sans", Verdana, sans-serif`
      const [px, py] = [at[0] * by + x - at[0], at[1] * by + y - at[1]]
      if (leader && by === 1) {
        context.strokeStyle = colour('--soft')
        context.lineWidth = 0.8
        context.beginPath()
        context.moveTo(...leader[0])
        context.lineTo(...leader[1])
        context.stroke()
      }
      context.strokeStyle = colour('--room')
      context.lineWidth = 3.5
      context.strokeText(label.text, px, py)
      context.fillStyle = colour(isRoom ? '--soft' : '--ink')
      context.fillText(label.text, px, py)
    }
  })
  const [width, height] = [size.width + 2 * beyond, size.height + 2 * beyond]
  const ratio = window.devicePixelRatio
  return (
    <canvas
      ref={layer}
      className="layer labels"
      aria-hidden="true"
      width={Math.round(width * ratio)}
      height={Math.round(height * ratio)}
      style={{ left: -beyond, top: -beyond, width, height }}
    />
  )
})

/** Names with their places in pixels at a scale, from where the origin of the level is. */
function placedAt(shapes: readonly PlanShape[], scale: number, still: boolean) {
  const [west, , , north] = extentOf(shapes)
  const [x0, y0] = [west * scale - 400, -north * scale - 400]
  const at = ([x, y]: readonly [number, number]) => [x * scale - x0, -y * scale - y0] as const
  const labels = shapes.flatMap((one): PlanLabel[] => {
    switch (one.kind) {
      case 'handle':
        return [{ text: one.name, at: at(one.at), size: 12, gap: 9, kind: 'thing' }]
      case 'place':
        return [{ text: one.name, at: at(one.at), size: 11, gap: 11, kind: 'thing' }]
      case 'start':
        return still ? [] : [{ text: one.name, at: at(one.at), size: 12, gap: one.radius * scale + 4, kind: 'person' }]
      case 'room': {
        const [xs, ys] = [one.outline.map(([x]) => x), one.outline.map(([, y]) => y)]
        const middle = [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2] as const
        const half = [Math.max(...xs) - middle[0], Math.max(...ys) - middle[1]] as const
        const within = [
          Math.max(0, half[0] * scale - one.title.length * 4.4),
          Math.max(0, half[1] * scale - 12),
        ] as const
        return [{ text: one.title, at: at(middle), size: 15, gap: 0, within, kind: 'room' }]
      }
      default:
        return []
    }
  })
  const order = { mark: 0, person: 1, thing: 2, room: 3 }
  const sorted = labels.sort((a, b) => order[a.kind] - order[b.kind])
  const bodies = shapes.flatMap((one) => (one.kind === 'body' ? [one.outline.map(at)] : []))
  const moved = ([x, y]: readonly [number, number]) => [x + x0, y + y0] as const
  // What names more than there is room for is not put down: zooming in brings it back.
  return placeLabels(sorted, { width: 1e6, height: 1e6 }, bodies).map(({ label, x, y, leader }) => ({
    label,
    x: x + x0,
    y: y + y0,
    at: moved(label.at),
    leader: leader && ([moved(leader[0]), moved(leader[1])] as const),
  }))
}

/** A value once it has stayed the same for a while. */
function useSettled(value: number, ms: number): number {
  const [settled, setSettled] = useState(value)
  useEffect(() => {
    const timer = window.setTimeout(() => {
      setSettled(value)
    }, ms)
    return () => {
      window.clearTimeout(timer)
    }
  }, [value, ms])
  return settled
}

import { memo, useMemo } from 'react'
import { placeLabels, type PlanLabel, type PlanShape } from 'zintel/draw'
import { extentOf } from './view.ts'

interface LabelsProps {
  readonly shapes: readonly PlanShape[]
  /** Pixels a metre for which names were put where they are. */
  readonly scale: number
  readonly still: boolean
}

/** The names of rooms, things and people, where they cover neither one another nor what they name. */
export const Labels = memo(function Labels({ shapes, scale, still }: LabelsProps) {
  const placed = useMemo(() => {
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
          return still
            ? []
            : [{ text: one.name, at: at(one.at), size: 12, gap: one.radius * scale + 4, kind: 'person' }]
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
    // What names more than there is room for is not put down: zooming in brings it back.
    const order = { mark: 0, person: 1, thing: 2, room: 3 }
    const sorted = labels.sort((a, b) => order[a.kind] - order[b.kind])
    const bodies = shapes.flatMap((one) => (one.kind === 'body' ? [one.outline.map(at)] : []))
    const bounds = { width: 1e6, height: 1e6 }
    return placeLabels(sorted, bounds, bodies).map((one) => ({ ...one, x: one.x + x0, y: one.y + y0, dx: x0, dy: y0 }))
  }, [shapes, scale, still])
  const k = 1 / scale
  return (
    <g transform={`scale(${String(k)} ${String(-k)})`} className="labels" aria-hidden="true">
      {placed.map(({ label, x, y, leader, dx, dy }) => (
        <g key={`${label.kind} ${label.text}`} className={`label ${label.kind}`}>
          {leader && (
            <line x1={leader[0][0] + dx} y1={leader[0][1] + dy} x2={leader[1][0] + dx} y2={leader[1][1] + dy} />
          )}
          <text x={x} y={y} fontSize={label.size}>
            {label.text}
          </text>
        </g>
      ))}
    </g>
  )
})

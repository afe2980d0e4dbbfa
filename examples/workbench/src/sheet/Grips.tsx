import type { PlanShape } from 'zintel/draw'
import type { Spot } from './view.ts'

/** What is dragged by a grip, and whose it is. */
export type GripDrag =
  | { readonly is: 'corner'; readonly path: string; readonly corner: number }
  | { readonly is: 'range'; readonly path: string; readonly middle: Spot }
  | { readonly is: 'zone'; readonly path: string; readonly zone: string; readonly middle: Spot }
  | { readonly is: 'turn'; readonly path: string; readonly middle: Spot }

interface Grip {
  readonly at: Spot
  readonly drag: GripDrag
}

/** Small squares at what is selected: its corners, its range, its zones, the way it looks. */
export function Grips({
  shapes,
  selected,
  scale,
}: {
  readonly shapes: readonly PlanShape[]
  readonly selected: string | null
  readonly scale: number
}) {
  const k = 1 / scale
  return (
    <>
      {shapes
        .flatMap((one) => (one.path === selected && selected !== '' ? gripsOf(one, scale) : []))
        .map(({ at, drag }) => (
          <g
            key={JSON.stringify(drag)}
            className={`grip is-${drag.is}`}
            data-grip={JSON.stringify({ at, drag })}
            transform={`translate(${String(at[0])} ${String(at[1])}) scale(${String(k)} ${String(-k)})`}
          >
            <circle r="12" className="hit" />
            {drag.is === 'turn' ? <circle r="5" /> : <rect x="-5" y="-5" width="10" height="10" />}
          </g>
        ))}
    </>
  )
}

function gripsOf(shape: PlanShape, scale: number): Grip[] {
  const { path } = shape
  switch (shape.kind) {
    case 'room':
    case 'obstacle':
      return shape.outline.map((at, corner) => ({ at, drag: { is: 'corner', path, corner } }))
    case 'range':
      return [{ at: [shape.at[0] + shape.radius, shape.at[1]], drag: { is: 'range', path, middle: shape.at } }]
    case 'zone': {
      if (shape.outline || shape.inner > 0 || !shape.name.includes('/')) return []
      const zone = shape.name.slice(shape.name.indexOf('/') + 1)
      return [{ at: [shape.at[0] - shape.radius, shape.at[1]], drag: { is: 'zone', path, zone, middle: shape.at } }]
    }
    case 'start': {
      const angle = (shape.facing * Math.PI) / 180
      const far = shape.radius + 22 / scale
      return [
        {
          at: [shape.at[0] + Math.cos(angle) * far, shape.at[1] + Math.sin(angle) * far],
          drag: { is: 'turn', path, middle: shape.at },
        },
      ]
    }
    default:
      return []
  }
}

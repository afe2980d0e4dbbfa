import { memo, useMemo } from 'react'
import type { PlanShape } from 'zintel/draw'
import type { Covered } from '../background/look.ts'

type Of<K extends PlanShape['kind']> = Extract<PlanShape, { kind: K }>

function of<K extends PlanShape['kind']>(shapes: readonly PlanShape[], kind: K): Of<K>[] {
  return shapes.filter((shape): shape is Of<K> => shape.kind === kind)
}

function points(outline: readonly (readonly [number, number])[]): string {
  return outline.map(([x, y]) => `${String(x)},${String(y)}`).join(' ')
}

function outlines(all: readonly (readonly (readonly [number, number])[])[]): string {
  return all.map((outline) => `M${outline.map(([x, y]) => `${String(x)} ${String(y)}`).join('L')}z`).join('')
}

function circle([x, y]: readonly [number, number], r: number): string {
  const [d, across] = [String(r), String(2 * r)]
  return `M${String(x - r)} ${String(y)}a${d} ${d} 0 1 0 ${across} 0a${d} ${d} 0 1 0 -${across} 0z`
}

interface DrawingProps {
  readonly shapes: readonly PlanShape[]
  readonly covered: Covered
  /** Pixels a metre: marks keep their size on the screen. */
  readonly scale: number
  readonly selected: string | null
  /** While one tries the level, what moves is drawn by that. */
  readonly still: boolean
}

/** The ground, and everything that stands on it, in metres: the group round it says where on the sheet that is. */
export const Drawing = memo(function Drawing({ shapes, covered, scale, selected, still }: DrawingProps) {
  const ground = useMemo(() => <Ground shapes={shapes} covered={covered} />, [shapes, covered])
  // Sizes on the screen are put in metres: a transform for each mark would be a layer of its own to the browser.
  const k = 1 / scale
  const chosen = (path: string): string => (path === selected ? ' chosen' : '')
  return (
    <>
      {ground}
      {!still &&
        of(shapes, 'body').map((one) => (
          <g
            key={one.name}
            data-path={one.path}
            className={`body ${one.blocks ? 'blocks' : 'open'}${chosen(one.path)}`}
          >
            {one.sweep && <polygon className="sweep" points={points(one.sweep)} />}
            {one.end && <polygon className="end" points={points(one.end)} />}
            <polygon className="leaf" points={points(one.outline)} />
          </g>
        ))}
      {of(shapes, 'place').map((one) => (
        <g key={one.name} data-path={one.path} className={`place${chosen(one.path)}`}>
          <path d={cornersAt(one.at, k)} />
          <circle cx={one.at[0]} cy={one.at[1]} r={10 * k} className="hit" />
        </g>
      ))}
      {of(shapes, 'handle').map(({ name, path, at: [x, y], pressable }) => (
        <g key={name} data-path={path} className={`handle${chosen(path)}`}>
          <circle cx={x} cy={y} r={11 * k} className="hit" />
          {pressable ? (
            <circle cx={x} cy={y} r={4.5 * k} className="press" />
          ) : (
            <rect x={x - 4 * k} y={y - 4 * k} width={8 * k} height={8 * k} />
          )}
          {path === selected && <circle cx={x} cy={y} r={10 * k} className="ring" />}
        </g>
      ))}
      {!still &&
        of(shapes, 'start').map((one) => {
          const angle = (one.facing * Math.PI) / 180
          const [x, y] = one.at
          return (
            <g key={one.name} data-path={one.path} className={`start${chosen(one.path)}`}>
              <circle cx={x} cy={y} r={one.radius} />
              <line x1={x} y1={y} x2={x + Math.cos(angle) * one.radius} y2={y + Math.sin(angle) * one.radius} />
            </g>
          )
        })}
    </>
  )
})

/** The four corners of a square round a spot, 14 pixels wide. */
function cornersAt([x, y]: readonly [number, number], k: number): string {
  return [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ]
    .map(([i = 0, j = 0]) => {
      const [far, near] = [7 * k, 3 * k]
      return `M${String(x + i * far)} ${String(y + j * near)}V${String(y + j * far)}H${String(x + i * near)}`
    })
    .join('')
}

/** What seldom changes and is never marked. */
function Ground({ shapes, covered }: { readonly shapes: readonly PlanShape[]; readonly covered: Covered }) {
  return (
    <>
      {of(shapes, 'room').map((one) => (
        <polygon key={one.name} className="room" data-path={one.path} data-below="" points={points(one.outline)} />
      ))}
      {of(shapes, 'doorway').map((one) => (
        <polygon key={one.name} className="doorway" data-path={one.path} points={points(one.outline)} />
      ))}
      {of(shapes, 'obstacle').map((one) => (
        <polygon key={one.name} className="obstacle" data-path={one.path} points={points(one.outline)} />
      ))}
      {of(shapes, 'zone').map((one) => (
        <path
          key={`${one.name} ${one.path}`}
          className="zone"
          data-part={one.path}
          d={
            one.outline
              ? outlines([one.outline])
              : circle(one.at, one.radius) + (one.inner > 0 ? circle(one.at, one.inner) : '')
          }
        />
      ))}
      {of(shapes, 'range').map((one) => (
        <g key={one.name} data-part={one.path}>
          <path className="covered" d={outlines(covered[one.name] ?? [])} />
          <circle className="range" cx={one.at[0]} cy={one.at[1]} r={one.radius} />
          {one.until > one.radius && <circle className="range ends" cx={one.at[0]} cy={one.at[1]} r={one.until} />}
        </g>
      ))}
      <path
        className="wall"
        d={of(shapes, 'wall')
          .map(({ ends: [a, b] }) => `M${String(a[0])} ${String(a[1])}L${String(b[0])} ${String(b[1])}`)
          .join('')}
      />
    </>
  )
}

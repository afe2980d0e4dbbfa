import { memo, useMemo } from 'react'
import type { PlanShape } from 'zintel/draw'
import type { Covered } from '../work/look.ts'

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
  readonly storey: string | null
  /** While one tries the level, what moves is drawn by that. */
  readonly still: boolean
}

/** The ground, and everything that stands on it, in metres: the group round it says where on the sheet that is. */
export const Drawing = memo(function Drawing({ shapes, covered, scale, selected, still }: DrawingProps) {
  const ground = useMemo(() => <Ground shapes={shapes} covered={covered} />, [shapes, covered])
  const k = 1 / scale
  const mark = ([x, y]: readonly [number, number]): string =>
    `translate(${String(x)} ${String(y)}) scale(${String(k)} ${String(-k)})`
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
        <g key={one.name} data-path={one.path} transform={mark(one.at)} className={`place${chosen(one.path)}`}>
          <path d="M-7 -3V-7H-3M3 -7H7V-3M7 3V7H3M-3 7H-7V3" />
          <circle r="10" className="hit" />
        </g>
      ))}
      {of(shapes, 'handle').map((one) => (
        <g key={one.name} data-path={one.path} transform={mark(one.at)} className={`handle${chosen(one.path)}`}>
          <circle r="11" className="hit" />
          {one.pressable ? <circle r="4.5" className="press" /> : <rect x="-4" y="-4" width="8" height="8" />}
          {one.path === selected && <circle r="10" className="ring" />}
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

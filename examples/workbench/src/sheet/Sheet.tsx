import {
  memo,
  type PointerEvent,
  type ReactNode,
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react'
import type { Covered, LevelLook } from '../background/look.ts'
import { Drawing } from './Drawing.tsx'
import { draggedTo, type PlanChange, type PlanGrip, shapesOnStorey } from 'zintel/draw'
import type { SheetMark } from '../marking.ts'
import { Grips } from './Grips.tsx'
import { Labels } from './Labels.tsx'
import { Border, Panned, TitleBlock } from './Border.tsx'
import { fitting, type Size, type Spot, toGround, type View, zoomed } from './view.ts'

interface SheetProps {
  readonly file: string
  readonly level: LevelLook
  readonly covered: Covered
  /** Whether the text has moved on, and cannot be read: the drawing is of what could be read last. */
  readonly isOld: boolean
  readonly selected: string | null
  readonly snap: number
  readonly marks: readonly SheetMark[]
  /** Set: the level is being tried, and clicks are spots to walk to. */
  readonly trial: { readonly overlay: (scale: number) => ReactNode; readonly onWalk: (spot: Spot) => void } | null
  readonly onSelect: (path: string | null) => void
  readonly onMove: (path: string, by: Spot) => void
  readonly onGrip: (grip: PlanGrip, changes: readonly PlanChange[]) => void
  readonly onMark: (key: string) => void
  /** The part that moves where a part is dragged. */
  readonly movesWith: (path: string) => string
}

/** Pixels by which a pointer may stray and still click. */
const stray = 4

/** The sheet: the level to scale, with pan and zoom; things are selected and dragged on it. */
export const Sheet = memo(function Sheet(props: SheetProps) {
  const { file, level, selected, trial, onSelect } = props
  const [wanted, setStorey] = useState<string | null>(null)
  const storey = wanted !== null && level.storeys.includes(wanted) ? wanted : null
  const shapes = useMemo(
    () => (storey === null ? level.shapes : shapesOnStorey(level.shapes, storey)),
    [level.shapes, storey],
  )
  const frame = useRef<HTMLDivElement>(null)
  const svg = useRef<SVGSVGElement>(null)
  const [size, setSize] = useState<Size>({ width: 600, height: 500 })
  const [view, setView] = useState<View | null>(null)
  const shown = view ?? fitting(shapes, size)
  const names = useRef<HTMLCanvasElement>(null)
  const numbers = useRef<SVGSVGElement>(null)
  const readout = useRef<HTMLOutputElement>(null)
  const ghost = useRef<SVGSVGElement>(null)
  const [panned] = useState(() => new Panned())

  useLayoutEffect(() => {
    const box = frame.current
    if (!box) return
    const measure = (): void => {
      setSize({ width: box.clientWidth, height: box.clientHeight })
    }
    measure()
    const observer = new ResizeObserver(measure)
    observer.observe(box)
    return () => {
      observer.disconnect()
    }
  }, [])
  // Another file is seen as a whole.
  useEffect(() => {
    setView(null)
    setStorey(null)
  }, [file])
  useWheel(svg, shown, setView)
  useShowing(selected, level, shown, size, setView)
  const gestures = useGestures({
    ...props,
    view: shown,
    setView,
    layers: [svg, names, numbers],
    svg,
    ghost,
    readout,
    panned,
  })
  const keys = useCallback(
    (event: React.KeyboardEvent): void => {
      const factor = { '+': 1.25, '=': 1.25, '-': 0.8 }[event.key]
      if (factor !== undefined) setView(zoomed(shown, factor, [size.width / 2, size.height / 2]))
      else if (event.key === '0') setView(null)
      else if (event.key === 'Escape') onSelect(null)
      else return
      event.preventDefault()
    },
    [shown, size, onSelect],
  )
  const placed = `translate(${String(shown.x)} ${String(shown.y)}) scale(${String(shown.scale)} ${String(-shown.scale)})`
  const zoom = (factor: number) => () => {
    setView(zoomed(shown, factor, [size.width / 2, size.height / 2]))
  }
  return (
    <div className={`sheet${props.isOld ? ' old' : ''}${trial ? ' trying' : ''}`} ref={frame}>
      <svg
        ref={svg}
        className="ground"
        width={size.width}
        height={size.height}
        data-testid="plan"
        data-view={JSON.stringify(shown)}
        role="application"
        aria-label={`The plan of ${level.title}. Plus and minus zoom, 0 shows all of it; the arrow keys move what is selected.`}
        tabIndex={0}
        onKeyDown={keys}
        {...gestures}
      >
        <Patterns scale={shown.scale} />
        <g transform={placed}>
          <Drawing
            shapes={shapes}
            covered={props.covered}
            scale={shown.scale}
            selected={trial ? null : selected}
            still={trial !== null}
          />
          {!trial && <Grips grips={level.grips} shapes={shapes} selected={selected} scale={shown.scale} />}
        </g>
      </svg>
      <Labels shapes={shapes} view={shown} size={size} still={trial !== null} layer={names} />
      {trial && (
        <svg className="layer" width={size.width} height={size.height} aria-hidden="true">
          <g transform={placed}>{trial.overlay(shown.scale)}</g>
        </svg>
      )}
      <svg ref={numbers} className="layer numbers" width={size.width} height={size.height}>
        <g transform={placed}>
          <Marks marks={props.marks} scale={shown.scale} onMark={props.onMark} />
        </g>
      </svg>
      {/* What is dragged is lifted off the ground, so that nothing under it has to be drawn again. */}
      <svg ref={ghost} className="layer ghost" width={size.width} height={size.height} aria-hidden="true">
        <g transform={placed} />
      </svg>
      <svg className="layer" width={size.width} height={size.height} aria-hidden="true">
        <Border view={shown} size={size} panned={panned} />
        <TitleBlock title={level.title} view={shown} size={size} file={file} />
      </svg>
      {level.storeys.length > 1 && (
        <Storeys
          all={level.storeys}
          shown={storey}
          onShow={(next) => {
            setStorey(next)
            setView(null)
          }}
        />
      )}
      <output ref={readout} className="readout" hidden />
      {props.isOld && (
        <p className="old-note" role="status">
          The text has a mistake: this is the last that could be read.
        </p>
      )}
      <div className="zooming">
        <button type="button" aria-label="Zoom in" onClick={zoom(1.3)}>
          +
        </button>
        <button type="button" aria-label="Zoom out" onClick={zoom(1 / 1.3)}>
          −
        </button>
        <button
          type="button"
          aria-label="Show all of it"
          onClick={() => {
            setView(null)
          }}
        >
          ⤢
        </button>
      </div>
    </div>
  )
})

/** Which storey is drawn: each by itself, or all of them side by side. */
function Storeys({
  all,
  shown,
  onShow,
}: {
  readonly all: readonly string[]
  readonly shown: string | null
  readonly onShow: (storey: string | null) => void
}) {
  return (
    <div className="storeys" role="group" aria-label="Storeys">
      {[null, ...all].map((one) => (
        <button
          key={one ?? ''}
          type="button"
          aria-pressed={one === shown}
          onClick={() => {
            onShow(one)
          }}
        >
          {one ?? 'All storeys'}
        </button>
      ))}
    </div>
  )
}

/** What blocks is hatched, in lines as wide at every scale. */
function Patterns({ scale }: { readonly scale: number }) {
  return (
    <defs>
      <pattern
        id="hatch"
        width="7"
        height="7"
        patternUnits="userSpaceOnUse"
        patternTransform={`scale(${String(1 / scale)})`}
      >
        <rect width="7" height="7" className="hatch-ground" />
        <path d="M-1 1.5L1.5 -1M0 7L7 0M5.5 8L8 5.5" className="hatch-line" />
      </pattern>
    </defs>
  )
}

function Marks({
  marks,
  scale,
  onMark,
}: {
  readonly marks: readonly SheetMark[]
  readonly scale: number
  readonly onMark: (key: string) => void
}) {
  const k = 1 / scale
  return (
    <>
      {marks.map(({ key, at: [x, y], text, says, isChosen, sign, shift }, i) => (
        <g
          key={`${key} ${String(i)}`}
          transform={`translate(${String(x)} ${String(y)}) scale(${String(k)} ${String(-k)})`}
          className={`mark ${sign}${isChosen ? ' chosen' : ''}`}
          onPointerDown={(event) => {
            event.stopPropagation()
          }}
          onClick={() => {
            onMark(key)
          }}
        >
          {shift === 0 && <path d="M0 0L9 -15" />}
          <circle cx={13 + 19 * shift} cy="-22" r="9" />
          <text x={13 + 19 * shift} y="-22">
            {text}
          </text>
          {isChosen && says !== '' && (
            <text x={28 + 19 * shift} y="-22" className="says">
              {says}
            </text>
          )}
        </g>
      ))}
    </>
  )
}

/** Zooming with the wheel, about the pointer. The page itself must not scroll then, which React's own listeners cannot say. */
function useWheel(svg: React.RefObject<SVGSVGElement | null>, view: View, setView: (view: View) => void): void {
  const now = useRef(view)
  now.current = view
  useEffect(() => {
    const of = svg.current
    if (!of) return
    const wheel = (event: WheelEvent): void => {
      event.preventDefault()
      const box = of.getBoundingClientRect()
      const factor = Math.exp(-event.deltaY * (event.deltaMode === 1 ? 0.05 : 0.0016))
      now.current = zoomed(now.current, factor, [event.clientX - box.left, event.clientY - box.top])
      setView(now.current)
    }
    of.addEventListener('wheel', wheel, { passive: false })
    return () => {
      of.removeEventListener('wheel', wheel)
    }
  }, [svg, setView])
}

/** Brings what is selected into sight, where it is not. */
function useShowing(
  selected: string | null,
  { shapes }: LevelLook,
  view: View,
  size: Size,
  setView: (view: View) => void,
): void {
  useEffect(() => {
    const shape = shapes.find((one) => one.path === selected && 'at' in one)
    if (!shape || !('at' in shape)) return
    const [x, y] = [view.x + shape.at[0] * view.scale, view.y - shape.at[1] * view.scale]
    if (x > 30 && y > 30 && x < size.width - 30 && y < size.height - 60) return
    setView({ ...view, x: view.x + size.width / 2 - x, y: view.y + size.height / 2 - y })
    // Only where another thing is selected: who pans away from it may.
  }, [selected])
}

interface Gestures extends SheetProps {
  readonly view: View
  readonly setView: (view: View) => void
  readonly svg: React.RefObject<SVGSVGElement | null>
  /** What goes along where one pans. */
  readonly layers: readonly React.RefObject<SVGSVGElement | HTMLCanvasElement | null>[]
  readonly ghost: React.RefObject<SVGSVGElement | null>
  readonly readout: React.RefObject<HTMLOutputElement | null>
  readonly panned: Panned
}

/** What goes on between a pointer's going down and its coming up; `by` and `to` are where it has come to. */
type Going =
  | { readonly is: 'pan'; readonly from: Spot; readonly path: string | null; moved: boolean; by: Spot }
  | { readonly is: 'move'; readonly from: Spot; readonly path: string; moved: boolean; by: Spot }
  | { readonly is: 'grip'; readonly from: Spot; readonly grip: PlanGrip; moved: boolean; changes: PlanChange[] }

function useGestures(props: Gestures) {
  const going = useRef<Going | null>(null)
  const touches = useRef(new Map<number, Spot>())
  const latest = useRef(props)
  latest.current = props
  /** Where the sheet is on the page: measured once, when a pointer goes down. */
  const box = useRef<Spot>([0, 0])
  const spotOf = (event: PointerEvent): Spot => {
    return [event.clientX - box.current[0], event.clientY - box.current[1]]
  }
  const tell = (text: string | null, [x, y]: Spot = [0, 0]): void => {
    const output = latest.current.readout.current
    if (!output) return
    output.hidden = text === null
    output.textContent = text
    output.style.translate = `${String(Math.round(x + 14))}px ${String(Math.round(y + 12))}px`
  }
  const snapped = (metres: number, free: boolean): number => {
    const step = free ? 0.001 : latest.current.snap
    return Math.round(metres / step) * step
  }
  /** Puts copies of what is dragged on the layer above, and hides it where it was. */
  const lift = (parts: readonly SVGElement[]): void => {
    const group = latest.current.ghost.current?.querySelector('g')
    group?.replaceChildren(...parts.map((part) => part.cloneNode(true)))
    for (const part of parts) part.classList.add('lifted')
  }
  const putDown = (): void => {
    const { ghost, svg } = latest.current
    ghost.current?.querySelector('g')?.replaceChildren()
    shift(ghost.current, [0, 0])
    for (const part of svg.current?.querySelectorAll('.lifted') ?? []) part.classList.remove('lifted')
  }
  const partsOf = (path: string): SVGElement[] => {
    const { svg, movesWith } = latest.current
    const along = movesWith(path)
    const wanted = `[data-path="${path}"], [data-path="${along}"], [data-part="${path}"]`
    return [...(svg.current?.querySelectorAll<SVGElement>(wanted) ?? [])]
  }
  const onPointerDown = (event: PointerEvent<SVGSVGElement>): void => {
    const { svg, trial } = latest.current
    if (going.current === null) {
      const { left = 0, top = 0 } = svg.current?.getBoundingClientRect() ?? {}
      box.current = [left, top]
    }
    const spot = spotOf(event)
    touches.current.set(event.pointerId, spot)
    svg.current?.setPointerCapture(event.pointerId)
    const target = event.target as SVGElement
    const grip = target.closest<SVGElement>('[data-grip]')
    const owner = target.closest<SVGElement>('[data-path]')
    const path = owner?.dataset.path ?? null
    if (grip?.dataset.grip !== undefined && !trial) {
      const of = latest.current.level.grips[Number(grip.dataset.grip)]
      if (!of) return
      going.current = { is: 'grip', from: spot, grip: of, moved: false, changes: [] }
      lift([grip])
    } else if (!trial && path !== null && owner?.dataset.below === undefined && event.button === 0) {
      going.current = { is: 'move', from: spot, path, moved: false, by: [0, 0] }
    } else going.current = { is: 'pan', from: spot, path, moved: false, by: [0, 0] }
  }
  const onPointerMove = (event: PointerEvent<SVGSVGElement>): void => {
    const { view, setView, ghost, layers, panned } = latest.current
    const before = touches.current.get(event.pointerId)
    const now = going.current
    if (!before || !now) return
    const spot = spotOf(event)
    touches.current.set(event.pointerId, spot)
    if (touches.current.size === 2) {
      const [other] = [...touches.current].filter(([id]) => id !== event.pointerId).map(([, at]) => at)
      if (!other) return
      const apart = (a: Spot): number => Math.hypot(a[0] - other[0], a[1] - other[1])
      putDown()
      setView(zoomed(view, apart(spot) / Math.max(1, apart(before)), other))
      going.current = { is: 'pan', from: spot, path: null, moved: true, by: [0, 0] }
      return
    }
    if (now.is === 'grip') {
      const { at, drag, says } = now.grip
      const [dx, dy] = [spot[0] - now.from[0], spot[1] - now.from[1]]
      const to: Spot = [at[0] + dx / view.scale, at[1] - dy / view.scale]
      now.changes = draggedTo(drag, to, event.altKey ? 0.001 : latest.current.snap)
      now.moved = true
      shift(ghost.current, [dx, dy])
      tell(`${says} ${written(drag, now.changes)}`, spot)
      return
    }
    if (!now.moved && Math.hypot(spot[0] - now.from[0], spot[1] - now.from[1]) < stray) return
    if (now.is === 'move' && !now.moved) lift(partsOf(now.path))
    now.moved = true
    if (now.is === 'pan') {
      now.by = [spot[0] - now.from[0], spot[1] - now.from[1]]
      for (const layer of layers) shift(layer.current, now.by)
      panned.set(now.by)
      return
    }
    now.by = [
      snapped((spot[0] - now.from[0]) / view.scale, event.altKey),
      snapped(-(spot[1] - now.from[1]) / view.scale, event.altKey),
    ]
    shift(ghost.current, [now.by[0] * view.scale, -now.by[1] * view.scale])
    tell(`${metres(now.by[0])} m east, ${metres(now.by[1])} m north`, spot)
  }
  const end = (event: PointerEvent<SVGSVGElement>, isCancelled: boolean): void => {
    const now = going.current
    const spot = spotOf(event)
    touches.current.delete(event.pointerId)
    going.current = null
    tell(null)
    putDown()
    if (!now) return
    const { view, setView, layers, panned, trial, onSelect, onMove, onGrip } = latest.current
    if (now.is === 'move') {
      if (isCancelled) return
      if (!now.moved) onSelect(now.path)
      else if (now.by[0] !== 0 || now.by[1] !== 0) onMove(now.path, now.by)
    } else if (now.is === 'grip') {
      if (now.moved && !isCancelled) onGrip(now.grip, now.changes)
    } else if (now.moved) {
      for (const layer of layers) shift(layer.current, [0, 0])
      panned.set([0, 0])
      setView({ ...view, x: view.x + now.by[0], y: view.y + now.by[1] })
    } else if (!isCancelled) {
      if (trial) trial.onWalk(toGround(view, spot))
      else onSelect(now.path)
    }
  }
  return {
    onPointerDown,
    onPointerMove,
    onPointerUp: (event: PointerEvent<SVGSVGElement>) => {
      end(event, false)
    },
    onPointerCancel: (event: PointerEvent<SVGSVGElement>) => {
      end(event, true)
    },
  }
}

/** Moves a whole layer by pixels, as it is drawn: the browser need not draw it again for that. */
function shift(layer: SVGSVGElement | HTMLCanvasElement | null, [dx, dy]: Spot): void {
  if (layer) layer.style.transform = dx === 0 && dy === 0 ? '' : `translate(${String(dx)}px, ${String(dy)}px)`
}

/** What a dragged grip comes to, in a few words. */
function written(drag: PlanGrip['drag'], changes: readonly PlanChange[]): string {
  const value = changes[0]?.value
  if (typeof value !== 'object' || value === null) return String(value)
  const before: Readonly<Record<string, unknown>> = drag.is === 'zone' ? { ...drag.zone } : {}
  const part: unknown = Array.isArray(value)
    ? value
    : Object.entries(value).find(([key, now]: [string, unknown]) => now !== before[key])?.[1]
  return JSON.stringify(part ?? '')
    .replaceAll(/["{}[\]]/g, '')
    .replaceAll(',', ', ')
}

function metres(value: number): string {
  return (Math.round(value * 1000) / 1000).toString()
}

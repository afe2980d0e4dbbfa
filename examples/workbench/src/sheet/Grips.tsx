import type { PlanDrag, PlanGrip, PlanShape } from 'zintel/draw'
import type { Spot } from './view.ts'

/** How far a grip is from what it belongs to, and beside its spot where something else is at that, at least; in pixels. */
const aside = 20

/** Small marks at what is selected: its corners, its range, its zones, its handle, its leaf. */
export function Grips({
  grips,
  shapes,
  selected,
  scale,
}: {
  readonly grips: readonly PlanGrip[]
  readonly shapes: readonly PlanShape[]
  readonly selected: string | null
  readonly scale: number
}) {
  const middle = middleOf(shapes, selected)
  return (
    <>
      {grips.map(({ path, says, at, beside, drag }, i) => {
        if (path !== selected) return null
        const [x, y] = drawnAt(at, beside, middle, scale)
        return (
          <g
            key={`${says} ${String(i)}`}
            className={`grip is-${drag.is}`}
            data-grip={String(i)}
            data-says={says}
            data-part={path}
            transform={`translate(${String(x)} ${String(y)}) scale(${String(1 / scale)} ${String(-1 / scale)})`}
          >
            <title>{says}</title>
            {beside !== null && <line {...leadTo(beside)} />}
            <circle r="9" className="hit" />
            <Sign of={drag} />
          </g>
        )
      })}
    </>
  )
}

/** What goes along a straight line is square; what turns is round; what is put elsewhere is a diamond. */
function Sign({ of }: { readonly of: PlanDrag }) {
  const turns =
    of.is === 'direction' || of.is === 'swing' || (of.is === 'zone' && (of.part === 'turn' || of.part === 'width'))
  if (turns) return <circle r="5" />
  if (of.is === 'hinge') return <path d="M0 -6L6 5H-6z" />
  const isPut = of.is === 'slide' || of.is === 'inset' || of.is === 'spot' || (of.is === 'zone' && of.part === 'middle')
  return isPut ? <path d="M0 -6L6 0L0 6L-6 0z" /> : <rect x="-5" y="-5" width="10" height="10" />
}

/** A thin line from a grip that is drawn beside its spot to the spot, in pixels. */
function leadTo(beside: number): { x2: number; y2: number } {
  const [x, y] = aim(beside)
  return { x2: -x * aside, y2: y * aside }
}

/** Where a grip is drawn, in metres: never so near to what it belongs to that this could not be taken hold of. */
function drawnAt(at: Spot, beside: number | null, middle: Spot | null, scale: number): Spot {
  const [dx, dy] = middle ? [at[0] - middle[0], at[1] - middle[1]] : [Infinity, Infinity]
  const off = Math.hypot(dx, dy)
  const far = aside / scale
  if (beside !== null) {
    const [x, y] = aim(beside)
    return [at[0] + x * far, at[1] + y * far]
  }
  if (!middle || off >= far || off === 0) return at
  return [middle[0] + (dx / off) * far, middle[1] + (dy / off) * far]
}

function aim(degrees: number): Spot {
  const angle = (degrees * Math.PI) / 180
  return [Math.cos(angle), Math.sin(angle)]
}

/** Where one takes hold of what is selected itself; null where that is large. */
function middleOf(shapes: readonly PlanShape[], selected: string | null): Spot | null {
  for (const one of shapes) {
    if (one.path === selected && (one.kind === 'handle' || one.kind === 'start' || one.kind === 'place')) return one.at
  }
  return null
}

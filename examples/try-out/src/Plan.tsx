import { type MouseEvent, useMemo } from 'react'
import type { LogEntry, Play } from 'zintel'
import { drawPlan, planFrame } from 'zintel/draw'

type Frame = ReturnType<typeof planFrame>

/** The widest that a plan is drawn, and the highest, in pixels. */
const room = { width: 840, height: 610 }

/** The plan to scale, with what moves drawn over it. A click is a spot to walk to. */
export function Plan({
  play,
  who,
  onWalk,
}: {
  play: Play
  who: number
  onWalk: (spot: readonly [number, number]) => void
}) {
  const { stage } = play
  const frame = useMemo(() => fittingFrame(stage), [stage])
  const still = useMemo(() => drawPlan(stage, { scale: frame.scale, still: true }), [stage, frame])
  const view = play.view(who)
  const [target] = play.candidates(who)
  const click = (event: MouseEvent<HTMLDivElement>): void => {
    const box = event.currentTarget.getBoundingClientRect()
    const pixel = [
      ((event.clientX - box.left) / box.width) * frame.width,
      ((event.clientY - box.top) / box.height) * frame.height,
    ] as const
    onWalk(frame.toGround(pixel))
  }
  const isRumbling = view.showing.some(({ channel }) => channel === 'rumble')
  return (
    <div
      className={`plan${isRumbling ? ' rumbles' : ''}`}
      data-testid="plan"
      data-scale={frame.scale}
      style={{ maxWidth: frame.width }}
      onClick={click}
    >
      <div dangerouslySetInnerHTML={{ __html: still }} />
      <svg viewBox={`0 0 ${String(frame.width)} ${String(frame.height)}`} aria-hidden="true">
        {stage.expanded.interactables.map(({ index }) => (
          <Thing key={index} play={play} index={index} frame={frame} showing={view.showing} />
        ))}
        {play.log.slice(-60).map((entry, i) => (
          <Burst key={i} play={play} entry={entry} frame={frame} />
        ))}
        {target !== undefined && <Handle play={play} index={target} frame={frame} />}
        {stage.expanded.characters.map((person, index) => (
          <Person key={person.name} play={play} index={index} acts={index === who} frame={frame} />
        ))}
      </svg>
    </div>
  )
}

/** As large as there is room for, so that everything on the page is seen at once. */
function fittingFrame(stage: Play['stage']): Frame {
  const one = planFrame(stage, 10)
  const two = planFrame(stage, 20)
  const [w, h] = [(two.width - one.width) / 10, (two.height - one.height) / 10]
  const scale = Math.min((room.width - (one.width - 10 * w)) / w, (room.height - (one.height - 10 * h)) / h, 90)
  return planFrame(stage, Math.floor(scale))
}

interface ThingProps {
  readonly play: Play
  readonly index: number
  readonly frame: Frame
  readonly showing: ReturnType<Play['view']>['showing']
}

/** The body of an interactable as it is now, and what is perceived of it: it stands out, shakes, shines. */
function Thing({ play, index, frame, showing }: ThingProps) {
  const placed = play.stage.expanded.interactables[index]
  const figure = play.stage.space.layout.figures[index]
  if (!placed || !figure?.handle) return null
  const own = showing.filter((one) => one.interactable === placed.name)
  const of = (channel: string) => own.find((one) => one.channel === channel)
  const body = play.bodyOf(index)
  const state = placed.states.find(({ name }) => name === play.stateOf(index))
  const [x, y] = frame.toPlan([figure.handle[0], figure.handle[1]])
  const light = of('light')?.text ?? (state?.look === 'lit' ? 'gold' : null)
  const colour = light !== null && CSS.supports('color', light) ? light : 'gold'
  const classes = [
    'body',
    state?.blocksWalk ? 'shut' : 'open',
    of('highlight') ? 'lit-up' : '',
    of('motion') ? 'shakes' : '',
  ]
  const { there } = play.transformOf(index)
  return (
    <g data-testid={`thing-${placed.name}`}>
      {light !== null && (
        <circle className="light" cx={x} cy={y} r={0.7 * frame.scale} fill={colour} data-testid="light" />
      )}
      {body && (
        <polygon
          points={body.map((p) => frame.toPlan(p).join(',')).join(' ')}
          className={classes.join(' ')}
          style={{ opacity: there }}
        />
      )}
      {!body && of('highlight') && <circle className="lit-up" cx={x} cy={y} r={12} />}
    </g>
  )
}

/** A burst, for as long as it lasts: it grows, and fades. */
function Burst({ play, entry, frame }: { play: Play; entry: LogEntry; frame: Frame }) {
  if (entry.what !== 'feedback' || entry.channel !== 'burst' || entry.lasts === null) return null
  const share = (play.now - entry.at) / entry.lasts
  const index = play.stage.expanded.interactables.findIndex(({ name }) => name === entry.interactable)
  const handle = play.stage.space.layout.figures[index]?.handle
  if (share >= 1 || share < 0 || !handle) return null
  const [cx, cy] = frame.toPlan([handle[0], handle[1]])
  return (
    <circle className="burst" cx={cx} cy={cy} r={6 + 26 * share} style={{ opacity: 1 - share }} data-testid="burst" />
  )
}

function Person({ play, index, acts, frame }: { play: Play; index: number; acts: boolean; frame: Frame }) {
  const person = play.stage.expanded.characters[index]
  if (!person) return null
  const [x, y] = frame.toPlan(play.spotOf(index))
  const r = person.radius * frame.scale
  const [fx, fy] = play.facingOf(index)
  const length = Math.hypot(fx, fy) || 1
  return (
    <g>
      {acts && <circle className="reach" cx={x} cy={y} r={person.reach * frame.scale} />}
      <circle
        className={`person ${person.role}${acts ? ' acts' : ''}`}
        cx={x}
        cy={y}
        r={r}
        data-testid={acts ? 'person' : undefined}
      />
      <line className="nose" x1={x} y1={y} x2={x + (fx / length) * r} y2={y - (fy / length) * r} />
    </g>
  )
}

function Handle({ play, index, frame }: { play: Play; index: number; frame: Frame }) {
  const handle = play.stage.space.layout.figures[index]?.handle
  if (!handle) return null
  const [cx, cy] = frame.toPlan([handle[0], handle[1]])
  return <circle className="target" cx={cx} cy={cy} r={9} />
}

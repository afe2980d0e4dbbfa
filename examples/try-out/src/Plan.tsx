import { type MouseEvent, useMemo } from 'react'
import type { InteractableNow, LevelPlay, LogEntry, PreparedLevel, View } from 'zintel'
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
  play: LevelPlay
  who: string
  onWalk: (spot: readonly [number, number]) => void
}) {
  const { level } = play
  const frame = useMemo(() => fittingFrame(level), [level])
  const still = useMemo(() => drawPlan(level, { scale: frame.scale, still: true }), [level, frame])
  const view = play.view(who)
  const [target] = view.candidates
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
        {play.interactables.map((name) => (
          <Thing key={name} thing={play.interactable(name)} frame={frame} showing={view.showing} />
        ))}
        {play.log.slice(-60).map((entry, i) => (
          <Burst key={i} play={play} entry={entry} frame={frame} />
        ))}
        {target !== undefined && <Handle thing={play.interactable(target)} frame={frame} />}
        {level.contents.characters.map((person) => (
          <Person key={person.name} play={play} person={person} acts={person.name === who} frame={frame} />
        ))}
      </svg>
    </div>
  )
}

/** As large as there is room for, so that everything on the page is seen at once. */
function fittingFrame(level: PreparedLevel): Frame {
  const one = planFrame(level, 10)
  const two = planFrame(level, 20)
  const [w, h] = [(two.width - one.width) / 10, (two.height - one.height) / 10]
  const scale = Math.min((room.width - (one.width - 10 * w)) / w, (room.height - (one.height - 10 * h)) / h, 90)
  return planFrame(level, Math.floor(scale))
}

interface ThingProps {
  readonly thing: InteractableNow
  readonly frame: Frame
  readonly showing: View['showing']
}

/** The body of an interactable as it is now, and what is perceived of it: it stands out, shakes, shines. */
function Thing({ thing, frame, showing }: ThingProps) {
  const { name, handle, body, blocks, look, transform } = thing
  if (!handle) return null
  const own = showing.filter((one) => one.interactable === name)
  const of = (channel: string) => own.find((one) => one.channel === channel)
  const [x, y] = frame.toPlan([handle[0], handle[1]])
  const light = of('light')?.text ?? (look === 'lit' ? 'gold' : null)
  const colour = light !== null && CSS.supports('color', light) ? light : 'gold'
  const classes = ['body', blocks ? 'shut' : 'open', of('highlight') ? 'lit-up' : '', of('shake') ? 'shakes' : '']
  return (
    <g data-testid={`thing-${name}`}>
      {light !== null && (
        <circle className="light" cx={x} cy={y} r={0.7 * frame.scale} fill={colour} data-testid="light" />
      )}
      {body && (
        <polygon
          points={body.map((p) => frame.toPlan(p).join(',')).join(' ')}
          className={classes.join(' ')}
          style={{ opacity: transform.there }}
        />
      )}
      {!body && of('highlight') && <circle className="lit-up" cx={x} cy={y} r={12} />}
    </g>
  )
}

/** A burst, for as long as it lasts: it grows, and fades. */
function Burst({ play, entry, frame }: { play: LevelPlay; entry: LogEntry; frame: Frame }) {
  if (entry.what !== 'feedback' || entry.channel !== 'burst' || entry.lasts === null) return null
  const share = (play.time - entry.at) / entry.lasts
  const isHere = play.interactables.includes(entry.interactable)
  const handle = isHere ? play.interactable(entry.interactable).handle : null
  if (share >= 1 || share < 0 || !handle) return null
  const [cx, cy] = frame.toPlan([handle[0], handle[1]])
  return (
    <circle className="burst" cx={cx} cy={cy} r={6 + 26 * share} style={{ opacity: 1 - share }} data-testid="burst" />
  )
}

interface PersonProps {
  readonly play: LevelPlay
  readonly person: PreparedLevel['contents']['characters'][number]
  readonly acts: boolean
  readonly frame: Frame
}

function Person({ play, person, acts, frame }: PersonProps) {
  const { position, facing } = play.character(person.name)
  const [x, y] = frame.toPlan(position)
  const r = person.radius * frame.scale
  const [fx, fy] = facing
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

function Handle({ thing: { handle }, frame }: { thing: InteractableNow; frame: Frame }) {
  if (!handle) return null
  const [cx, cy] = frame.toPlan([handle[0], handle[1]])
  return <circle className="target" cx={cx} cy={cy} r={9} />
}

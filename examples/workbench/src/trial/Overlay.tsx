import type { InteractableNow, LogEntry, PreparedLevel, View } from 'zintel'
import type { Trying } from './use-trial.ts'

/** What moves and what is perceived, over the drawing; in metres, as the drawing is. */
export function Overlay({ trying, scale }: { readonly trying: Trying; readonly scale: number }) {
  const { play } = trying.trial
  const view = play.view(trying.who)
  const [target] = view.candidates
  const k = 1 / scale
  return (
    <>
      {play.interactables.map((name) => (
        <Thing key={name} thing={play.interactable(name)} showing={view.showing} isTarget={name === target} k={k} />
      ))}
      {play.log.slice(-60).map((entry, i) => (
        <Burst key={i} trying={trying} entry={entry} k={k} />
      ))}
      {play.level.contents.characters.map((person) => (
        <Person key={person.name} trying={trying} person={person} acts={person.name === trying.who} />
      ))}
    </>
  )
}

interface ThingProps {
  readonly thing: InteractableNow
  readonly showing: View['showing']
  readonly isTarget: boolean
  readonly k: number
}

/** The body of an interactable as it is now, and what is perceived of it: it stands out, shakes, shines. */
function Thing({ thing, showing, isTarget, k }: ThingProps) {
  const { name, handle, body, blocks, look, transform } = thing
  if (!handle) return null
  const own = showing.filter((one) => one.interactable === name)
  const of = (channel: string) => own.find((one) => one.channel === channel)
  const [x, y] = handle
  const light = of('light')?.text ?? (look === 'lit' ? 'gold' : null)
  const colour = light !== null && CSS.supports('color', light) ? light : 'gold'
  const classes = [
    'live',
    blocks.includes('walk') ? 'blocks' : 'open',
    of('highlight') ? 'lit-up' : '',
    of('shake') ? 'shakes' : '',
  ]
  return (
    <g data-testid={`thing-${name}`}>
      {light !== null && <circle className="light" cx={x} cy={y} r={0.7} fill={colour} data-testid="light" />}
      {body && (
        <polygon
          points={body.map((p) => p.join(',')).join(' ')}
          className={classes.join(' ')}
          style={{ opacity: transform.there }}
        />
      )}
      {!body && of('highlight') && <circle className="lit-up" cx={x} cy={y} r={12 * k} />}
      {isTarget && <circle className="target" cx={x} cy={y} r={10 * k} />}
    </g>
  )
}

/** A burst, for as long as it lasts: it grows, and fades. */
function Burst({ trying, entry, k }: { readonly trying: Trying; readonly entry: LogEntry; readonly k: number }) {
  if (entry.what !== 'feedback' || entry.channel !== 'burst' || entry.lasts === null) return null
  const { play } = trying.trial
  const share = (play.time - entry.at) / entry.lasts
  const handle = play.interactables.includes(entry.interactable) ? play.interactable(entry.interactable).handle : null
  if (share >= 1 || share < 0 || !handle) return null
  return (
    <circle
      className="burst"
      cx={handle[0]}
      cy={handle[1]}
      r={(6 + 26 * share) * k}
      style={{ opacity: 1 - share }}
      data-testid="burst"
    />
  )
}

interface PersonProps {
  readonly trying: Trying
  readonly person: PreparedLevel['contents']['characters'][number]
  readonly acts: boolean
}

function Person({ trying, person, acts }: PersonProps) {
  const { position, facing } = trying.trial.play.character(person.name)
  const [x, y] = position
  const r = person.radius
  const [fx, fy] = facing
  const length = Math.hypot(fx, fy) || 1
  return (
    <g
      className={`person ${person.role}${acts ? ' acts' : ''}`}
      data-testid={acts ? 'person' : undefined}
      data-spot={`${x.toFixed(2)} ${y.toFixed(2)}`}
    >
      {acts && <circle className="reach" cx={x} cy={y} r={person.reach} />}
      <circle className="self" cx={x} cy={y} r={r} />
      <line x1={x} y1={y} x2={x + (fx / length) * r} y2={y + (fy / length) * r} />
    </g>
  )
}

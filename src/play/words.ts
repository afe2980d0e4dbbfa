import type { LogEntry, NotAsked, Unmet } from './log.ts'

/** A time in seconds with three decimals, as logs show it. */
export function clockText(ms: number): string {
  return `${(ms / 1000).toFixed(3)} s`
}

/** A log entry on one line, without its time. */
export function entryText(entry: LogEntry): string {
  switch (entry.what) {
    case 'walks':
      return `${entry.character} walks to ${spot(entry.to)}`
    case 'steers':
      return entry.towards ? `${entry.character} walks towards ${spot(entry.towards)}` : `${entry.character} stops`
    case 'arrived':
      return `${entry.character} arrives at ${spot(entry.spot)}`
    case 'stopped':
      return `${entry.character} is stopped at ${spot(entry.spot)}`
    case 'no-way':
      return `${entry.character} finds no way to ${entry.to}`
    case 'press':
      return pressText(entry)
    case 'transition':
      if (entry.from === entry.to) return `${entry.interactable} stays ${entry.to} (${entry.transition})`
      return `${entry.interactable}: ${entry.from} -> ${entry.to} (${entry.transition})`
    case 'waits':
      return `${entry.interactable} ${entry.reopens ? 'stays, and starts again once' : 'waits until'} its way is clear (${entry.transition})`
    case 'feedback':
      return feedbackText(entry)
    case 'test-only':
      return `TEST-ONLY: ${entry.text}`
    case 'dismisses':
      return `${entry.character} dismisses "${entry.text}"`
    case 'held-back':
      return `${entry.character} is kept from ${entry.from} by the popup of ${entry.by}`
    case 'item':
      return `${entry.character} ${itemText(entry)}`
    case 'flag':
      return `flag ${entry.flag} is ${entry.is ? 'set' : 'cleared'} by ${entry.by}`
    case 'counter':
      return `counter ${entry.counter}: ${String(entry.before)} -> ${String(entry.after)}, by ${entry.by}`
    case 'signal':
      return `signal ${entry.signal} from ${entry.by}${signalTarget(entry)}`
    case 'releases':
      return `${entry.character} lets go of ${entry.interactable}`
    case 'dials': {
      const what = `${entry.character} sets wheel ${String(entry.wheel)} of ${entry.interactable} to ${String(entry.to)}`
      return entry.outcome === 'accepted' ? what : `${what}: it cannot be set from here and now`
    }
    case 'turns':
      return `${entry.character} turns to ${entry.towards}`
    case 'leaves':
      return `${entry.character} leaves for ${entry.place} in ${entry.level}, by ${entry.by}`
    case 'arrives':
      return `${entry.character} arrives at ${entry.place} in ${entry.level}`
    case 'pushed':
      return `${entry.character} is pushed out of the way by ${entry.by}`
    case 'contents':
      return `${entry.left === 0 ? 'no' : String(entry.left)} ${entry.item} left in ${entry.interactable}`
    case 'moved':
      if (!entry.done) return `${entry.by} cannot move ${entry.character} to ${entry.place}: nobody can stand there`
      return `${entry.character} is moved to ${entry.place} by ${entry.by}`
    case 'heard':
      return entry.by.length === 0
        ? `signal ${entry.signal} is heard by nobody`
        : `signal ${entry.signal} is heard by ${entry.by.join(', ')}`
    case 'zone':
      return `${entry.character} ${entry.inside ? 'enters' : 'leaves'} ${entry.interactable === null ? '' : `${entry.interactable}/`}${entry.zone}`
    case 'goal':
      return `goal ${entry.goal} is met`
    case 'signal-storm':
      return 'signals without end: the moment is undone and the play ends'
  }
}

/** A condition that did not hold, with what was so instead. */
export function unmetText(unmet: Unmet): string {
  if ('carries' in unmet) return `carries ${String(unmet.has)} of ${String(unmet.count)} ${unmet.carries}`
  if ('interactable' in unmet) return `${unmet.interactable} is ${unmet.state}, not ${unmet.is.join(' or ')}`
  if ('flag' in unmet) return `flag ${unmet.flag} is ${unmet.is ? 'not set' : 'set'}`
  if ('room-for' in unmet) {
    return `carries ${String(unmet.has)} ${unmet['room-for']}, and can carry ${String(unmet.most)}`
  }
  if ('counter' in unmet) return `counter ${unmet.counter} is ${String(unmet.is)}, not ${spanText(unmet)}`
  if ('inside' in unmet)
    return `nobody${unmet.carrying === null ? '' : ` with ${unmet.carrying}`} is in ${unmet.inside}`
  if ('acts' in unmet) return `${unmet.role} is not ${unmet.acts.join(' or ')}`
  if ('remembers' in unmet) return `${unmet.of} does not remember ${unmet.remembers}`
  if ('contains' in unmet) return `${String(unmet.has)} of ${String(unmet.count)} ${unmet.contains} left in ${unmet.of}`
  if ('room-in' in unmet) return `there is no room for anything in ${unmet['room-in']}`
  if ('empty' in unmet) return `${unmet.empty} is not empty`
  if ('dial' in unmet) return `the wheels of ${unmet.dial} stand otherwise`
  if ('not' in unmet) return metText(unmet.not)
  return `there is no ${unmet.unknown}`
}

/** A condition that held where it must not. */
function metText(met: Unmet): string {
  if ('carries' in met) return `carries ${String(met.has)} ${met.carries}`
  if ('interactable' in met) return `${met.interactable} is ${met.state}`
  if ('flag' in met) return `flag ${met.flag} is ${met.is ? 'set' : 'not set'}`
  if ('counter' in met) return `counter ${met.counter} is ${String(met.is)}`
  if ('inside' in met) return `somebody${met.carrying === null ? '' : ` with ${met.carrying}`} is in ${met.inside}`
  if ('acts' in met) return `${met.role} may not`
  if ('remembers' in met) return `${met.of} remembers ${met.remembers}`
  if ('empty' in met) return `${met.empty} is empty`
  return 'what must not be so is so'
}

/** Why an interactable near by did not answer. */
export function notAskedText(near: NotAsked): string {
  const far = `${near.interactable}, ${near.distance.toFixed(2)} m off`
  switch (near.why) {
    case 'out-of-range':
      return `${far}: its range ends at ${metres(near.limit)}`
    case 'out-of-reach':
      return `${far}: the hand reaches ${metres(near.limit)}`
    case 'at-another-height':
      return `${far}: not to be pressed from this height`
    case 'stands-elsewhere':
      return `${far}: not to be pressed from this side`
    case 'behind-a-wall':
      return `${far}: behind a wall`
    case 'hidden':
      return `${far}: hidden by ${near.behind ?? 'a body'}`
    case 'not-now':
      return `${far}: ${near.state ?? ''} does nothing on a press`
    case 'not-for-it':
      return `${far}: it does not answer a ${near.state ?? ''}`
  }
}

function feedbackText({ channel, text, interactable, pitch }: Extract<LogEntry, { what: 'feedback' }>): string {
  if (channel === 'sound') {
    return `sound "${text}" from ${interactable}${pitch === null ? '' : `, pitch ${String(pitch)}`}`
  }
  if (channel === 'message' || channel === 'popup') return `${channel} "${text}"`
  if (channel === 'icon') return `icon "${text}" on the screen`
  if (channel === 'hide') return `icon "${text}" off the screen`
  return `${channel} "${text}" of ${interactable}`
}

function spanText({ least, most }: { readonly least: number; readonly most: number }): string {
  if (least === most) return String(least)
  return most >= 9999 ? `${String(least)} or more` : `${String(least)} to ${String(most)}`
}

function signalTarget({ to, tag }: Extract<LogEntry, { what: 'signal' }>): string {
  if (to !== null) return ` to ${to}`
  return tag === null ? '' : ` to all tagged ${tag}`
}

function pressText(entry: Extract<LogEntry, { what: 'press' }>): string {
  const who = `${entry.character} presses${entry.way === null ? '' : ` "${entry.way}"`}`
  if (entry.outcome === 'unanswered') {
    const near = entry.nearby.map(notAskedText)
    return `${who}: nothing answers${near.length > 0 ? ` (${near.join('; ')})` : ' (nothing is near by)'}`
  }
  const unmet = entry.unmet.map(unmetText)
  return `${who}${entry.way === null ? '' : ' on'} ${entry.interactable ?? ''}: ${entry.outcome}${entry.chance === null ? '' : `, chance draws ${entry.chance}`}${unmet.length > 0 ? ` (${unmet.join('; ')})` : ''}`
}

function itemText(entry: Extract<LogEntry, { what: 'item' }>): string {
  const change = entry.after - entry.before
  if (change > 0) return `gets ${String(change)} ${entry.item} from ${entry.by}`
  if (change < 0) return `${entry.consumed ? 'uses up' : 'loses'} ${String(-change)} ${entry.item} on ${entry.by}`
  return entry.after > 0 ? `can carry no more ${entry.item}` : `has no ${entry.item} to lose`
}

function spot([x, y]: readonly [number, number]): string {
  return `(${x.toFixed(2)}, ${y.toFixed(2)})`
}

function metres(limit: number | null): string {
  return `${(limit ?? 0).toFixed(2)} m`
}

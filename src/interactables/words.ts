import type { Change, Check, Expanded, When } from './placed.ts'

/** What sets a transition off, in a few words. */
export function triggerText(expanded: Expanded, when: When): string {
  switch (when.kind) {
    case 'press': {
      const { press, option, chance } = expanded.pressKinds[when.pressKind]!
      if (chance !== null) return `press, if chance draws ${chance}`
      const often = when.every > 0 ? `, every ${String(when.every / 1000)} s` : ''
      return option === null ? `${when.pressKind === 0 ? 'press' : `press ${press}`}${often}` : `option "${option}"`
    }
    case 'release':
      return 'release'
    case 'hold':
      return `hold for ${String(when.hold / 1000)} s`
    case 'becomes':
      return `it becomes true that ${checkText(expanded, when.check)}`
    case 'motion-end':
      return 'the end of its motion'
    case 'after':
      return `after ${String(when.after / 1000)} s`
    case 'signal':
      return `signal ${expanded.signals[when.signal]!}`
    default:
      return `${when.kind} ${expanded.zones[when.zone]!.name}`
  }
}

/** What goals and requirements ask for, with where it is written. */
export function askedByPlans({ goals, requirements }: Pick<Expanded, 'goals' | 'requirements'>): {
  readonly name: string
  readonly path: string
  readonly check: Check
}[] {
  return [
    ...goals,
    ...requirements.flatMap(({ name, path, conditions }) =>
      conditions.map(({ part, check }) => ({ name, path: `${path}.${part}`, check })),
    ),
  ]
}

/** What a zone is called: `mill-door/near`, or the name of a room. */
export function zoneName({ zones, interactables }: Expanded, zone: number): string {
  const { interactable, name } = zones[zone]!
  return interactable < 0 ? name : `${interactables[interactable]!.name}/${name}`
}

/** A condition in a few words; empty where it always holds. */
export function checkText(expanded: Expanded, check: Check): string {
  const { items, interactables, flags, counters, zones } = expanded
  switch (check.kind) {
    case 'carries':
      return `${check.count > 1 ? `${String(check.count)} ` : ''}${items[check.item]!.name} carried`
    case 'room':
      return `room for ${items[check.item]!.name}`
    case 'state': {
      const placed = interactables[check.interactable]!
      return `${placed.name} is ${check.states.map((state) => placed.states[state]!.name).join(' or ')}`
    }
    case 'role':
      return `by a ${check.roles.join(' or ')}`
    case 'remembers':
      return `${expanded.memories[check.memory]!.name} is remembered`
    case 'contains':
      return `${check.count > 1 ? `${String(check.count)} ` : ''}${items[expanded.contents[check.content]!.item]!.name} is left`
    case 'fits':
      return 'something in it fits'
    case 'empty':
      return 'nothing is left'
    case 'flag':
      return `${flags[check.flag]!.name} is ${check.is ? 'set' : 'not set'}`
    case 'counter': {
      const { name } = counters[check.counter]!
      if (check.least === check.most) return `${name} is ${String(check.least)}`
      if (check.most === Infinity) return `${name} is ${String(check.least)} or more`
      return `${name} is ${String(check.least)} to ${String(check.most)}`
    }
    case 'inside': {
      const { name } = zones[check.zone]!
      const who = check.who === null ? 'somebody' : check.who.map((one) => expanded.characters[one]!.name).join(' or ')
      return `${who}${check.item < 0 ? '' : ` with ${items[check.item]!.name}`} is inside ${name}`
    }
    case 'dial':
      return `the wheels stand at ${check.digits.join(' ')}`
    case 'not':
      return `not: ${checkText(expanded, check.check)}`
    case 'never':
      return check.name === '' ? 'never' : `never: there is no ${check.name}`
    case 'all':
    case 'any': {
      const parts = check.checks.map((one) => checkText(expanded, one)).filter((part) => part !== '')
      const joined = parts.join(check.kind === 'all' ? ' and ' : ' or ')
      return parts.length > 1 && check.kind === 'any' ? `(${joined})` : joined
    }
  }
}

/** What a transition changes, in a few words. */
export function changeText(expanded: Expanded, change: Change): string {
  const { items, flags, counters, signals, tags, interactables } = expanded
  switch (change.kind) {
    case 'take-out':
      return `hands out ${items[expanded.contents[change.content]!.item]!.name}`
    case 'put-in':
      return `contains ${items[expanded.contents[change.content]!.item]!.name}`
    case 'remember':
      return `${change.to ? 'remembers' : 'forgets'} ${expanded.memories[change.memory]!.name}`
    case 'exit-to':
      return `leads to ${change.place} in ${change.level}`
    case 'move-to':
      return change.checkpoints
        ? `moves back to the last checkpoint, or to ${expanded.places[change.place]!.name}`
        : `moves to ${expanded.places[change.place]!.name}`
    case 'give':
    case 'remove':
    case 'consume': {
      const what = { give: 'gives', remove: 'removes', consume: 'consumes' }[change.kind]
      return `${what} ${change.count > 1 ? `${String(change.count)} ` : ''}${items[change.item]!.name}`
    }
    case 'set':
      return `${change.to ? 'sets' : 'clears'} ${flags[change.flag]!.name}`
    case 'count': {
      const { name } = counters[change.counter]!
      if (change.to !== null) return `sets ${name} to ${String(change.to)}`
      return `${name} ${change.by < 0 ? '-' : '+'} ${String(Math.abs(change.by))}`
    }
    case 'send': {
      const to = change.interactable === null ? '' : ` to ${interactables[change.interactable]!.name}`
      return `sends ${signals[change.signal]!}${change.tag === null ? to : ` to all tagged ${tags[change.tag]!}`}`
    }
  }
}

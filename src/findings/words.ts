import type { NameProblem, WrongValue } from '../interactables/index.ts'
import { isMisspelt, type Reason } from '../model/index.ts'
import type { Facts, Obstruction, Root } from './rule.ts'

/** What a finding says, in a sentence: what happens to the player, or what is wrong in the file. */
export function findingText(facts: Facts): string {
  switch (facts.rule) {
    case 'unknown-name':
    case 'duplicate-name':
    case 'bad-value':
    case 'blocked-start':
      return problemText(facts.problem)
    case 'unlisted-level':
      return `${facts.interactable} leads to the level "${facts.level}", which the project does not list: it leads nowhere.`
    case 'stale-reference':
      return `${facts.interactable} points at ${facts.target} as ${facts.original} does, while nothing points at ${facts.free}: what was copied still asks for what the first one asks for.`
    case 'inconsistent-instance':
      return oddText(facts)
    case 'inert-interactable':
      return `${facts.interactable} answers nothing: whatever a player does, it stays as it is.`
    case 'no-way-out':
      return `Once ${facts.interactable} is ${facts.state} it stays so for good: no transition leaves that state, and it is not said to be lasting.`
    case 'overlapping-guards':
      return `While ${facts.interactable} is ${facts.state}, ${facts.first} and ${facts.second} can both be allowed at once, and always ${facts.first} is taken: only the order of the lines decides.`
    case 'unheard-signal':
      return `${facts.interactable} sends the signal "${facts.signal}", and nothing hears it.`
    case 'unsent-signal':
      return unsentText(facts)
    case 'unobtainable-item':
      return `${listed(facts.askedBy)} ${facts.askedBy.length > 1 ? 'ask' : 'asks'} for the ${facts.title}, and nobody can ever get one: nothing gives it, and nobody starts with it.`
    case 'unused-item':
      return facts.givenBy.length > 0
        ? `Players have no use for the ${facts.title}: ${listed(facts.givenBy)} ${facts.givenBy.length > 1 ? 'give' : 'gives'} it, and nothing asks for it.`
        : `The ${facts.title} is not used at all: nothing gives it, and nothing asks for it.`
    case 'never-blocks':
      return `Players can walk through ${facts.interactable} even while it is shut: none of its states blocks the way through ${facts.doorway}.`
    case 'leftover-test-only':
      return `${facts.interactable} is only there for trying things out, and players would find it; it may also hide what is wrong without it.`
    case 'opposite-flags':
      return `The flags ${facts.flags[0]} and ${facts.flags[1]} say the opposite of each other, and can come to be ${facts.both ? 'both set' : 'both not set'} at once.`
    case 'no-goal':
      return 'The level has no goal, so whether a player can get stuck in it was not judged.'
    case 'goal-already-met':
      return `The goal ${goalText(facts)} holds before anybody has done anything: it asks nothing of a player.`
    case 'out-of-reach':
      return outOfReachText(facts)
    case 'unreachable-state':
      return `${facts.interactable} can never be ${facts.state}: nothing that a player can do leads there.`
    case 'dead-transition':
      return `${facts.interactable} never takes ${facts.transition} (${facts.from.join(', ')} -> ${facts.to}, on ${facts.trigger}): nothing that a player can do sets it off.`
    case 'unreachable-goal':
      return `The goal ${goalText(facts)} cannot be met, whatever a player does.${facts.obstruction ? ` ${chainText(facts.obstruction)}` : ''}`
    case 'soft-lock':
      return `${afterText(facts)} the goal ${goalText(facts)} can never be met any more, whatever the player does.`
    case 'wasted-item':
      return `The ${facts.items.join(', the ')} can be wasted on ${facts.interactable ?? ''} (${facts.transition ?? ''}): then the goal ${goalText(facts)} can never be met any more.`
    case 'stuck-state':
      return `${facts.interactable} can come to be ${facts.state} for good: its transitions would lead on, but nothing can trigger them any more, wherever characters stand and whatever they carry.`
    case 'signal-storm':
      return `Signals set one another off without end${facts.interactable === null ? '' : `, by way of ${facts.interactable} (${facts.transition ?? ''})`}: the play stops there.`
    case 'lost-item':
      return facts.level === null
        ? `${facts.interactable} can give the ${facts.item} to a player who has no room for it: it is gone for good.`
        : `A player who leaves by ${facts.interactable} loses the ${facts.item}, which the level ${facts.level} asks for.`
    case 'locked-again':
      return `${facts.interactable} is ${facts.state} again whenever a player comes back to this level, and the ${facts.item} was used up on it.`
    case 'silent-refusal':
      return `${facts.interactable} refuses a press while ${facts.state}${becauseText(facts.reasons, facts.items)}, and ${hushText(facts)}.`
    case 'silent-change':
      return `${facts.interactable} goes from ${facts.from} to ${facts.to} (${facts.transition}), and a player perceives nothing of it: nothing is told, and it looks as before.`
    case 'repeated-feedback':
      return `${facts.interactable} gives the ${facts.channel} "${facts.text}" again every ${String(facts.every / 1000)} s (${facts.transition}), for as long as nobody does anything.`
    case 'stuck-prompt':
      return `The prompt "${facts.prompt ?? ''}" stays on ${facts.interactable} when there is nothing more to be had: every press is refused from then on.`
    case 'missing-prompt':
      return `A player in front of ${facts.interactable} (${facts.state}) is shown nothing, though it can be pressed; other things in this level announce themselves.`
    case 'same-look':
      return `${facts.interactable} looks the same while ${facts.states[0]} and while ${facts.states[1]} ("${facts.look}"), but answers differently.`
    case 'one-channel':
      return `That ${facts.interactable} refuses is told by ${facts.channels.join(' and ')} alone: a player who cannot ${facts.channels.includes('sound') ? 'hear' : 'feel'} it is told nothing.`
    case 'wrong-item-named':
      return `${facts.interactable} refuses since ${facts.isMissing ? `the ${facts.about} is missing` : `there is no room for the ${facts.about}`}, but its message speaks of the ${facts.names}: "${facts.message}".`
    case 'unused-feedback':
      return `What ${facts.interactable} has to tell when ${momentText(facts.moment)} (${facts.channel} "${facts.text}") is never perceived: that never happens.`
    case 'stale-acceptance':
      return `Nothing is found any more that this accepts: ${facts.accepted}${facts.of === null ? '' : ` of ${facts.of}`}.`
  }
}

function hushText({ isBlank, hush }: Extract<Facts, { rule: 'silent-refusal' }>): string {
  if (isBlank) return 'the message that says so is still to be written'
  switch (hush) {
    case 'never':
      return 'nothing says so: no sound, no message'
    case 'once':
      return 'says so only the first time: the next press is met with silence'
    case 'pause':
      return 'says so only after a pause: another press before that is met with silence'
    case 'within':
      return 'says so only to players who stand near: a press from farther off is met with silence'
  }
}

/** What to do about a finding, in a sentence. */
export function fixText(facts: Facts): string {
  switch (facts.rule) {
    case 'unknown-name':
      return problemFix(facts.problem)
    case 'duplicate-name':
      return 'Rename one of the two.'
    case 'bad-value':
    case 'blocked-start':
      return problemFix(facts.problem)
    case 'unlisted-level':
      return facts.nearest === null ? 'List the level in the project, or lead elsewhere.' : `Write "${facts.nearest}".`
    case 'stale-reference':
      return `Let ${facts.interactable} point at ${facts.free}.`
    case 'inconsistent-instance':
      return facts.definition === null
        ? `Give ${listed(facts.odd)} what the others have, or accept that ${facts.odd.length > 1 ? 'they differ' : 'it differs'}.`
        : `Put into the type what its instances all say instead, and take it out of them.`
    case 'inert-interactable':
      return 'Give it a setting, or a transition, that something sets off; or make it an obstacle.'
    case 'no-way-out':
      return 'Say lasting: true where staying so is meant, or add a transition that leaves it.'
    case 'overlapping-guards':
      return 'Ask in each for what sets it apart from the other, or make one a special case of the other.'
    case 'unheard-signal':
      return facts.nearest === null
        ? 'Let something wait for it, or take it out.'
        : `Write "${facts.nearest}", which is heard; or let something wait for "${facts.signal}".`
    case 'unsent-signal':
      if (facts.elsewhere?.isTag)
        return `Give ${facts.interactable} the tag "${facts.elsewhere.to}", or send it there, too.`
      if (facts.elsewhere) return `Send it to ${facts.interactable}, too, or to all.`
      return facts.nearest === null
        ? 'Let something send it.'
        : `Write "${facts.nearest}", which is sent; or let something send "${facts.signal}".`
    case 'unobtainable-item':
      return `Let something give the ${facts.title}, or ask for something else.`
    case 'unused-item':
      return facts.givenBy.length > 0 ? 'Let something ask for it, or take it out of the level.' : 'Take it out.'
    case 'never-blocks':
      return 'Say in its shut state what it blocks.'
    case 'leftover-test-only':
      return 'Take it out before the level is handed on, or accept it until then.'
    case 'opposite-flags':
      return 'Use one flag, and ask for it with is: false where it must not be set; or set both at each place.'
    case 'no-goal':
      return 'Add one under goals.'
    case 'goal-already-met':
      return 'Turn the comparison round, or ask for what is to be brought about.'
    case 'out-of-reach':
      return outOfReachFix(facts)
    case 'unreachable-state':
      return 'Add a transition to it, or take it out.'
    case 'dead-transition':
      return 'Fix what it waits for, or take it out.'
    case 'unreachable-goal':
      return rootFix(facts.obstruction?.root ?? null)
    case 'soft-lock':
      return 'Keep the way back open: let it be undone, or let the transition ask for what must be done before.'
    case 'wasted-item':
      return 'Keep the item, give another one, or ask here for something else.'
    case 'stuck-state':
      return 'Add a transition that leads on from there, or let what it waits for come again.'
    case 'signal-storm':
      return 'Let one of the transitions in the circle send nothing, or hear nothing in that state.'
    case 'lost-item':
      return facts.level === null
        ? 'Ask for room first (room-for), or keep what does not fit (take-out, hands-over: what-fits).'
        : `Do not drop it there, or give another one in ${facts.level}.`
    case 'locked-again':
      return 'Let the project remember it (except), or keep the item.'
    case 'silent-refusal':
      return facts.isBlank ? 'Write the message.' : 'Say what is missing, or let it sound.'
    case 'silent-change':
      return 'Add feedback to the transition, or let the two states look different.'
    case 'repeated-feedback':
      return 'Say once: true or pause: 60 in that entry, or let the circle end.'
    case 'stuck-prompt':
      return 'Show the prompt only while a press would do something.'
    case 'missing-prompt':
      return 'Announce it under focused: by a prompt, a highlight, a light or an icon.'
    case 'same-look':
      return 'Let them look different.'
    case 'one-channel':
      return 'Add a message, or something else that is seen.'
    case 'wrong-item-named':
      return 'Write {item}: it stands for what the refusal is about.'
    case 'unused-feedback':
      return 'Take it out, or tell it at a moment that comes.'
    case 'stale-acceptance':
      return 'Take the acceptance out.'
  }
}

function unsentText({ interactable, signal, elsewhere }: Extract<Facts, { rule: 'unsent-signal' }>): string {
  if (!elsewhere) return `${interactable} waits for the signal "${signal}", which nothing sends.`
  const { by, to, isTag } = elsewhere
  const receivers = isTag ? `what has the tag "${to}", which ${interactable} lacks` : to
  return `${interactable} waits for the signal "${signal}", which ${by} sends only to ${receivers}.`
}

/** Names as one says them: `a`, `a and b`, `a, b and c`. */
export function listed(names: readonly string[]): string {
  return names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}`
}

function oddText({ type, part, sides, odd, definition }: Extract<Facts, { rule: 'inconsistent-instance' }>): string {
  const [most] = sides
  const many = most?.instances.length ?? 0
  const all = sides.reduce((sum, { instances }) => sum + instances.length, 0)
  if (definition !== null) {
    return `${String(many)} of ${String(all)} instances of ${type} say ${part}: ${valueText(most?.value)} instead of what the type says (${definition}): it may be the type that is wrong.`
  }
  const side = sides.find(({ instances }) => instances.includes(odd[0] ?? ''))
  return `${listed(odd)} ${odd.length > 1 ? 'differ' : 'differs'} from its siblings: ${String(many)} of ${String(all)} instances of ${type} have ${part}: ${valueText(most?.value)}, this one ${valueText(side?.value)}.`
}

function valueText(value: string | null | undefined): string {
  if (value === null || value === undefined) return 'has nothing there'
  return value === 'given' ? 'something there' : value
}

function becauseText(reasons: readonly Reason[], items: readonly string[]): string {
  if (items.length > 0) return `, because the ${items.join(' and the ')} is missing`
  if (reasons.includes('room-for') || reasons.includes('something-fits')) return ', because there is no room'
  return ''
}

const momentTexts = {
  focused: 'a press would go to it',
  accepted: 'a press is accepted',
  refused: 'a press is refused',
  missing: 'an item is missing',
  'too-full': 'there is no room',
  started: 'a motion begins',
  finished: 'a motion ends',
  gained: 'somebody gets an item from it',
  consumed: 'somebody uses an item up on it',
}

function momentText(moment: keyof typeof momentTexts): string {
  return momentTexts[moment]
}

function problemText(problem: NameProblem): string {
  switch (problem.rule) {
    case 'unknown-name':
      return unknownText(problem)
    case 'duplicate-name':
      return `"${problem.subject}" is also the name of ${problem.other}: "walk to ${problem.subject}" could mean either.`
    case 'bad-value':
      return wrongText(problem.subject, problem.wrong)
    case 'blocked-start':
      return blockedStartText(problem)
  }
}

function problemFix(problem: NameProblem): string {
  if (problem.rule === 'bad-value') return wrongFix(problem.wrong)
  if (problem.rule === 'blocked-start') {
    return problem.nearest === null ? 'Move the start into a room.' : `Start at [${problem.nearest.join(', ')}].`
  }
  if (problem.rule === 'unknown-name' && problem.nearest !== null) {
    if (problem.misspelt) return `Rename "${problem.nearest}" to "${problem.name}".`
    const isSure = isMisspelt(problem.name, problem.nearest)
    return isSure ? `Write "${problem.nearest}".` : `Perhaps "${problem.nearest}" is meant.`
  }
  if (problem.rule === 'unknown-name' && problem.kind === 'zone') {
    return 'Zones belong to interactables: say which with "of", or give one a zone of that name.'
  }
  return 'Write the name of one that is there, or add it to the level.'
}

function unknownText({ kind, name, nearest, misspelt }: Extract<NameProblem, { rule: 'unknown-name' }>): string {
  if (!misspelt) return `There is no ${kind} "${name}".`
  const { paths, uses } = misspelt
  const own =
    uses === 0 ? 'nothing names it' : `only ${uses === 1 ? 'one place names' : `${String(uses)} places name`} it`
  return `The ${kind} "${nearest ?? ''}" is defined, but ${own}; ${String(paths.length)} places name "${name}", which is not.`
}

function blockedStartText({ subject, where, nearest }: Extract<NameProblem, { rule: 'blocked-start' }>): string {
  const why = where === 'outside' ? 'that is outside of every room' : 'a wall or an obstacle is too near'
  const spot =
    nearest === null
      ? 'There is no spot near by where it could'
      : `The nearest spot where it can is [${nearest.join(', ')}]`
  return `${subject} cannot stand where it starts: ${why}. ${spot}.`
}

function wrongText(subject: string, wrong: WrongValue): string {
  switch (wrong.is) {
    case 'more-than-carried':
      return `${String(wrong.count)} ${wrong.item} are asked for, but nobody can carry more than ${String(wrong.most)}.`
    case 'doorway-apart':
      return `${subject} does not reach from ${wrong.rooms.join(' to ')}: nobody can walk through it.`
    case 'wheels':
      return `The dial has ${String(wrong.there)} wheels, but ${String(wrong.asked)} numbers are asked for: it can never stand so.`
    case 'dial-too-far':
      return `The dial goes from 0 to ${String(wrong.last)}: it can never show ${String(wrong.number)}.`
    case 'extends-circle':
      return `${wrong.type} extends, by way of others, itself: what it would take over is left out.`
    case 'outline-crossed':
      return `The outline of ${subject} crosses itself, or has no area.`
    case 'place-closed':
      return `Nobody can stand at ${subject}: it is outside every room, or too close to a wall.`
  }
}

function wrongFix(wrong: WrongValue): string {
  switch (wrong.is) {
    case 'more-than-carried':
      return `Ask for fewer, or let ${wrong.item} stack.`
    case 'doorway-apart':
      return 'Move it, turn it, or make it deeper.'
    case 'wheels':
      return 'Ask for as many numbers as there are wheels.'
    case 'dial-too-far':
      return 'Write a number that the dial has, or give it more positions.'
    case 'extends-circle':
      return 'Break the circle.'
    case 'outline-crossed':
      return 'List its corners in order round it.'
    case 'place-closed':
      return 'Move it.'
  }
}

function outOfReachText(facts: Extract<Facts, { rule: 'out-of-reach' }>): string {
  const start = `Nobody can press ${facts.interactable}`
  const { nearest } = facts
  if (!nearest) return `${start}: it stands nowhere that a character could come near.`
  const spot = `at the nearest spot, [${nearest.at.map((metres) => metres.toFixed(2)).join(', ')}],`
  // So many digits that what is missing can be seen.
  const missing = nearest.distance - nearest.limit
  const digits = missing >= 0.01 ? 2 : missing >= 0.001 ? 3 : 4
  const metres = (length: number): string => `${length.toFixed(digits)} m`
  const misses = metres(missing)
  switch (nearest.why) {
    case 'behind-a-wall':
      return `${start}: ${spot} a wall is in between.`
    case 'out-of-range':
      return `${start}: ${spot} it is ${metres(nearest.distance)} away, and its range ends at ${metres(nearest.limit)}. ${misses} are missing.`
    case 'out-of-reach':
      return `${start}: ${spot} its handle is ${metres(nearest.distance)} from the hand, which reaches ${metres(nearest.limit)}. ${misses} are missing.`
  }
}

function outOfReachFix({ nearest }: Extract<Facts, { rule: 'out-of-reach' }>): string {
  if (!nearest) return 'Give it a place.'
  if (nearest.why === 'behind-a-wall') return 'Move it out of the wall.'
  if (nearest.why === 'out-of-range') return 'Move it, or widen its range.'
  return 'Move it nearer to where one can stand.'
}

function goalText({ goal, title }: { readonly goal: string; readonly title: string | null }): string {
  return title === null ? goal : `${goal} ("${title}")`
}

function afterText({
  interactable,
  transition,
}: {
  readonly interactable: string | null
  readonly transition: string | null
}): string {
  return interactable === null || transition === null
    ? 'A player can come to where'
    : `Once ${interactable} has made its transition ${transition} at the wrong time,`
}

/** What a goal needs, link by link, down to what keeps it from being met. */
function chainText({ chain, root }: Obstruction): string {
  // Of what goes on in one thing, only the last is said.
  const thing = (link: string): string => link.slice(0, Math.max(0, link.lastIndexOf(' ')))
  const links = chain.filter((link, i) => i === 0 || thing(link) === '' || thing(link) !== thing(chain[i - 1]!))
  const needs = links.length === 0 ? '' : `It needs: ${links.join(' ← ')}. `
  return `${needs}${rootText(root)}`
}

function rootText({ kind, name, count, from }: Root): string {
  switch (kind) {
    case 'too-few':
      return `Only ${String(count)} can be had at once, from ${listed(from)}.`
    case 'none':
      return `Nothing gives the ${name}.`
    case 'never-set':
      return `Nothing sets the flag ${name}.`
    case 'never-sent':
      return `Nothing sends the signal "${name}".`
    case 'no-way':
      return `No transition leads to ${name}.`
    case 'shut':
      return `${name} shuts the way there, and never gives way.`
    case 'no-reach':
      return `Nobody can ever come near enough to ${name}.`
    case 'circle':
      return `That goes in a circle: ${name} needs itself.`
    case 'never-taken':
      return `Nothing that a player can do sets off ${name}.`
  }
}

function rootFix(root: Root | null): string {
  if (!root) return 'Give what it asks for, or ask for less.'
  switch (root.kind) {
    case 'never-taken':
      return 'Give what it asks for, or ask for less.'
    case 'too-few':
      return 'Let something give more of them, or ask for fewer here.'
    case 'none':
      return `Let something give the ${root.name}, or ask for something else.`
    case 'never-set':
      return `Let something set ${root.name}, or ask for something else.`
    case 'never-sent':
      return `Let something send "${root.name}", or wait for another signal.`
    case 'no-way':
      return 'Add a transition that leads there, or ask for another state.'
    case 'shut':
      return 'Give it a state in which it bars nothing, or another way round it.'
    case 'no-reach':
      return 'Move it to where it can be reached, or make its range larger.'
    case 'circle':
      return 'Move one of these to where it can be had without the others.'
  }
}

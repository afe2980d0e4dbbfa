import type { NameProblem, WrongValue } from '../interactables/index.ts'
import type { Facts } from './rule.ts'

/** What a finding says, in a sentence or two: what happens to the player, and what to do. */
export function findingText(facts: Facts): string {
  switch (facts.rule) {
    case 'unknown-name':
    case 'duplicate-name':
    case 'bad-value':
      return problemText(facts.problem)
    case 'no-goal':
      return 'The level has no goal, so whether a player can get stuck in it was not judged. Add one under goals.'
    case 'out-of-reach':
      return outOfReachText(facts)
    case 'unreachable-state':
      return `${facts.interactable} can never be ${facts.state}: nothing that a player can do leads there. Add a transition to it, or take it out.`
    case 'dead-transition':
      return `${facts.interactable} never takes ${facts.transition} (${facts.from.join(', ')} -> ${facts.to}, on ${facts.trigger}): nothing that a player can do sets it off. Mend what it waits for, or take it out.`
    case 'unreachable-goal':
      return `The goal ${goalText(facts)} cannot be met, whatever a player does.`
    case 'soft-lock':
      return `${afterText(facts)} the goal ${goalText(facts)} can never be met any more, whatever the player does.`
    case 'wasted-item':
      return `The ${facts.items.join(', the ')} can be wasted on ${facts.interactable ?? ''} (${facts.transition ?? ''}): then the goal ${goalText(facts)} can never be met any more.`
    case 'silent-refusal':
      return `${facts.interactable} refuses a press while ${facts.state} and says nothing: no sound, no message. Add feedback for refused.`
  }
}

function problemText(problem: NameProblem): string {
  switch (problem.rule) {
    case 'unknown-name': {
      const meant = problem.nearest === null ? '' : ` Did you mean "${problem.nearest}"?`
      return `There is no ${problem.kind} "${problem.name}".${meant}`
    }
    case 'duplicate-name':
      return `"${problem.subject}" is also the name of ${problem.other}: "walk to ${problem.subject}" could mean either. Rename one.`
    case 'bad-value':
      return wrongText(problem.subject, problem.wrong)
  }
}

function wrongText(subject: string, wrong: WrongValue): string {
  switch (wrong.is) {
    case 'more-than-carried':
      return `${String(wrong.count)} ${wrong.item} are asked for, but nobody can carry more than ${String(wrong.most)}. Ask for fewer, or let ${wrong.item} stack.`
    case 'doorway-apart':
      return `${subject} does not reach from ${wrong.rooms.join(' to ')}: nobody can walk through it. Move it, turn it, or make it deeper.`
    case 'wheels':
      return `The dial has ${String(wrong.there)} wheels, but ${String(wrong.asked)} numbers are asked for: it can never stand so.`
    case 'extends-circle':
      return `${wrong.type} extends, by way of others, itself: what it would take over is left out. Break the circle.`
    case 'outline-crossed':
      return `The outline of ${subject} crosses itself, or has no area. List its corners in order round it.`
    case 'start-near-wall':
      return `${subject} starts closer to a wall or an obstacle than half its girth. Move the start.`
    case 'start-outside':
      return `${subject} starts outside every room. Move the start.`
    case 'place-closed':
      return `Nobody can stand at ${subject}: it is outside every room, or too close to a wall. Move it.`
  }
}

function outOfReachText(facts: Extract<Facts, { rule: 'out-of-reach' }>): string {
  const start = `Nobody can press ${facts.interactable}`
  const { nearest } = facts
  if (!nearest) return `${start}: it stands nowhere that a character could come near.`
  const spot = `${start}: at the nearest spot, ${nearest.distance.toFixed(2)} m from hand to handle,`
  switch (nearest.why) {
    case 'behind-a-wall':
      return `${spot} a wall is in between. Move it out of the wall.`
    case 'out-of-range':
      return `${spot} its range ends at ${nearest.limit.toFixed(2)} m. Move it, or widen its range.`
    default:
      return `${spot} the hand reaches ${nearest.limit.toFixed(2)} m. Move it nearer to where one can stand.`
  }
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

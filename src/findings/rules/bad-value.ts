import type { NameProblem, WrongValue } from '../../interactables/index.ts'
import { askProblems } from '../shared/names.ts'
import type { Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface BadValueFacts {
  readonly problem: Extract<NameProblem, { rule: 'bad-value' }>
}

/** A well-formed value that cannot be meant. */
export const badValue: Rule<BadValueFacts> = {
  name: 'bad-value',
  severity: 'error',
  isByLevel: true,
  ask: (context) => askProblems(context, 'bad-value'),
  says({ problem }) {
    return wrongText(problem.subject, problem.wrong)
  },
  fix({ problem }) {
    return wrongFix(problem.wrong)
  },
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
    case 'ends-too-soon':
      return `The range of ${subject} begins at ${String(wrong.radius)} m and would end at ${String(wrong.until)} m, which is nearer: until is left out.`
    case 'between-storeys':
      return `${subject} joins ${wrong.rooms.join(' and ')}, which are on different storeys (${wrong.storeys.map(storeyName).join(', ')}).`
    case 'drawn-over':
      return `${subject} is drawn over ${wrong.room}, which is on another storey (${wrong.storeys.map(storeyName).join(', ')}).`
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
    case 'ends-too-soon':
      return 'Let it end as far off as it begins, or farther.'
    case 'between-storeys':
      return 'Put both rooms on one storey, or join them by an exit at each end of the stairs.'
    case 'drawn-over':
      return 'Draw the storeys side by side, and say how they lie over one another with drawn-at.'
    case 'place-closed':
      return 'Move it.'
  }
}

function storeyName(storey: string | null): string {
  return storey ?? 'none'
}

import { goalText, listed } from '../shared/texts.ts'
import { carriedLookout, type Obstruction, obstructionOf, type Root } from '../shared/obstruction.ts'
import { ruledOut, found, undecided, type Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface UnreachableGoalFacts {
  readonly goal: string
  readonly title: string | null
  /** What stands in its way; null where that is not known. */
  readonly obstruction: Obstruction | null
  /** Where it can be met from other starts of the project alone: the usual one, and those; null where it can be met from none. */
  readonly starts: { readonly usual: string; readonly others: readonly string[] } | null
}

/** A goal that no player can ever meet; or none who begins where play usually begins. */
export const unreachableGoal: Rule<UnreachableGoalFacts> = {
  name: 'unreachable-goal',
  severity: 'error',
  isAboutGoals: true,
  observation: carriedLookout,
  ask({ stage, evidence }) {
    return stage.expanded.goals.map(({ name, title, path }, goal) => {
      const answer = evidence.unreachable[goal]!
      const [usual, ...others] = evidence.byStart
      if (usual?.evidence.unreachable[goal]!.answer === 'found' && answer.answer !== 'found') {
        const from = others.filter((one) => one.evidence.unreachable[goal]!.answer === 'ruled-out')
        const starts = { usual: usual.start, others: from.map(({ start }) => start) }
        const obstruction = obstructionOf(stage, usual.evidence, goal)
        const facts = { goal: name, title, obstruction, starts } as const
        return found(name, { path: obstruction?.root.path ?? path, facts, steps: [], grant: null })
      }
      if (answer.answer === 'ruled-out') return ruledOut(name)
      if (answer.answer === 'undecided') return undecided(name, answer.why)
      const obstruction = obstructionOf(stage, evidence, goal)
      const facts = { goal: name, title, obstruction, starts: null } as const
      return found(name, { path: obstruction?.root.path ?? path, facts, steps: [], grant: null })
    })
  },
  unmet: ({ goal, obstruction, starts }) => (starts ? null : { goal, isExplained: obstruction !== null }),
  says(facts) {
    const { starts, obstruction } = facts
    const why = obstruction ? ` ${chainText(obstruction)}` : ''
    if (!starts) return `The goal ${goalText(facts)} cannot be met, whatever a player does.${why}`
    const only = starts.others.length > 0 ? `, only from ${listed(starts.others)}` : ''
    return `The goal ${goalText(facts)} cannot be met by a player who starts at ${starts.usual}, where play usually starts${only}.${why}`
  },
  fix(facts) {
    return rootFix(facts.obstruction?.root ?? null)
  },
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
    case 'beyond-itself':
      return `${name} can only be pressed from beyond itself, and it shuts the way there.`
    case 'never-counts':
      return `Nothing brings ${name}: it comes to ${String(count)} at the most.`
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
    case 'beyond-itself':
      return 'Let it be pressed from this side, too: by where its handle is, how far its range goes, or where one must stand.'
    case 'never-counts':
      return 'Let something count it so far, or ask for another number.'
    case 'circle':
      return 'Move one of these to where it can be had without the others.'
  }
}

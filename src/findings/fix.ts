import type { NameProblem, When } from '../interactables/index.ts'
import { changedLines, edited, type Edit, isMisspelt, type Source } from '../model/index.ts'
import type { Stage } from '../play/index.ts'
import { fillIn } from './refusals.ts'
import type { Found } from './rule.ts'
import { fixText } from './words.ts'

/** What to do about a finding: in words, and where it can be said, as a change of the file. */
export interface Fix {
  readonly says: string
  /** Whether it can be made without asking anybody: `zintel check --fix` makes it. */
  readonly isAutomatic: boolean
  readonly edit: Edit | null
}

/** The fix of a finding. Edits that cannot be made in this text are left out. */
export function fixOf(stage: Stage, source: Source, found: Found): Fix {
  const says = fixText(found.facts)
  const proposed = proposal(stage, found)
  const text = proposed && edited(source, proposed.edit)
  if (!proposed || text === null || changedLines(source.text, text) === null)
    return { says, isAutomatic: false, edit: null }
  // What cannot be read afterwards is no fix.
  if (source.text !== '' && !source.reads(text)) return { says, isAutomatic: false, edit: null }
  return { says, ...proposed }
}

interface Proposal {
  readonly edit: Edit
  readonly isAutomatic: boolean
}

const sure = (edit: Edit): Proposal => ({ edit, isAutomatic: true })
const likely = (edit: Edit): Proposal => ({ edit, isAutomatic: false })

function proposal(stage: Stage, { path, facts }: Found): Proposal | null {
  if (path === null) return null
  const { interactables } = stage.expanded
  const placed = 'interactable' in facts ? interactables.find(({ name }) => name === facts.interactable) : undefined
  switch (facts.rule) {
    case 'unknown-name': {
      const { problem } = facts
      if (problem.rule !== 'unknown-name' || problem.nearest === null) return null
      if (problem.misspelt) {
        const edit: Edit = { do: 'rename', path, name: problem.name }
        return problem.misspelt.uses === 0 ? sure(edit) : likely(edit)
      }
      // What is only a part of the name may have been meant otherwise: that is asked, and not written.
      if (!isMisspelt(problem.name, problem.nearest)) return null
      return sure(renamed(stage, path, problem.nearest))
    }
    case 'blocked-start': {
      const { problem } = facts
      if (problem.rule !== 'blocked-start' || problem.nearest === null) return null
      return likely({ do: 'replace', path, value: [...problem.nearest] })
    }
    case 'unlisted-level':
      return facts.nearest === null ? null : sure({ do: 'replace', path, value: facts.nearest })
    case 'unsent-signal':
      if (facts.elsewhere) return facts.elsewhere.isTag ? tagFix(stage, facts.interactable, facts.elsewhere.to) : null
      return facts.nearest === null ? null : likely({ do: 'replace', path, value: facts.nearest })
    case 'unheard-signal':
      return facts.nearest === null ? null : likely({ do: 'replace', path, value: facts.nearest })
    case 'stale-reference':
      return likely({ do: 'replace', path, value: facts.free })
    case 'no-way-out':
      return path.startsWith('types.') ? likely({ do: 'add', path, key: 'lasting', value: true }) : null
    case 'unused-item':
      // What a wrong name may have meant is not in no use.
      if (facts.givenBy.length > 0 || stage.expanded.problems.some((one) => isMeant(one, facts.item))) return null
      return sure({ do: 'remove', path })
    case 'leftover-test-only':
      return likely({ do: 'remove', path: path.replace(/\.test-only$/, '') })
    case 'never-blocks': {
      const shut = placed?.states[placed.initial]
      return shut?.path.startsWith('types.')
        ? likely({ do: 'add', path: shut.path, key: 'blocks', value: ['walk', 'sight'] })
        : null
    }
    case 'wasted-item':
      return valueIn(stage, path) === 'consume' ? likely({ do: 'replace', path, value: 'keep' }) : null
    case 'silent-refusal':
      return facts.isBlank ? null : refusalLine(stage, facts.interactable, facts.items.length > 0)
    case 'silent-change': {
      const message = `${fillIn} what happens)`
      if (path.startsWith('types.')) return likely({ do: 'add', path, key: 'feedback', value: [{ message }] })
      // Of other changes of a built-in type no moment tells.
      const moment = momentOf(placed?.transitions.find(({ name }) => name === facts.transition)?.when.kind)
      return moment && likely(toldAt(stage, facts.interactable, moment, message))
    }
    case 'missing-prompt':
      return likely({
        do: 'add',
        path: `interactables.${facts.interactable}.feedback`,
        key: 'focused',
        value: [{ prompt: `Use the ${facts.interactable.replaceAll('-', ' ')}` }],
      })
    case 'stuck-prompt':
      return likely({ do: 'add', path: path.replace(/\.prompt$/, ''), key: 'shown', value: 'if-accepted' })
    case 'one-channel':
      return path.includes('.feedback.')
        ? likely({ do: 'append', path, value: { message: `${fillIn} why it refuses)` } })
        : null
    case 'wrong-item-named': {
      const at = messagePath(stage, path, facts.message)
      const words = new RegExp(facts.names.replaceAll(/[.*+?^${}()|[\]\\]/g, '\\$&'), 'i')
      const value = facts.message.replace(words, '{item}')
      return at === null || value === facts.message ? null : likely({ do: 'replace', path: at, value })
    }
    case 'unused-feedback':
      return likely({ do: 'remove', path })
    case 'stale-acceptance': {
      // An empty list of accepted findings is none.
      const isOnly = stage.expanded.level['accepted-findings']?.length === 1
      return likely({ do: 'remove', path: isOnly ? 'accepted-findings' : path })
    }
    default:
      return null
  }
}

function isMeant(problem: NameProblem, name: string): boolean {
  return problem.rule === 'unknown-name' && problem.nearest === name
}

/** Another name at a path: in place of a value, or of the key that the path ends in. */
function renamed(stage: Stage, path: string, name: string): Edit {
  return typeof valueIn(stage, path) === 'string' ? { do: 'replace', path, value: name } : { do: 'rename', path, name }
}

/** A message for a refusal, to be filled in. */
function refusalLine(stage: Stage, interactable: string, isMissing: boolean): Proposal {
  const message = isMissing ? `${fillIn} {item} is missing)` : `${fillIn} why it refuses)`
  return sure(toldAt(stage, interactable, 'refused', message))
}

/** Moments that come with a change. */
type Comes = 'accepted' | 'finished'

/** The moment that comes with a change that something sets off; null where none does for certain. */
function momentOf(trigger: When['kind'] | undefined): Comes | null {
  if (trigger === 'press' || trigger === 'hold') return 'accepted'
  return trigger === 'motion-end' ? 'finished' : null
}

/** A message at a moment of an instance, beside what is told there already. */
function toldAt(stage: Stage, interactable: string, moment: 'refused' | Comes, message: string): Edit {
  const path = `interactables.${interactable}.feedback`
  const isThere = stage.expanded.level.interactables?.[interactable]?.feedback?.[moment] !== undefined
  return isThere
    ? { do: 'append', path: `${path}.${moment}`, value: { message } }
    : { do: 'add', path, key: moment, value: [{ message }] }
}

/** A tag for an instance, beside those that it has already. */
function tagFix({ expanded }: Stage, interactable: string, tag: string): Proposal | null {
  const instance = expanded.level.interactables?.[interactable]
  if (!instance) return null
  const path = `interactables.${interactable}`
  return likely(
    instance.tags ? { do: 'append', path: `${path}.tags`, value: tag } : { do: 'add', path, key: 'tags', value: [tag] },
  )
}

/** The path of the message in what is told at a path; null where it is not there. */
function messagePath(stage: Stage, path: string, message: string): string | null {
  const entries = valueIn(stage, path)
  if (!Array.isArray(entries)) return null
  const at = (entries as { message?: unknown }[]).findIndex((entry) => entry.message === message)
  return at < 0 ? null : `${path}.${String(at)}.message`
}

function valueIn({ expanded }: Stage, path: string): unknown {
  let at: unknown = expanded.level
  for (const key of path.split('.')) {
    if (typeof at !== 'object' || at === null) return undefined
    at = (at as Record<string, unknown>)[key]
  }
  return at
}

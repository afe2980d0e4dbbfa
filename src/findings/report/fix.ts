import { changedLines, edited, type Edit, type Source } from '../../model/index.ts'
import { unmarked } from '../../interactables/index.ts'
import type { Stage } from '../../play/index.ts'
import type { Found, Rule } from '../rule.ts'

/** What to do about a finding: in words, and where it can be said, as a change of the file. */
export interface Fix {
  readonly says: string
  /** Whether it can be made without asking anybody: `zintel check --fix` makes it. */
  readonly isAutomatic: boolean
  readonly edit: Edit | null
}

/** The fix of a finding. Edits that cannot be made in this text are left out. */
export function fixOf(stage: Stage, source: Source, rule: Rule, { path, facts }: Found): Fix {
  const says = rule.fix(facts)
  const made = path === null ? null : (rule.edit?.({ stage, path, facts }) ?? null)
  const proposed = made && { ...made, edit: unmarked(made.edit) }
  const text = proposed && edited(source, proposed.edit)
  if (!proposed || text === null || changedLines(source.text, text) === null)
    return { says, isAutomatic: false, edit: null }
  // What cannot be read afterwards is no fix.
  if (source.text !== '' && !source.reads(text)) return { says, isAutomatic: false, edit: null }
  return { says, ...proposed }
}

import { likely } from '../shared/edits.ts'
import { writtenEntries } from '../shared/entries.ts'
import { type Asked, found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface StrayIconFacts {
  readonly owner: string
  readonly icon: string
  /** It is put on the screen for good, or taken off without ever being put on. */
  readonly is: 'kept' | 'never-shown'
}

/** An icon that comes on the screen and that nothing takes off again, or that is taken off and never comes. */
export const strayIcon: Rule<StrayIconFacts> = {
  name: 'stray-icon',
  severity: 'advice',
  isByLevel: true,
  ask({ stage: { expanded } }) {
    const all = writtenEntries(expanded.level)
    const hidden = new Set(all.map(({ entry }) => entry.hide))
    const shown = new Set(all.map(({ entry }) => entry.icon))
    return all.flatMap(({ entry, path, owner, moment }): Asked<StrayIconFacts>[] => {
      const icon = entry.icon ?? entry.hide
      if (icon === undefined) return []
      // What is shown while a press would go to something ends by itself; a number of items is meant to stay.
      const isEnding = moment === 'focused' || entry.for !== undefined || entry.counts !== undefined
      const isFine = entry.icon !== undefined ? isEnding || hidden.has(icon) : shown.has(icon)
      if (isFine) return [ruledOut(`${owner}/${icon}`)]
      const is = entry.icon === undefined ? 'never-shown' : 'kept'
      return [found(`${owner}/${icon}`, { path, facts: { owner, icon, is }, steps: [], grant: null })]
    })
  },
  says({ owner, icon, is }) {
    return is === 'kept'
      ? `${owner} puts the icon ${icon} on the screen, and nothing ever takes it off.`
      : `${owner} takes the icon ${icon} off the screen, and nothing ever puts it there.`
  },
  fix({ icon, is }) {
    return is === 'kept'
      ? `Say for how long it stays (for: 3), or take it off with hide: ${icon} when it is over.`
      : 'Name the icon that is shown, or take the line out.'
  },
  edit({ path, facts }) {
    return facts.is === 'kept' ? likely({ do: 'add', path, key: 'for', value: 3 }) : likely({ do: 'remove', path })
  },
}

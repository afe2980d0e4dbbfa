import { isOneSlip } from '../../model/index.ts'
import { likely } from '../shared/edits.ts'
import { writtenEntries } from '../shared/entries.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface OddSoundFacts {
  readonly owner: string
  readonly sound: string
  readonly like: string
}

/** A sound that is named once, and whose name is that of another sound, or of something in the level, with a slip. */
export const oddSound: Rule<OddSoundFacts> = {
  name: 'odd-sound',
  severity: 'advice',
  isByLevel: true,
  ask({ stage: { expanded } }) {
    const { level, signals } = expanded
    const all = writtenEntries(level).filter(({ entry }) => entry.sound !== undefined)
    const uses = new Map<string, number>()
    for (const { entry } of all) uses.set(entry.sound!, (uses.get(entry.sound!) ?? 0) + 1)
    const names = [...Object.keys(level.interactables ?? {}), ...Object.keys(level.types ?? {}), ...signals]
    return all.map(({ entry, path, owner }) => {
      const sound = entry.sound!
      const others = [...[...uses].flatMap(([other, n]) => (n > 1 ? [other] : [])), ...names]
      const like =
        uses.get(sound) === 1 && !names.includes(sound) ? others.find((other) => isOneSlip(sound, other)) : undefined
      if (like === undefined) return ruledOut(`${owner}/${sound}`)
      return found(`${owner}/${sound}`, {
        path: `${path}.sound`,
        facts: { owner, sound, like },
        steps: [],
        grant: null,
      })
    })
  },
  says({ owner, sound, like }) {
    return `${owner} makes the sound ${sound}, which is named nowhere else; it may be ${like} misspelt.`
  },
  fix({ like }) {
    return `Write ${like}, if that is meant.`
  },
  edit({ path, facts }) {
    return likely({ do: 'replace', path, value: facts.like })
  },
}

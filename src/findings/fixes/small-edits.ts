import type { Expanded } from '../../interactables/index.ts'
import { type Edit, isMisspelt, join, type Level } from '../../model/index.ts'

/** A small change of a level that somebody may have meant. */
export interface SmallEdit {
  readonly edit: Edit
  /** How much it changes: 1 for a word that was mistaken for another, more for what says something else; 4 at the most. */
  readonly size: number
  /** Whether it puts another name in place of one. */
  readonly isName: boolean
  /** What to do, in a sentence. */
  readonly says: string
}

/** The small changes that are possible in parts of a level, such as transitions or instances, by their paths; empty for parts that are not there. */
export function smallEdits(expanded: Expanded, parts: readonly string[]): SmallEdit[] {
  const { level } = expanded
  const names = namesIn(expanded)
  const all: SmallEdit[] = []
  for (const part of parts) visit(valueAt(level, part), part, part.split('.').at(-1) ?? '', {})
  return all

  function visit(value: unknown, at: string, key: string, parent: Parent): void {
    if (isAside.has(key)) return
    if (typeof value === 'string') all.push(...ofWord(value, at, key, parent, names))
    else if (typeof value === 'number') all.push(...ofNumber(value, at, key))
    else if (typeof value === 'boolean') all.push(...ofBoolean(value, at, key))
    else if (typeof value === 'object' && value !== null) {
      all.push(...ofPart(value as Parent, at, key))
      for (const [inner, one] of Object.entries(value)) {
        visit(
          one,
          join(at, inner),
          Array.isArray(value) ? key : inner,
          Array.isArray(value) ? parent : (value as Parent),
        )
      }
    }
  }
}

type Parent = Readonly<Record<string, unknown>>

/** What does not decide what can happen. */
const isAside = new Set([
  'feedback',
  'title',
  'at',
  'turn',
  'look',
  'type',
  'storey',
  'hinge',
  'motion',
  'accepted-findings',
])

/** The names in a level, of each kind. */
interface Names {
  readonly items: readonly string[]
  readonly flags: readonly string[]
  readonly counters: readonly string[]
  readonly signals: readonly string[]
  /** For each interactable, its siblings: other instances of its type. */
  readonly siblings: ReadonlyMap<string, readonly string[]>
  /** For each interactable, and for each type, the states of it. */
  readonly states: ReadonlyMap<string, readonly string[]>
  readonly statesOfTypes: ReadonlyMap<string, readonly string[]>
  /** How often each word stands in the level. */
  readonly uses: ReadonlyMap<string, number>
}

function namesIn({ level, interactables }: Expanded): Names {
  const uses = new Map<string, number>()
  const signals = new Set<string>()
  count(level.types, '')
  count(level.interactables, '')
  count(level.goals, '')
  const statesOf = ({ states }: Expanded['interactables'][number]): string[] => states.map(({ name }) => name)
  return {
    items: Object.keys(level.items ?? {}),
    flags: Object.keys(level.flags ?? {}),
    counters: Object.keys(level.counters ?? {}),
    signals: [...signals],
    siblings: new Map(
      interactables.map(({ name, type }) => [
        name,
        interactables.flatMap((other) => (other.name !== name && other.type === type ? [other.name] : [])),
      ]),
    ),
    states: new Map(interactables.map((one) => [one.name, statesOf(one)])),
    statesOfTypes: new Map(interactables.map((one) => [one.type, statesOf(one)])),
    uses,
  }

  function count(value: unknown, key: string): void {
    if (typeof value === 'string') {
      uses.set(value, (uses.get(value) ?? 0) + 1)
      if (isSignalKey.has(key)) signals.add(value)
    } else if (typeof value === 'object' && value !== null) {
      for (const [inner, one] of Object.entries(value)) count(one, Array.isArray(value) ? key : inner)
    }
  }
}

const isSignalKey = new Set(['signal', 'send', 'sends'])
const isItemKey = new Set([
  'item',
  'carries',
  'gives',
  'give',
  'remove',
  'consume',
  'room-for',
  'carrying',
  'contains',
  'drops',
])

/** At most so many other names are tried in one place. */
const mostNames = 4

/** Other words in place of one. */
function ofWord(word: string, path: string, key: string, parent: Parent, names: Names): SmallEdit[] {
  if (word === 'consume' && key === 'item-use') {
    return [{ edit: { do: 'replace', path, value: 'keep' }, size: 1, isName: false, says: 'Keep the item.' }]
  }
  const others = alternativesOf(word, path, key, parent, names).filter((other) => other !== word)
  // What nothing else names, or only what gives it, may have been meant here.
  const isLoose = (other: string): boolean => (names.uses.get(other) ?? 0) <= 1
  const ranked = others
    .map((other) => ({ other, size: isMisspelt(word, other) || isLoose(other) ? 1 : 2 }))
    .sort((a, b) => a.size - b.size)
  return ranked.slice(0, mostNames).map(({ other, size }) => ({
    edit: { do: 'replace', path, value: other },
    size,
    isName: true,
    says: `Write "${other}" instead of "${word}".`,
  }))
}

function alternativesOf(word: string, path: string, key: string, parent: Parent, names: Names): readonly string[] {
  if (isItemKey.has(key) && names.items.includes(word)) return names.items
  if (isSignalKey.has(key)) return names.signals
  if ((key === 'flag' || key === 'set') && names.flags.includes(word)) return names.flags
  if ((key === 'counter' || key === 'set' || key === 'add') && names.counters.includes(word)) return names.counters
  if (key === 'is' && typeof parent.interactable === 'string') return names.states.get(parent.interactable) ?? []
  if ((key === 'interactable' || key === 'of' || key === 'to') && names.siblings.has(word)) {
    return names.siblings.get(word)!
  }
  const [top, type] = path.split('.')
  if ((key === 'from' || key === 'to' || key === 'initial') && top === 'types')
    return names.statesOfTypes.get(type!) ?? []
  return []
}

function ofNumber(value: number, path: string, key: string): SmallEdit[] {
  const isCount = ['count', 'at-least', 'at-most', 'is', 'by'].includes(key)
  if (!isCount) return []
  // One more or less is easily mistaken.
  const others = [value - 1, value + 1, 1].filter((other, i, all) => other > 0 && all.indexOf(other) === i)
  return others.map((other) => ({
    edit: { do: 'replace', path, value: other },
    size: Math.abs(other - value) === 1 ? 1 : 3,
    isName: false,
    says: `Write ${String(other)} instead of ${String(value)}.`,
  }))
}

function ofBoolean(value: boolean, path: string, key: string): SmallEdit[] {
  if (key !== 'is' && key !== 'to') return []
  return [
    {
      edit: { do: 'replace', path, value: !value },
      size: 1,
      isName: false,
      says: `Write ${String(!value)} instead of ${String(value)}.`,
    },
  ]
}

/** Changes of a part as a whole: comparisons and conditions turned round, what is asked or done left out. */
function ofPart(part: Parent, path: string, key: string): SmallEdit[] {
  const all: SmallEdit[] = []
  const add = (edit: Edit, size: number, says: string): void => void all.push({ edit, size, isName: false, says })
  if (part['at-least'] !== undefined && part['at-most'] === undefined) {
    add({ do: 'rename', path: join(path, 'at-least'), name: 'at-most' }, 1, 'Turn the comparison round: at-most.')
  }
  if (part['at-most'] !== undefined && part['at-least'] === undefined) {
    add({ do: 'rename', path: join(path, 'at-most'), name: 'at-least' }, 1, 'Turn the comparison round: at-least.')
  }
  if (part.not !== undefined) add({ do: 'replace', path, value: part.not }, 1, 'Take the not out.')
  else if (isGuardKey.has(key) && isTurnable(part)) {
    add({ do: 'replace', path, value: { not: part } }, 2, 'Ask for the opposite: not.')
  }
  if (part.flag !== undefined && part.is === undefined && part.not === undefined && key !== 'not') {
    add({ do: 'add', path, key: 'is', value: false }, 1, 'Ask for the opposite: is: false.')
  }
  if (part.consume !== undefined) add({ do: 'remove', path }, 3, 'Keep the item: take this effect out.')
  if (part.guard !== undefined) add({ do: 'remove', path: join(path, 'guard') }, 3, 'Ask for nothing here.')
  if (part.closes !== undefined && key !== 'effects')
    add({ do: 'remove', path: join(path, 'closes') }, 3, 'Let it stay open.')
  if (part.lock !== undefined) add({ do: 'remove', path: join(path, 'lock') }, 4, 'Leave the lock out.')
  if (part.blocks !== undefined) add({ do: 'remove', path: join(path, 'blocks') }, 4, 'Let it bar nothing.')
  if (Array.isArray(part.all) && part.all.length > 1) {
    for (const i of part.all.keys())
      add({ do: 'remove', path: join(path, `all.${String(i)}`) }, 3, 'Leave this out of what is asked for.')
  }
  return all
}

/** Where a condition stands. */
const isGuardKey = new Set(['guard', 'becomes', 'all', 'any', 'when', 'offered'])

/** Whether the opposite of a condition is asked by putting a not before it, and not said better by itself. */
function isTurnable(part: Parent): boolean {
  return ['carries', 'interactable', 'counter', 'inside', 'dial', 'contains', 'empty', 'remembers'].some(
    (kind) => part[kind] !== undefined,
  )
}

function valueAt(level: Level, path: string): unknown {
  let at: unknown = level
  for (const key of path === '' ? [] : path.split('.')) {
    if (typeof at !== 'object' || at === null) return undefined
    at = (at as Record<string, unknown>)[key]
  }
  return at
}

import type { Draft } from './draft.ts'
import type { Names } from './names.ts'
import type { Expanded } from './placed.ts'
import { listed } from './effects.ts'
import type { Row } from './present.ts'
import { filledIn, isProvided } from './template.ts'

/** What interactables remember of each character. */
export function placeMemories(drafts: readonly Draft[]): Expanded['memories'] {
  return drafts.flatMap(({ type }, interactable) => (type.remembers ?? []).map((name) => ({ interactable, name })))
}

/** The checkpoints that something sets, each once, for the first interactable that does. */
export function placeCheckpoints(rows: readonly (readonly Row[])[]): Expanded['memories'] {
  const found = new Map<string, number>()
  for (const [interactable, own] of rows.entries()) {
    for (const { effect } of own.flatMap(({ effects }) => effects)) {
      const { checkpoint } = effect
      if (typeof checkpoint === 'string' && !found.has(checkpoint)) found.set(checkpoint, interactable)
    }
  }
  return [...found].map(([checkpoint, interactable]) => ({
    interactable,
    name: `checkpoint ${checkpoint}`,
    checkpoint,
  }))
}

/** What is in interactables at first: each item once, with how many there are of it. */
export function placeContents(drafts: readonly Draft[], items: readonly string[], names: Names): Expanded['contents'] {
  return drafts.flatMap(({ name: owner, path, type, values }, interactable) => {
    const asked: string[] = []
    const held = new Map<number, number>()
    if (!isProvided(type.contains?.if, values, [])) return []
    for (const [i, { name, count }] of listed(filledIn(type.contains?.items, values, asked), 1).entries()) {
      const line = asked[0] === undefined ? path : `${path}.set.${asked[0]}.${String(i)}.item`
      const item = names.find('item', name, items, line, owner)
      if (item >= 0) held.set(item, (held.get(item) ?? 0) + count)
    }
    const isEmpty = type.contains?.empty !== undefined && isProvided(type.contains.empty, values, [])
    return [...held].map(([item, count]) => ({ interactable, item, count, initial: isEmpty ? 0 : count }))
  })
}

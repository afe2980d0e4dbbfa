import type { Expanded } from '../../interactables/index.ts'
import { isWordIn, withoutWords } from './told.ts'

/** The items that a text names by their titles or names, by index; of titles within titles only the longer one. */
export function itemsNamed({ items }: Expanded, text: string): number[] {
  const words = items.flatMap(({ title, name }, item) => [title, name].map((word) => ({ word, item })))
  words.sort((a, b) => b.word.length - a.word.length)
  const named = new Set<number>()
  let rest = text
  for (const { word, item } of words) {
    if (!isWordIn(word, rest)) continue
    named.add(item)
    // The same title may be that of several items.
    if (!words.some((other) => other.word === word && other.item > item)) rest = withoutWords(rest, word)
  }
  return [...named].sort((a, b) => a - b)
}

/**
 * The name in `names` that `wrong` was most likely meant to be, or null where none is near.
 * Near: at most a third of the letters differ (edit distance with swaps of neighbours, after Damerau 1964), or one
 * is the other with something before or behind. Ties go to the earlier name.
 */
export function nearestName(wrong: string, names: Iterable<string>): string | null {
  let best: string | null = null
  let least = Infinity
  for (const name of names) {
    const distance = distanceWithin(wrong, name)
    if (distance < least) {
      least = distance
      best = name
    }
  }
  return best
}

/** Whether a name is another one misspelt, and not only a part of it, or the other way round. */
export function isMisspelt(wrong: string, name: string): boolean {
  return distanceWithin(wrong, name) <= limitFor(wrong, name)
}

function limitFor(wrong: string, name: string): number {
  return Math.max(1, Math.floor(Math.max(wrong.length, name.length) / 3))
}

function distanceWithin(wrong: string, name: string): number {
  if (wrong.length > 200 || name.length > 200) return Infinity
  // Of two letters one says little: they may only have changed places.
  if (Math.max(wrong.length, name.length) < 3 && lettersOf(wrong) !== lettersOf(name)) return Infinity
  const limit = limitFor(wrong, name)
  const distance = editDistance(wrong.toLowerCase(), name)
  if (distance <= limit) return distance
  const contained = wrong.length > 3 && name.length > 3 && (name.includes(wrong) || wrong.includes(name))
  return contained ? limit + 1 : Infinity
}

function lettersOf(name: string): string {
  return [...name.toLowerCase()].sort().join('')
}

function editDistance(a: string, b: string): number {
  const width = b.length + 1
  let before: number[] = []
  let last = Array.from({ length: width }, (_, j) => j)
  for (let i = 1; i <= a.length; i++) {
    const row = [i]
    for (let j = 1; j < width; j++) {
      const change = a[i - 1] === b[j - 1] ? 0 : 1
      let least = Math.min(at(last, j) + 1, at(row, j - 1) + 1, at(last, j - 1) + change)
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) {
        least = Math.min(least, at(before, j - 2) + 1)
      }
      row.push(least)
    }
    before = last
    last = row
  }
  return at(last, b.length)
}

function at(row: readonly number[], index: number): number {
  return row[index] ?? Infinity
}

/** Whether two names differ by one slip of the hand: two neighbours changed places, or one letter, not the last, left out or doubled. */
export function isOneSlip(one: string, other: string): boolean {
  if (one === other || Math.min(one.length, other.length) < 4 || /\d/.test(one + other)) return false
  if (one.length === other.length) return lettersOf(one) === lettersOf(other) && editDistance(one, other) === 1
  const [short, long] = one.length < other.length ? [one, other] : [other, one]
  return short.at(-1) === long.at(-1) && editDistance(short, long) === 1
}

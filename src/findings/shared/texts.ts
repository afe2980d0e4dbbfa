/** Names as one says them: `a`, `a and b`, `a, b and c`. */
export function listed(names: readonly string[]): string {
  return names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}`
}

/** A goal as messages name it. */
export function goalText({ goal, title }: { readonly goal: string; readonly title: string | null }): string {
  return title === null ? goal : `${goal} ("${title}")`
}

/** Puts a place on top of those that wait to be looked at: what got something last is next. */
export function toTop(waiting: number[], place: number): void {
  const known = waiting.indexOf(place)
  if (known >= 0) waiting.splice(known, 1)
  waiting.push(place)
}

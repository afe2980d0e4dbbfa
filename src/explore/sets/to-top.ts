/** Puts a place on top of those that wait to be looked at: what got something last is next. */
export function toTop(waiting: number[], place: number): void {
  const known = waiting.indexOf(place)
  if (known >= 0) waiting.splice(known, 1)
  waiting.push(place)
}

/** Puts a place below all that wait, where it waits for nothing yet: what goes on in a level is followed to its end before another is come to. */
export function toBottom(waiting: number[], place: number): void {
  if (!waiting.includes(place)) waiting.unshift(place)
}

/** How English words begin, or what stands in them, that say what is lacking. */
const lacking =
  /^\s*(no(?! (longer|more)\b)|not without|you need|it (needs|wants)|needs|bring|locked)\b|\b(is|are) missing\b/i

/** Whether a message says, in English, that something is lacking. */
export function saysLacking(message: string): boolean {
  return lacking.test(message)
}

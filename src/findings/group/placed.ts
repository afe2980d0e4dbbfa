import type { Found, Part, Rule } from '../rule.ts'

/** A finding, with the rule that found it and the question it answers. */
export interface Placed {
  readonly rule: Rule
  readonly subject: string
  readonly found: Found
  /** Where levels are checked together, the one that it is about where that was asked of it by itself; else null. */
  readonly part: Part | null
}

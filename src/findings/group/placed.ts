import type { Found, Rule } from '../rule.ts'

/** A finding, with the rule that found it and the question it answers. */
export interface Placed {
  readonly rule: Rule
  readonly subject: string
  readonly found: Found
}

/** One move of a trail, with the patch that it ends on. */
export interface TrailMove {
  readonly kind: number
  /** For a press and a walk: see `Inputs`; for a wait -1. */
  readonly what: number
  /** The patch on which the character that walked or acted stands then; for a wait, the first character. */
  readonly patch: number
  /** For a sure move, how long it lasts in ms; for others -1. */
  readonly ms: number
}

import { found, type Rule, ruledOut } from '../rule.ts'
import { spotText } from '../shared/ground.ts'
import { firstHit, leavesOf } from '../shared/leaves.ts'

/** What is known of a finding of this rule. */
export interface SwingBlockedFacts {
  readonly interactable: string
  readonly kind: 'turn' | 'slide' | 'vanish'
  /** What it comes into, and where; metres. */
  readonly hits: string
  readonly at: readonly [number, number]
  /** How far it has come by then: degrees, or centimetres. */
  readonly after: number
  readonly whole: number
}

/** A leaf that swings, or slides, into something on its way. */
export const swingBlocked: Rule<SwingBlockedFacts> = {
  name: 'swing-blocked',
  severity: 'warning',
  isByLevel: true,
  ask: ({ stage }) =>
    leavesOf(stage).map((leaf) => {
      const { name, path } = leaf.placed
      const hit = firstHit(stage, leaf)
      if (!hit) return ruledOut(name)
      const { kind, turn, slide } = leaf.motion
      const whole = kind === 'turn' ? Math.abs(turn) : Math.hypot(slide[0], slide[1]) * 100
      const facts = {
        interactable: name,
        kind,
        hits: hit.what,
        at: [hit.at[0], hit.at[1]] as const,
        after: Math.round(whole * hit.share),
        whole: Math.round(whole),
      }
      const spots = [{ at: facts.at, text: `hits ${hit.what}` }]
      return found(name, { path, isAboutKey: true, facts, steps: [], grant: null, spots })
    }),
  says({ interactable, kind, hits, at, after, whole }) {
    const far =
      kind === 'turn'
        ? `after ${String(after)} of ${String(whole)} degrees`
        : `after ${String(after)} of ${String(whole)} cm`
    return `${interactable} ${kind === 'turn' ? 'swings' : 'slides'} into ${hits} as it opens: ${far}, at ${spotText(at)}.`
  },
  fix({ kind, hits }) {
    return kind === 'turn'
      ? `Let it turn the other way (motion.direction, hinge), or move ${hits}.`
      : `Let it slide the other way, or move ${hits}.`
  },
}

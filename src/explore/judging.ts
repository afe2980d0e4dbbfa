import { accountOf, type ProofBy } from './account.ts'
import type { Answer, Evidence, Loss, Witness } from './answers.ts'
import type { WithoutBystanders } from './bystanders.ts'
import type { Coverage } from './cover.ts'
import type { Search } from './search.ts'
import type { BySets } from './sets/by-sets.ts'
import type { TooLate } from './walk-times.ts'
import type { SetSearch } from './sets/set-search.ts'

export const found: Answer = { answer: 'found' }
export const ruledOut: Answer = { answer: 'ruled-out' }
export const undecided = (why: string): Answer => ({ answer: 'undecided', why })

/** The answers over one search, as far as they are known; what an earlier, coarser search has answered is kept. */
export class Judging {
  readonly search: Search
  readonly cover: Coverage
  readonly before: Evidence | null
  readonly unreachable: Answer[] = []
  readonly softLocks: (Answer | null)[] = []
  readonly losses: (readonly Loss[])[] = []
  readonly witnesses: Map<string, Witness>
  untold: ReadonlyMap<string, string> = new Map()
  bytes = 0
  /** Why not everything was explored; null where it was, or before that is known. */
  gap: string | null = null
  isInterrupted = false
  /** What sets tell, where there are too many situations to look at each. */
  bySets: BySets | null = null
  /** By goal, the ways to lose it that sets led to. */
  readonly farLosses = new Map<number, readonly Loss[]>()
  /** The level without what only keeps itself running, once it was asked for; null in it: there is nothing to be left out. */
  withoutBystanders: { readonly done: WithoutBystanders | null } | null = null
  /** See `Evidence.possible`. */
  possible: ReadonlySet<string> | null = null
  /** All situations as sets, where they were found so. */
  sets: SetSearch | null = null
  /** By goal, how it was proved to be out of danger. */
  readonly proofs = new Map<string, ProofBy>()

  constructor(search: Search, cover: Coverage, before: Evidence | null) {
    this.search = search
    this.cover = cover
    this.before = before
    this.witnesses = new Map([...(before?.witnesses ?? [])].filter(([, { shown }]) => shown))
  }

  /** Forgets what was judged over less than everything; what was played stays played. */
  startOver(): void {
    this.unreachable.length = this.softLocks.length = this.losses.length = 0
    this.bySets = this.possible = null
  }

  /** All that is known; what is not is undecided. */
  evidence(): Evidence {
    const { search, cover, gap } = this
    const { stage } = search
    const goals = [...stage.expanded.goals.keys()]
    const unsettled = undecided(gap ?? whyUnplayed(search))
    const { sets, proofs } = this
    const bystanders = this.withoutBystanders?.done?.names ?? []
    return {
      dead: [...search.firstTaken.keys()].map((row) => this.#deadAnswer(row)),
      unreachable: goals.map((goal) => this.unreachable[goal] ?? this.#metAnswer(goal) ?? unsettled),
      atOnce: goals.map((goal) => search.hasStart && search.holds(0, goal)),
      softLocks: goals.map((goal) => {
        const known = this.softLocks[goal]
        return known === undefined ? unsettled : known
      }),
      losses: goals.map((goal) => this.losses[goal] ?? []),
      witnesses: this.witnesses,
      untold: this.untold,
      moments: cover.moments,
      possible: this.possible,
      tooLate: this.#tooLate(),
      gap,
      unplayed: whyUnplayed(search),
      fineness: search.fineness,
      isInterrupted: this.isInterrupted,
      counts: {
        situations: search.store.count,
        moves: search.edgeCount,
        patches: stage.space.patches.reduce((sum, { patches }) => sum + patches.length, 0),
        replays: cover.replays,
        bytes: search.bytes + this.bytes,
        complete: gap === null,
      },
      account: accountOf({ search, sets, isGivenUp: search.isGivenUp, proofs, bystanders }),
      byStart: [],
    }
  }

  /** Of the bodies that walks came too late for, those on whose ground nobody ever stands while they let through. */
  #tooLate(): readonly TooLate[] {
    const { search, gap } = this
    const late = search.walkTimes?.late ?? []
    if (late.length === 0 || gap !== null) return []
    const { patches } = search.stage.space.patches[0]!
    const stoodOn = new Set<number>()
    for (let index = 0; index < search.store.count; index++) {
      for (const body of patches[search.patchOf(index)]!.signature.bodies) stoodOn.add(body)
    }
    return late.filter(({ machine }) => !stoodOn.has(machine))
  }

  #deadAnswer(row: number): Answer {
    const { search, gap } = this
    const known = this.before?.dead[row]
    if (known && known.answer !== 'undecided') return known
    if (this.cover.rows.has(row)) return ruledOut
    if (search.firstTaken[row]! < 0) {
      return gap === null || this.bySets?.taken[row] === 0 ? found : undecided(gap)
    }
    return undecided(gap ?? whyUnplayed(search))
  }

  /** That a goal can be met, where a play has met it. */
  #metAnswer(goal: number): Answer | null {
    return this.cover.goals.has(this.search.stage.expanded.goals[goal]!.name) ? ruledOut : null
  }
}

/** Why something that seems possible could not be played. */
export function whyUnplayed(search: Search): string {
  return search.fineness === 'loose' && search.stage.tables.clocks.length > 0
    ? 'it depends on timing'
    : 'it is possible only if timing or aim that is not certain allows it'
}

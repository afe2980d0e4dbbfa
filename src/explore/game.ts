import type { Coverage } from './cover.ts'
import { type Choices, ChoicesMade, type Moves, MovesMade, noChoices, noMoves, turnedRound } from './game-columns.ts'
import type { Proof } from './prove.ts'
import type { Search } from './search.ts'
import { Bits } from './store.ts'
import { moveKind } from './successors.ts'
import { SureEdges } from './sure-edges.ts'

/** Over so many situations a game is not solved. */
const mostSituations = 400_000

/** Of situations on ground that is not sure, so many are looked at that others may bring about before one has left it. */
const mostBefore = 5_000

/** What a player may decide on in a situation: to do something at once, to walk on, or to wait for a clock. */
const choiceKind = { press: 0, walk: 1, wait: 2 } as const

/** For a wait: whatever is due next, a tick at the latest. */
const whateverIsDue = -2
/** For a move of others, which is not waited for; a move by a clock has the number of that. */
const othersMove = -3

/** What players decide on. */
export interface Decision {
  readonly kind: 'press' | 'walk' | 'wait'
  /** For a press and a walk: see `Inputs`; for a wait the clock, or any (-2). */
  readonly code: number
  readonly round: number
}

/**
 * A game for two: players against those who work against them, and against the clock. Shows that from every situation players can bring about a
 * goal, whatever the others do: it gathers, from the goal backwards, the situations in which they win (an attractor; Zielonka 1998 has
 * the notion), one round after another.
 *
 * The others and the clocks may make any number of the moves that are possible, but no end of them, before a player does anything, and while one
 * walks. So a situation is won in a round where
 * - something can surely be done at once, and all that comes of it was won before; or
 * - a walk to a patch beside can surely be made, and all that comes of it was won before, both there and in all that others may make of it in the
 *   meantime: whoever has set out goes there, whatever happens; or
 * - something is due, and all that comes of it was won before, there and in all that others may make of it in the meantime, as long
 *   as nothing can put it off;
 * and where all that others may make of it is won in that round, too. Where the goal holds, it has been brought about.
 */
export class Game {
  readonly #search: Search
  readonly #goal: number
  readonly #edges: SureEdges
  /** Whether a character plays for those who want the goal. */
  readonly #plays: (character: number) => boolean
  readonly #won: Bits
  /** By situation that is won, the choice that wins. */
  readonly #chosen: Int32Array
  /** By situation that is won, the round in which it was. */
  readonly #roundOf: Int32Array
  #rounds = 0
  /** By situation, where its moves by others begin in the columns below. */
  #others: Moves = noMoves
  #before: Moves = noMoves
  /** By situation, where its choices begin; by choice, its kind and code, and where what may come of it begins. */
  #choices: Choices = noChoices
  readonly #well = new Map<number, boolean>()

  /** `plays`: who plays for the goal. What other characters do is up to them. */
  constructor(search: Search, cover: Coverage, goal: number, plays: (character: number) => boolean) {
    this.#search = search
    this.#goal = goal
    this.#edges = new SureEdges(search, cover.reliable)
    this.#plays = (character) => plays(character) && cover.reliable.isSureOf(character)
    this.#won = new Bits(search.store.count)
    this.#chosen = new Int32Array(search.store.count)
    this.#roundOf = new Int32Array(search.store.count)
  }

  *run(): Generator<undefined, Proof> {
    const { count } = this.#search.store
    if (count > mostSituations) {
      return failed(
        `there are ${String(count)} situations, and a game against others is solved over ${String(mostSituations)} at the most`,
      )
    }
    yield* this.#gather()
    for (let index = 0; index < count; index++) if (this.#search.holds(index, this.#goal)) this.#won.add(index)
    while (yield* this.#round()) yield
    let [lost, isByGround] = [0, true]
    for (let index = 0; index < count; index++) {
      if ((index & 0xfff) === 0xfff) yield
      if (this.#isWell(index)) continue
      lost++
      if (this.#edges.isOnSurePatch(index)) isByGround = false
    }
    if (lost === 0) return { proved: true }
    return { ...failed(`from ${String(lost)} situations no way was found that others cannot thwart`), isByGround }
  }

  /**
   * What players decide on in a situation in which they win, and in which round it was won: what is done, an input of the search as it stands
   * there, a walk to a patch beside, or a wait. They keep to a walk, or a wait, until it is done, or until what was won in an earlier round
   * has come about. Null where the goal holds, and where they do not win.
   */
  decision(index: number): Decision | null {
    if (!this.#won.has(index) || this.#search.holds(index, this.#goal)) return null
    const { kinds, codes } = this.#choices
    const choice = this.#chosen[index]!
    const kind = (['press', 'walk', 'wait'] as const)[kinds[choice]!]!
    return { kind, code: codes[choice]!, round: this.#roundOf[index]! }
  }

  /** Whether players win from a situation in which they stand on their standing spots. */
  isWon(index: number): boolean {
    return this.#won.has(index)
  }

  /** Sorts all moves into those of others, by clocks or by characters, and what players may decide on. */
  *#gather(): Generator<undefined> {
    const search = this.#search
    const { count } = search.store
    const { inputs } = search.moves
    const { clocks, rowsOf, expanded } = search.stage.tables
    const canBePutOff = clocks.map(
      ({ machine, motion }) =>
        !motion &&
        rowsOf[machine]!.some(
          ({ to, transition }) => transition.restarts && (to < 0 || transition.from.some((from) => from === to)),
        ),
    )
    const byChance = (input: ReturnType<typeof inputs.read>): boolean =>
      input.do === 'press' && expanded.pressKinds[input.pressKind]!.chance !== null
    const others = new MovesMade(count)
    const choices = new ChoicesMade(count)
    for (let index = 0; index < count; index++) {
      if ((index & 0x3ff) === 0x3ff) yield
      const isFirm = this.#edges.isOnFirmPatch(index)
      const own = new Map<string, { kind: number; code: number; isSure: boolean; targets: number[] }>()
      const choose = (kind: number, code: number, isSure: boolean, target: number): void => {
        const key = `${String(kind)} ${String(code)}`
        const one = own.get(key) ?? { kind, code, isSure: true, targets: [] }
        own.set(key, one)
        one.isSure &&= isSure
        one.targets.push(target)
      }
      for (let edge = search.firstEdge(index); edge < search.endEdge(index); edge++) {
        const [target, kind, code] = [search.target(edge), search.kind(edge), search.input(edge)]
        if (kind === moveKind.wait) {
          others.add(target, code)
          if (search.fineness === 'ticks') choose(choiceKind.wait, whateverIsDue, true, target)
          else choose(choiceKind.wait, code, code >= 0 && !canBePutOff[code]!, target)
          continue
        }
        const input = kind === moveKind.walk ? null : inputs.read(code)
        const actor = input ? input.actor : inputs.readWalk(code).actor
        if (!this.#plays(actor)) {
          // Other players do nothing that was not decided on; whoever else is there does as it likes.
          if (expanded.characters[actor]!.role !== 'player') others.add(target, othersMove)
          continue
        }
        const isSure = isFirm && !(input && byChance(input)) && this.#edges.isSure(index, edge)
        choose(input ? choiceKind.press : choiceKind.walk, code, isSure, target)
      }
      others.end()
      for (const one of own.values()) if (one.isSure) choices.add(one.kind, one.code, one.targets)
      choices.end()
    }
    this.#others = others.done()
    this.#before = yield* turnedRound(this.#others, count)
    this.#choices = choices.done()
  }

  /** One round; whether anything more is won in it. */
  *#round(): Generator<undefined, boolean> {
    const won = this.#won
    const { count } = this.#search.store
    const { starts, kinds, targetStarts, targets } = this.#choices
    /** By choice: all that comes of it was won before, and for a walk and a wait, too, of all that others may make of it. */
    const isGood = new Uint8Array(kinds.length)
    for (let choice = 0; choice < kinds.length; choice++) {
      if ((choice & 0xffff) === 0xffff) yield
      let all = 1
      for (let i = targetStarts[choice]!; i < targetStarts[choice + 1]! && all; i++) if (!won.has(targets[i]!)) all = 0
      isGood[choice] = all
    }
    yield* this.#stay(isGood)
    const may = new Uint8Array(count)
    for (let index = 0; index < count; index++) {
      if (won.has(index)) may[index] = 1
      else {
        for (let choice = starts[index]!; choice < starts[index + 1]! && !may[index]; choice++) {
          if (!isGood[choice]) continue
          may[index] = 1
          this.#chosen[index] = choice
        }
      }
    }
    yield
    // Taken out again: from where others may bring about what is not won.
    const out: number[] = []
    const { starts: firsts, targets: leads } = this.#others
    const drop = (index: number): void => {
      may[index] = 0
      out.push(index)
    }
    for (let index = 0; index < count; index++) {
      if (!may[index] || won.has(index)) continue
      for (let i = firsts[index]!; i < firsts[index + 1]!; i++) {
        if (may[leads[i]!]) continue
        drop(index)
        break
      }
    }
    for (let index = out.pop(); index !== undefined; index = out.pop()) {
      for (let i = this.#before.starts[index]!; i < this.#before.starts[index + 1]!; i++) {
        const from = this.#before.targets[i]!
        if (may[from] && !won.has(from)) drop(from)
      }
    }
    let isMore = false
    this.#rounds++
    for (let index = 0; index < count; index++) {
      if (!may[index] || !won.add(index)) continue
      this.#roundOf[index] = this.#rounds
      isMore = true
    }
    return isMore
  }

  /** Takes out of `isGood` walks and waits that others can make useless before they are done. */
  *#stay(isGood: Uint8Array): Generator<undefined> {
    const won = this.#won
    const { starts, kinds } = this.#choices
    const out: [index: number, choice: number][] = []
    const { count } = this.#search.store
    for (let index = 0; index < count; index++) {
      if ((index & 0xfff) === 0xfff) yield
      if (won.has(index)) continue
      for (let choice = starts[index]!; choice < starts[index + 1]!; choice++) {
        if (!isGood[choice] || kinds[choice] === choiceKind.press) continue
        for (let i = this.#others.starts[index]!; i < this.#others.starts[index + 1]!; i++) {
          if (this.#goesOn(index, choice, i, isGood)) continue
          isGood[choice] = 0
          out.push([index, choice])
          break
        }
      }
    }
    let done = 0
    for (let next = out.pop(); next !== undefined; next = out.pop()) {
      if ((++done & 0xfff) === 0xfff) yield
      const [index, choice] = next
      for (let i = this.#before.starts[index]!; i < this.#before.starts[index + 1]!; i++) {
        const from = this.#before.targets[i]!
        if (won.has(from)) continue
        const same = this.#sameChoice(from, choice)
        if (same < 0 || !isGood[same] || this.#isAwaited(same, this.#before.codes[i]!)) continue
        isGood[same] = 0
        out.push([from, same])
      }
    }
  }

  /** Whether after a move of others a walk or a wait still leads to what is won, or is needed no more; or whether it is that move that is waited for. */
  #goesOn(index: number, choice: number, move: number, isGood: Uint8Array): boolean {
    const { targets, codes } = this.#others
    const target = targets[move]!
    if (this.#won.has(target) || this.#isAwaited(choice, codes[move]!)) return true
    const same = this.#sameChoice(target, choice)
    if (same < 0 || !isGood[same]) return false
    const { kinds, codes: own } = this.#choices
    if (kinds[choice] !== choiceKind.wait || own[choice]! < 0) return true
    // What has come to another state may have begun anew to run.
    const { machine } = this.#search.stage.tables.clocks[own[choice]!]!
    const state = this.#stateReader(machine)
    return state(index) === state(target)
  }

  readonly #readers = new Map<number, (index: number) => number>()

  #stateReader(machine: number): (index: number) => number {
    const known = this.#readers.get(machine) ?? this.#search.readerOf(machine)
    this.#readers.set(machine, known)
    return known
  }

  /** Whether a move by a clock is what a choice waits for. */
  #isAwaited(choice: number, code: number): boolean {
    const { kinds, codes } = this.#choices
    if (kinds[choice] !== choiceKind.wait || code === othersMove) return false
    return codes[choice] === whateverIsDue || codes[choice] === code
  }

  /** The same choice in another situation; -1 where there is none. */
  #sameChoice(index: number, choice: number): number {
    const { starts, kinds, codes } = this.#choices
    for (let one = starts[index]!; one < starts[index + 1]!; one++) {
      if (kinds[one] === kinds[choice] && codes[one] === codes[choice]) return one
    }
    return -1
  }

  /** Whether players win from a situation, wherever everybody may be on their patches. */
  #isWell(index: number): boolean {
    if (this.#search.holds(index, this.#goal)) return true
    if (this.#edges.isOnSurePatch(index)) return this.#won.has(index)
    const known = this.#well.get(index)
    if (known !== undefined) return known
    // What leads round to where it set out from is no way out.
    this.#well.set(index, false)
    const isWell = this.#canEscape(index)
    this.#well.set(index, isWell)
    return isWell
  }

  /** Whether whoever stands on ground that is not sure can for certain walk off it to where all is well: see `Patches.escapes`. */
  #canEscape(index: number): boolean {
    const { space, tables } = this.#search.stage
    const regs = new Int32Array(tables.at.size)
    const patch = this.#search.read(index, regs)
    const unsure = space.patches.flatMap(({ patches }, who) =>
      this.#plays(who) && !patches[this.#search.placeOf(who, regs, patch)]!.sure ? [who] : [],
    )
    const [who] = unsure
    if (who === undefined || unsure.length > 1) return false
    const meanwhile = this.#whatOthersMake(index)
    return (
      meanwhile !== null &&
      space.patches[who]!.escapes(this.#search.placeOf(who, regs, patch)).every((ways) =>
        ways.some((to) => meanwhile.every((one) => this.#isWellInto(one, who, to))),
      )
    )
  }

  /** All that others may make of a situation before players do anything, as long as the goal does not hold; null: too much. */
  #whatOthersMake(index: number): number[] | null {
    const seen = new Set([index])
    for (const one of seen) {
      if (seen.size > mostBefore) return null
      for (let i = this.#others.starts[one]!; i < this.#others.starts[one + 1]!; i++) {
        const target = this.#others.targets[i]!
        if (!this.#search.holds(target, this.#goal)) seen.add(target)
      }
    }
    return [...seen]
  }

  #isWellInto(index: number, who: number, to: number): boolean {
    const regs = new Int32Array(this.#search.stage.tables.at.size)
    const patch = this.#search.read(index, regs)
    const found: number[] = []
    this.#search.moves.into(regs, patch, who, to, (after, on) => found.push(this.#search.find(after, on)))
    return found.length > 0 && found.every((one) => one >= 0 && this.#isWell(one))
  }
}

function failed(why: string): Proof & { readonly proved: false } {
  return { proved: false, why, isByGround: false }
}

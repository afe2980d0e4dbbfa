import type { Change } from '../interactables/index.ts'
import type { StepWatcher } from './around.ts'
import { roomFor } from './guards.ts'
import type { CompiledTransition, Tables } from './tables.ts'

/** What people carry, and what is in things: how it changes hands, as far as there is room. */
export class Belongings {
  readonly #tables: Tables
  readonly #watcher: StepWatcher | null

  constructor(tables: Tables, watcher: StepWatcher | null) {
    this.#tables = tables
    this.#watcher = watcher
  }

  /** Gives so many of an item, as far as there is room, and says how many; `row`: what does so, null for nothing in the level. */
  give(
    regs: Int32Array,
    { item, count }: { readonly item: number; readonly count: number },
    actor: number,
    row: CompiledTransition | null,
  ): number {
    const { at, expanded } = this.#tables
    const index = at.item(actor, item)
    const before = regs[index]!
    const given = Math.min(count, roomFor(regs, actor, item, at, expanded))
    regs[index] = before + given
    const wanted = before + count
    this.#watcher?.item({ actor, item, before, after: before + given, wanted, consumed: false }, row)
    return given
  }

  /** Takes so many of an item from somebody, as far as there are so many. */
  lose(
    regs: Int32Array,
    { kind, item, count }: Extract<Change, { kind: 'give' | 'remove' | 'consume' }>,
    actor: number,
    row: CompiledTransition | null,
  ): void {
    const index = this.#tables.at.item(actor, item)
    const before = regs[index]!
    const after = Math.max(0, before - count)
    regs[index] = after
    this.#watcher?.item({ actor, item, before, after, wanted: after, consumed: kind === 'consume' }, row)
  }

  /** Gives somebody what is left in a thing, at most so many. */
  takeOut(
    regs: Int32Array,
    { content, count }: Extract<Change, { kind: 'take-out' | 'put-in' }>,
    actor: number,
    row: CompiledTransition | null,
  ): void {
    const index = this.#tables.at.content(content)
    const { item } = this.#tables.expanded.contents[content]!
    const there = Math.min(regs[index]!, count)
    if (there === 0) return
    regs[index]! -= this.give(regs, { item, count: there }, actor, row)
    this.#watcher?.content(content, regs[index]!, row)
  }

  /** Puts so many into a thing, as far as there is room in it. */
  putIn(regs: Int32Array, { content, count }: Extract<Change, { kind: 'take-out' | 'put-in' }>): void {
    const index = this.#tables.at.content(content)
    const { count: most } = this.#tables.expanded.contents[content]!
    regs[index] = Math.min(most, regs[index]! + count)
  }
}

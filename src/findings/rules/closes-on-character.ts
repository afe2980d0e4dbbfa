import { ownSpot, type Placed } from '../../interactables/index.ts'
import { join } from '../../model/index.ts'
import { replay } from '../../explore/index.ts'
import type { Stage } from '../../play/index.ts'
import { isRoomBeside } from '../../space/index.ts'
import { type Found, type PlanSpot, type Rule, ruledOut, witnessed } from '../rule.ts'
import { likely, valueIn } from '../shared/edits.ts'
import { spotText } from '../shared/ground.ts'

const start = 'caught '

/** What is known of a finding of this rule. */
export interface ClosesOnCharacterFacts {
  readonly interactable: string
  /** Who is in its way, and where; metres. Null where nobody's play showed it. */
  readonly who: string | null
  readonly at: readonly [number, number] | null
  /** Where it is said that it pushes; null: in a built-in type. */
  readonly said: string | null
}

/** Something that pushes whoever is in its way, where there is no room to push somebody to: it stays as it is. */
export const closesOnCharacter: Rule<ClosesOnCharacterFacts> = {
  name: 'closes-on-character',
  severity: 'warning',
  observation(stage) {
    const { at } = stage.tables
    const isCaught = (machine: number, regs: Int32Array): boolean => regs[at.waiting(machine)] !== 0
    const all = pushing(stage)
    return {
      isFault: () => true,
      onSituation: all.map(({ index, name }) => (regs, see) => {
        if (isCaught(index, regs)) see(start + name)
      }),
      isShown: (key, play) => {
        const { index } = all.find(({ name }) => start + name === key)!
        return isCaught(index, play.registers())
      },
    }
  },
  ask(context) {
    const { stage } = context
    const { space, expanded } = stage
    return pushing(stage).map((placed) => {
      const { name, index } = placed
      // Exploring lets anybody stay in the way of what pushes: where there is room, nobody does.
      if (expanded.characters.every((_, who) => isRoomBeside(space, who, index))) return ruledOut(name)
      const said = saidIn(stage, placed)
      const facts = { interactable: name, who: null, at: null, said }
      const asked = witnessed(context, name, [start + name], () => ({ path: said ?? placed.path, facts, grant: null }))
      return { ...asked, found: asked.found.map((one) => caught(stage, placed, one)) }
    })
  },
  says({ interactable, who, at }) {
    const whom = who === null || at === null ? 'somebody' : `${who}, at ${spotText(at)}`
    return `${interactable} pushes whoever is in its way, but there is no room beside it for ${whom}: it stays as it is until the way is clear.`
  },
  fix() {
    return 'Leave room beside it, or let it wait, or reopen (in-the-way).'
  },
  edit({ facts: { said } }) {
    return said === null ? null : likely({ do: 'replace', path: said, value: 'wait' })
  },
}

/** What pushes whoever is in its way. */
function pushing({ expanded, space }: Stage): Placed[] {
  return expanded.interactables.filter(
    ({ index, inTheWay }) => inTheWay === 'push' && space.layout.figures[index]!.comesAndGoes,
  )
}

/** Where the level says that something pushes; null: only a setting of a built-in type does. */
function saidIn(stage: Stage, { path, type }: Placed): string | null {
  const all = [join(path, 'in-the-way'), `types.${type}.in-the-way`]
  return all.find((one) => valueIn(stage, one) === 'push') ?? null
}

/** The same, with who is in its way where its steps end. */
function caught(
  stage: Stage,
  { index }: Placed,
  one: Found<ClosesOnCharacterFacts>,
): Found<ClosesOnCharacterFacts> & { readonly spots: readonly PlanSpot[] } {
  const play = replay(stage, one.steps)
  const who = stage.space.patches.findIndex(({ patches, patchAt }, character) => {
    const patch = patches[patchAt(play.spotOf(character))]
    return patch?.signature.bodies.includes(index)
  })
  if (who < 0) return { ...one, spots: [] }
  const at = ownSpot(stage.expanded, play.spotOf(who))
  const { name } = stage.expanded.characters[who]!
  return { ...one, facts: { ...one.facts, who: name, at }, spots: [{ at, text: 'no room to be pushed to' }] }
}

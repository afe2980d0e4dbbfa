import { levelIn } from './level-names.ts'
import type { Expanded, JoinedPart } from './placed.ts'

/** The player of a level that has one. */
export function playerOf({ characters }: Expanded): Expanded['characters'][number] {
  return characters.find(({ role }) => role === 'player')!
}

/** The characters of a level who stay in it, by index: all but the player. */
export function othersIn(characters: Expanded['characters']): number[] {
  return characters.flatMap(({ role }, who) => (role === 'player' ? [] : [who]))
}

/** The index among all of a character of a level that is joined: the player comes first, in whatever level it is. */
export function characterIn({ characters }: Expanded, first: JoinedPart['first'], who: number): number {
  return characters[who]!.role === 'player' ? 0 : first.others + othersIn(characters).indexOf(who)
}

/** The index of the level, of those that are joined, that a zone is in; 0 where there is one level. */
export function levelOfZone({ joined, zones, interactables }: Expanded, zone: number): number {
  const { interactable, name } = zones[zone]!
  const { level } = levelIn(interactable < 0 ? name : interactables[interactable]!.name)
  return Math.max(0, joined?.parts.findIndex((part) => part.name === level) ?? 0)
}

/** The index of the level that a character of levels that are joined stays in; -1: it goes from one to another, or there is one level. */
export function levelOfCharacter({ joined, characters }: Pick<Expanded, 'joined' | 'characters'>, who: number): number {
  const { level } = levelIn(characters[who]!.name)
  return joined?.parts.findIndex(({ name }) => name === level) ?? -1
}

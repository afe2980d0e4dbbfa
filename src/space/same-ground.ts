import type { Expanded, Placed } from '../interactables/index.ts'

/**
 * Whether two levels are certainly laid out alike: all that laying out reads is the same in both. What is laid out for the one
 * then does for the other. That a level is laid out otherwise does not follow where this is false.
 */
export function isSameGround(one: Expanded, other: Expanded): boolean {
  return JSON.stringify(groundOf(one)) === JSON.stringify(groundOf(other))
}

/** All that laying out reads of a level. */
function groundOf({ level, interactables, zones, places, characters }: Expanded): unknown {
  const { rooms, storeys, doorways, obstacles, resolution } = level
  return {
    rooms,
    storeys,
    doorways,
    obstacles,
    resolution,
    zones,
    places,
    characters,
    interactables: interactables.map(bodyOf),
  }
}

/** All that it reads of an interactable: everything but what it does, says and remembers. */
function bodyOf(placed: Placed): unknown {
  const { states, transitions } = placed
  return {
    ...placed,
    feedback: null,
    asksFor: null,
    contents: null,
    memories: null,
    initial: null,
    tags: null,
    states: states.map((state) => ({ ...state, look: null, lasting: null, isSpare: null, path: null, name: null })),
    // Whether any waits for a press: which one, and what for, is for the play.
    transitions: transitions.some(({ when: { kind } }) => kind === 'press' || kind === 'hold' || kind === 'release'),
  }
}

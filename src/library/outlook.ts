import { type AnyLevel, readingOf } from './prepared.ts'

const ofLevel = ['title', 'tick', 'accepted-findings', 'rooms', 'doorways', 'obstacles']
const shape = ['at', 'turn', 'scale', 'range', 'handle', 'body', 'zones']
const ofPerson = ['start', 'facing', 'radius', 'speed', 'hand', 'reach', 'reach-offset', 'probe']

/**
 * What the other levels of a project can find out about a level: what it asks for, gives, changes and leads to; not where things stand, how they
 * are shaped, and what is said. As long as this is the same text, a check of another level of the project finds the same. Throws a
 * `LevelError` where the level cannot be used.
 */
export function outlookOf(level: AnyLevel): string {
  const { value } = readingOf(level)
  const { interactables, characters, types, places, ...rest } = value
  return JSON.stringify({
    ...without(rest, ofLevel),
    interactables: each(interactables, [...shape, 'feedback', 'priority']),
    characters: each(characters, ofPerson),
    types: each(types, [...shape, 'feedback', 'about']),
    places: Object.keys(places ?? {}),
    rooms: Object.keys(value.rooms),
  })
}

function each(all: Readonly<Record<string, object>> = {}, keys: readonly string[]): [string, object][] {
  return Object.entries(all).map(([name, one]) => [name, without(one, keys)])
}

function without(one: object, keys: readonly string[]): object {
  return Object.fromEntries(Object.entries(one).filter(([key]) => !keys.includes(key)))
}

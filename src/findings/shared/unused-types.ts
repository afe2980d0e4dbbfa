import type { Expanded } from '../../interactables/index.ts'

/** The types that a level defines and that none of its instances is of, nor any type that is used extends. */
export function unusedTypes({ level: { types = {}, interactables = {} } }: Expanded): string[] {
  const used = new Set(Object.values(interactables).map(({ type }) => type))
  for (const type of used) {
    const extended = types[type]?.extends
    if (extended !== undefined) used.add(extended)
  }
  return Object.keys(types).filter((type) => !used.has(type))
}

/** The first type that nothing is of, and that waits for a signal; null where there is none. */
export function unusedTypeHearing(expanded: Expanded, signal: string): string | null {
  const hears = (type: string): boolean =>
    (expanded.level.types?.[type]?.transitions ?? []).some(
      ({ trigger }) => typeof trigger === 'object' && 'signal' in trigger && trigger.signal === signal,
    )
  return unusedTypes(expanded).find(hears) ?? null
}

/** The first type that nothing is of, and that would do something: of whose transitions one has such an effect; null where there is none. */
export function unusedTypeThat(expanded: Expanded, effect: 'send' | 'give', name: string): string | null {
  const does = (type: string): boolean =>
    (expanded.level.types?.[type]?.transitions ?? []).some(({ effects = [] }) =>
      effects.some((one) => {
        const value = (one as Readonly<Record<string, unknown>>)[effect]
        return (
          value === name || (Array.isArray(value) && value.some((part) => (part as { item?: unknown }).item === name))
        )
      }),
    )
  return unusedTypes(expanded).find(does) ?? null
}

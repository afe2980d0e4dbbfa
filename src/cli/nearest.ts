import { nearestName } from '../model/index.ts'

/** A question about the nearest of the names that would do; where none is near, something else to say. */
export function didYouMean(name: string, known: readonly string[], otherwise: string): string {
  const nearest = nearestName(name, known)
  return nearest === null ? otherwise : `Did you mean "${nearest}"?`
}

import { nearestName } from '../model/index.ts'
import type { NameProblem } from './placed.ts'

/** What a name can stand for. */
export type NameKind =
  | 'item'
  | 'interactable'
  | 'flag'
  | 'counter'
  | 'tag'
  | 'state'
  | 'zone'
  | 'room'
  | 'doorway'
  | 'place'
  | 'memory'
  | 'type'

/** Looks names up, and keeps what could not be found. Names that were granted are taken as what they were granted for. */
export class Names {
  readonly problems: NameProblem[] = []
  readonly #granted: ReadonlyMap<string, string>
  readonly #told = new Set<string>()

  /** `granted` maps the path of a wrong name to the right one. */
  constructor(granted: ReadonlyMap<string, string>) {
    this.#granted = granted
  }

  /** The index of a name among `names`, or -1, which is told once for each path. */
  find(kind: NameKind, name: string, names: readonly string[], path: string, subject: string): number {
    const wanted = this.granted(path, name)
    const index = names.indexOf(wanted)
    if (index < 0) {
      const nearest = nearestName(wanted, names)
      this.tell({ rule: 'unknown-name', path, subject, kind, name: wanted, nearest })
    }
    return index
  }

  /** The name that was granted for the one that is written at a path; that one where none was. */
  granted(path: string, name: string): string {
    return this.#granted.get(path) ?? name
  }

  tell(problem: NameProblem): void {
    const key = `${problem.rule} ${problem.path}`
    if (this.#told.has(key)) return
    this.#told.add(key)
    this.problems.push(problem)
  }
}

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
  | 'storey'
  | 'doorway'
  | 'place'
  | 'character'
  | 'memory'
  | 'type'

/** Looks names up, and keeps what could not be found. Names that were granted are taken as what they were granted for. */
export class Names {
  readonly problems: NameProblem[] = []
  readonly #granted: ReadonlyMap<string, string>
  readonly #told = new Set<string>()
  /** By kind and name, the paths of all that name what is there. */
  readonly #uses = new Map<string, Set<string>>()

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
      this.tell({ rule: 'unknown-name', path, subject, kind, name: wanted, nearest, known: names, misspelt: null })
    } else {
      const key = `${kind} ${wanted}`
      this.#uses.set(key, (this.#uses.get(key) ?? new Set()).add(path))
    }
    return index
  }

  /**
   * All problems. Where a name that leads nowhere stands in more places than the nearest one that is there, its definition among them,
   * it is that one that is misspelt: once, where it is defined. `definedAt`: the path of a definition; null where there is none.
   */
  told(definedAt: (kind: NameKind, name: string) => string | null): NameProblem[] {
    const groups = new Map<string, string[]>()
    const keyOf = (problem: NameProblem): string | null =>
      problem.rule === 'unknown-name' && problem.nearest !== null
        ? JSON.stringify([problem.kind, problem.name, problem.nearest])
        : null
    for (const problem of this.problems) {
      const key = keyOf(problem)
      if (key !== null) groups.set(key, [...(groups.get(key) ?? []), problem.path])
    }
    const done = new Set<string>()
    return this.problems.flatMap((problem): NameProblem[] => {
      const key = keyOf(problem)
      if (key === null || problem.rule !== 'unknown-name' || problem.nearest === null) return [problem]
      const paths = groups.get(key)!
      const path = definedAt(problem.kind as NameKind, problem.nearest)
      const uses = this.#uses.get(`${problem.kind} ${problem.nearest}`)?.size ?? 0
      if (path === null || paths.length <= uses + 1) return [problem]
      if (done.has(key)) return []
      done.add(key)
      return [{ ...problem, path, subject: problem.nearest, misspelt: { paths, uses } }]
    })
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

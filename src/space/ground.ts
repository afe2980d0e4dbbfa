import type { Terrain } from './clear-walk.ts'
import type { Nodes } from './nodes.ts'
import type { CloseLook, Signs } from './signs.ts'

/** What patches are made of: cells, the signs that their spots may have, and what is near them. */
export interface Ground {
  readonly terrain: Terrain & CloseLook
  readonly signs: Signs
  readonly nodes: Nodes
}

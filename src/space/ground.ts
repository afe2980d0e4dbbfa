import type { Terrain } from './clear-walk.ts'
import type { Nodes } from './nodes.ts'
import type { CloseLook, Signatures } from './signatures.ts'

/** What patches are made of: cells, the signatures that their spots may have, and what is near them. */
export interface Ground {
  readonly terrain: Terrain & CloseLook
  readonly signatures: Signatures
  readonly nodes: Nodes
}

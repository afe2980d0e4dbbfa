import { processWorld } from '../../src/cli/process.ts'
import { run } from '../../src/cli/program.ts'
import type { World } from '../../src/cli/world.ts'

/** What a command wrote, and how it ended. */
export interface Ran {
  readonly code: number
  readonly out: string
  readonly err: string
}

const real = processWorld()

/** Runs a command in this process: without colours, 100 columns wide, but for what is said otherwise. */
export async function zintel(args: readonly string[], otherwise: Partial<World> = {}): Promise<Ran> {
  let [out, err] = ['', '']
  const world: World = {
    ...real,
    out: (text) => (out += text),
    err: (text) => (err += text),
    colours: false,
    progressColumns: null,
    columns: 100,
    signal: { aborted: false },
    ...otherwise,
  }
  return { code: await run(args, world), out, err }
}

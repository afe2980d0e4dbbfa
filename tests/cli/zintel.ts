import { spawn, spawnSync } from 'node:child_process'
import type { ChildProcessWithoutNullStreams, SpawnSyncReturns } from 'node:child_process'
import { processWorld } from '../../src/cli/process.ts'
import { run } from '../../src/cli/program.ts'
import type { World } from '../../src/cli/world.ts'
import { project } from '../levels.ts'

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

/** The command line as it is built, for Node to run. */
export const main = `${project}dist/bin/zintel.js`

/** What a process is started with: it prints without colours, whatever the terminal or the machine that runs the tests asks for. */
export const plainly = {
  encoding: 'utf8' as const,
  env: { ...process.env, NODE_OPTIONS: '', FORCE_COLOR: undefined },
}

/** Starts a command as a process of its own. */
export function startZintel(...args: readonly string[]): ChildProcessWithoutNullStreams {
  return spawn(process.execPath, [main, ...args], plainly)
}

/** Runs a command as a process of its own, until it ends. */
export function zintelProcess(
  args: readonly string[],
  options: { cwd?: string; input?: string; timeout?: number; env?: NodeJS.ProcessEnv } = {},
): SpawnSyncReturns<string> {
  return spawnSync(process.execPath, [main, ...args], { ...plainly, ...options })
}

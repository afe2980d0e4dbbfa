import { existsSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { Worker } from 'node:worker_threads'
import type { Checked } from './checking.ts'
import type { Helpers } from './world.ts'

/** A file that is to be checked in another thread. */
export interface HelpTask {
  readonly file: string
  readonly text: string
  readonly budget: number
  /** What the world of the first thread is like, as far as it has a say in what is written. */
  readonly columns: number
  readonly colours: boolean
}

/** What came of it: what was checked, in order, and what is to be written to standard error. */
export interface HelpDone {
  readonly checked: readonly Checked[]
  readonly err: string
}

/** The built program of a helper lies beside that of the command; the sources have none. */
const program = new URL('./helper.js', import.meta.url)

/** Helpers, a thread for each core, where the program is built and there are several cores; else null. */
export function threadHelpers(world: Pick<HelpTask, 'columns' | 'colours'>): Helpers | null {
  const most = availableParallelism()
  if (most < 2 || !existsSync(program)) return null
  return {
    most,
    start: () => {
      const worker = new Worker(program)
      return {
        check: (file, text, budget) =>
          new Promise<HelpDone>((resolve, reject) => {
            worker.once('message', (done: HelpDone) => {
              worker.off('error', reject)
              resolve(done)
            })
            worker.once('error', reject)
            worker.postMessage({ file, text, budget, ...world } satisfies HelpTask)
          }),
        interrupt: () => {
          worker.postMessage('interrupt')
        },
        end: async () => {
          await worker.terminate()
        },
      }
    },
  }
}

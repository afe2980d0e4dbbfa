import { existsSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { Worker } from 'node:worker_threads'
import type { HelpDone, Helpers, HelpTask } from './world.ts'

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
        check: (file, text, limits) =>
          new Promise<HelpDone>((resolve, reject) => {
            worker.once('message', (done: HelpDone) => {
              worker.off('error', reject)
              resolve(done)
            })
            worker.once('error', reject)
            worker.postMessage({ file, text, limits, ...world } satisfies HelpTask)
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

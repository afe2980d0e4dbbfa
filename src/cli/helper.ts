import { parentPort } from 'node:worker_threads'
import { checkOne } from './checking.ts'
import { processWorld } from './process.ts'
import type { Checked, HelpDone, HelpTask } from './world.ts'

// Checks one file after the other for the thread that started this one. An interrupt ends the check with what is known.
const port = parentPort!
const signal = { aborted: false }
const real = processWorld()

port.on('message', (message: HelpTask | 'interrupt') => {
  if (message === 'interrupt') signal.aborted = true
  else void help(message)
})

async function help({ file, text, limits, columns, colours }: HelpTask): Promise<void> {
  const checked: Checked[] = []
  let err = ''
  const world = {
    ...real,
    columns,
    colours,
    signal,
    // The thread that started this one says how far all of it has come.
    isSilent: true,
    helpers: null,
    err: (said: string) => {
      err += said
    },
  }
  for await (const one of checkOne(file, text, limits, world)) checked.push(one)
  port.postMessage({ checked, err } satisfies HelpDone)
}

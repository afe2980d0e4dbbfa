import { readFileSync } from 'node:fs'
import { exploreNow, expandLevel, makeStage, readLevel } from '../dist/index.js'

// Explores the level in a file through the public face, and prints what it took.
const reading = readLevel(readFileSync(process.argv[2], 'utf8'), process.argv[2])
const stage = makeStage(expandLevel(reading.value, reading.source))
const since = performance.now()
const { counts, softLocks } = exploreNow(stage, { budget: 20_000_000 })
const milliseconds = performance.now() - since
const answers = softLocks.map((one) => one?.answer ?? 'not asked')
console.log(JSON.stringify({ ...counts, milliseconds, softLocks: answers }))

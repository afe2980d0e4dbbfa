#!/usr/bin/env node
import { processWorld } from './process.ts'
import { run } from './program.ts'

process.exitCode = await run(process.argv.slice(2), processWorld())
// What is still being read, from a device that does not end, must not keep the process.
setTimeout(() => process.exit(), 200).unref()

#!/usr/bin/env node
import { processWorld } from './process.ts'
import { run } from './program.ts'

process.exitCode = await run(process.argv.slice(2), processWorld())

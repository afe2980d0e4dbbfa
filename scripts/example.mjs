import { build } from './build.mjs'
import { run, tool } from './run.mjs'

await build()
console.log('The try-out page: walk with the arrow keys or by clicking, press with the space bar. Ctrl-C ends it.')
run(tool('vite'), ['examples/try-out', ...process.argv.slice(2)])

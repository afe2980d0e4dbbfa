import { build } from './build.mjs'
import { run, tool } from './run.mjs'

await build()
console.log('The workbench: open the address below in a browser. Ctrl-C ends it.')
run(tool('vite'), ['examples/workbench', ...process.argv.slice(2)])

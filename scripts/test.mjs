import { apiPages } from './api.mjs'
import { build } from './build.mjs'
import { findBrowser } from './browser.mjs'
import { run, tool } from './run.mjs'

await build()
const browser = findBrowser()
if (!browser) {
  console.error('The browser test needs a Chromium: set ZINTEL_BROWSER to the path of one.')
  process.exit(1)
}
run(tool('tsc'), ['-p', 'tsconfig.json'])
run(tool('tsc'), ['-p', 'tsconfig.core.json'])
run(tool('tsc'), ['-p', 'examples/workbench/tsconfig.json'])
run(tool('eslint'), ['.'])
run(tool('prettier'), ['--check', '--log-level', 'warn', '.'])
// The package: what it exports, what of it is documented, how large it is.
run(tool('publint'), ['--strict', '--level', 'suggestion'])
run(tool('attw'), ['--pack', '.', '--profile', 'esm-only', '--format', 'ascii', '--no-summary', '--quiet'])
apiPages()
run(tool('size-limit'), ['--silent'])
run(tool('vite'), ['build', '--logLevel', 'warn', 'examples/workbench'])
const nodeOptions = `${process.env.NODE_OPTIONS ?? ''} --experimental-vm-modules --no-warnings`.trim()
run(tool('jest'), process.argv.slice(2), {
  env: { ...process.env, NODE_OPTIONS: nodeOptions, ZINTEL_BROWSER: browser },
})

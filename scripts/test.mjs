import { apiPages } from './api.mjs'
import { build } from './build.mjs'
import { findBrowser } from './browser.mjs'
import { run, runRows, tool } from './run.mjs'

await build()
const browser = findBrowser()
if (!browser) {
  console.error('The browser test needs a Chromium: set ZINTEL_BROWSER to the path of one.')
  process.exit(1)
}
await runRows([
  [[process.execPath, ['scripts/lint.mjs']]],
  [
    [tool('prettier'), ['--check', '--log-level', 'warn', '.']],
    [tool('tsc'), ['-p', 'tsconfig.core.json']],
    // The package: what of it is documented, what it exports, how large it is.
    apiPages,
    [tool('publint'), ['--strict', '--level', 'suggestion']],
    [tool('attw'), ['--pack', '.', '--profile', 'esm-only', '--format', 'ascii', '--no-summary', '--quiet']],
    [tool('size-limit'), ['--silent']],
    [tool('vite'), ['build', '--logLevel', 'warn', 'examples/workbench']],
  ],
])
const nodeOptions = `${process.env.NODE_OPTIONS ?? ''} --experimental-vm-modules --no-warnings`.trim()
// All processors are busy: compiling less of what runs for a few seconds only leaves more of them for the tests.
run(process.execPath, ['--interrupt-budget=600000', tool('jest'), ...process.argv.slice(2)], {
  env: { ...process.env, NODE_OPTIONS: nodeOptions, ZINTEL_BROWSER: browser },
})

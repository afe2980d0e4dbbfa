import { pathToFileURL } from 'node:url'
import { build } from './build.mjs'
import { run, tool } from './run.mjs'

/** The command that writes the pages about all that the package exports; a name without a sentence, or a type that is not exported, is an error. */
export const apiPages = [tool('typedoc'), ['--logLevel', 'Warn', '--out', 'dist/api']]

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  await build()
  run(...apiPages)
  console.log('The pages begin at dist/api/index.html.')
}

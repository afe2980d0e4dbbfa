import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import { root, run } from './run.mjs'

const stamp = `${root}node_modules/.zintel-packages`

/** Installs the packages, unless those that the lock file names are installed. */
export function setup() {
  const wanted = fingerprint(['package.json', 'package-lock.json', ...packages()])
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  console.log('Installing packages (this is done once).')
  run('npm', ['install', '--no-audit', '--no-fund', '--loglevel=error'])
  writeFileSync(stamp, fingerprint(['package.json', 'package-lock.json', ...packages()]))
}

/** A hash of files, names and contents. */
export function fingerprint(files) {
  const hash = createHash('sha256')
  for (const file of files) {
    hash.update(`${file}\0`)
    hash.update(existsSync(root + file) ? readFileSync(root + file) : '')
  }
  return hash.digest('hex')
}

function packages() {
  return readdirSync(`${root}examples`)
    .map((name) => `examples/${name}/package.json`)
    .filter((file) => existsSync(root + file))
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) setup()

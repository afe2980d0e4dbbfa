import { existsSync } from 'node:fs'
import { status } from './run.mjs'

const usual = [
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
  '/usr/bin/google-chrome-stable',
]

/** The browser that tests drive; installs Debian's where there is none and that can be done. Null where it cannot. */
export function findBrowser() {
  const named = process.env.ZINTEL_BROWSER
  if (named) return existsSync(named) ? named : null
  return usual.find((file) => existsSync(file)) ?? install()
}

function install() {
  if (!existsSync('/etc/debian_version') || process.getuid?.() !== 0) return null
  console.log('Installing the chromium package (this is done once).')
  const options = { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }, stdio: ['ignore', 'ignore', 'inherit'] }
  status('apt-get', ['update', '-qq'], options)
  status('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium', 'fonts-dejavu-core'], options)
  return usual.find((file) => existsSync(file)) ?? null
}

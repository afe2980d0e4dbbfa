import { spawnSync } from 'node:child_process'
import { fileURLToPath } from 'node:url'

/** The folder of the project. */
export const root = fileURLToPath(new URL('..', import.meta.url))

/** Runs a command in the project's folder with its output shown; ends this process where it fails. */
export function run(command, args, options = {}) {
  const code = status(command, args, options)
  if (code !== 0) process.exit(code)
}

/** Runs a command in the project's folder with its output shown, and gives its exit code. */
export function status(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (result.error) {
    console.error(`${command} could not be started: ${result.error.message}`)
    return 1
  }
  return result.status ?? 1
}

/** The path of a tool that a package brings. */
export function tool(name) {
  return `${root}node_modules/.bin/${name}`
}

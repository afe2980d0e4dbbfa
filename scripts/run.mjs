import { spawn, spawnSync } from 'node:child_process'
import { once } from 'node:events'
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

/**
 * Runs rows of commands beside one another, those of a row one after the other; what a command says is shown once it has ended. Ends this process
 * where one fails, when all rows have ended.
 */
export async function runRows(rows) {
  const codes = await Promise.all(rows.map(runRow))
  const failed = codes.find((code) => code !== 0)
  if (failed !== undefined) process.exit(failed)
}

async function runRow(commands) {
  for (const [command, args] of commands) {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] })
    const said = []
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (data) => said.push(data))
    const code = await once(child, 'close').then(
      ([ended]) => ended ?? 1,
      (error) => {
        said.push(`${command} could not be started: ${error.message}\n`)
        return 1
      },
    )
    for (const data of said) process.stderr.write(data)
    if (code !== 0) {
      console.error(
        `${command.slice(command.lastIndexOf('/') + 1)} ${args.join(' ')} ended with exit code ${String(code)}.`,
      )
      return code
    }
  }
  return 0
}

/** The path of a tool that a package brings. */
export function tool(name) {
  return `${root}node_modules/.bin/${name}`
}

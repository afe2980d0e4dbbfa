import { mkdir, open, readFile, realpath, rename, rm, stat, writeFile } from 'node:fs/promises'
import { dirname } from 'node:path'
import { Unusable, type World } from './world.ts'

/** Files larger than this, in bytes, are not even read. */
const largestFile = 64 * 1024 * 1024

/** The world of this process. */
export function processWorld(): World {
  const controller = new AbortController()
  process.once('SIGINT', () => {
    controller.abort()
  })
  for (const stream of [process.stdout, process.stderr]) {
    stream.on('error', (error: NodeJS.ErrnoException) => {
      // Whoever read our output has stopped reading: there is nobody left to tell.
      if (error.code === 'EPIPE') process.exit(process.exitCode ?? 0)
      throw error
    })
  }
  return {
    out: (text) => process.stdout.write(text),
    err: (text) => process.stderr.write(text),
    colours: wantsColours(process.env, process.stdout.isTTY),
    progressColumns: process.stderr.isTTY ? process.stderr.columns : null,
    columns: Math.max(40, Math.min(process.stdout.isTTY ? process.stdout.columns : 100, 120)),
    readText,
    writeText,
    exists: (file) =>
      stat(file).then(
        () => true,
        () => false,
      ),
    remove: (file) => rm(file),
    stamp,
    changed: (files, before) => changed(files, before, controller.signal),
    ask: (question) => ask(question, controller),
    page,
    now: () => performance.now(),
    pause: () => new Promise((resume) => setImmediate(resume)),
    signal: controller.signal,
  }
}

/** How often files are looked at for changes, in ms. */
const lookEvery = 150

async function changed(files: readonly string[], before: string, signal: AbortSignal): Promise<void> {
  while (!signal.aborted && (await stamp(files)) === before) {
    await new Promise((resume) => setTimeout(resume, lookEvery))
  }
}

async function stamp(files: readonly string[]): Promise<string> {
  const marks = files.map((file) =>
    stat(file).then(
      ({ mtimeMs, size }) => `${String(mtimeMs)} ${String(size)}`,
      () => '',
    ),
  )
  return (await Promise.all(marks)).join(',')
}

async function ask(question: string, controller: AbortController): Promise<boolean | null> {
  if (!process.stdin.isTTY || !process.stdout.isTTY) return null
  const { createInterface } = await import('node:readline/promises')
  const lines = createInterface({ input: process.stdin, output: process.stdout })
  // While a line is being read, Ctrl-C and Ctrl-D are keys like others; an end of the input is a no.
  const ended = new Promise<null>((resume) => {
    lines.once('SIGINT', () => {
      controller.abort()
      resume(null)
    })
    lines.once('close', () => {
      resume(null)
    })
  })
  try {
    const answer = await Promise.race([lines.question(question).catch(() => null), ended])
    if (answer !== null) return /^y(es)?$/i.test(answer.trim())
    process.stdout.write('\n')
    return false
  } finally {
    lines.close()
  }
}

/** Pages lie beside the built program; in the sources they are in the docs. */
async function page(rule: string): Promise<string> {
  for (const folder of ['../explain/', '../../docs/findings/']) {
    const text = await readFile(new URL(`${folder}${rule}.md`, import.meta.url), 'utf8').catch(() => null)
    if (text !== null) return text
  }
  throw new Unusable(`the page of ${rule} is not there: the installation lacks a part.`)
}

/** Colours go to terminals only, and not where `NO_COLOR` is set to anything; `FORCE_COLOR` asks for them anyway. */
export function wantsColours(env: Readonly<Record<string, string | undefined>>, isTerminal: boolean): boolean {
  if (env.NO_COLOR !== undefined && env.NO_COLOR !== '') return false
  if (env.FORCE_COLOR !== undefined && env.FORCE_COLOR !== '' && env.FORCE_COLOR !== '0') return true
  return isTerminal && env.TERM !== 'dumb'
}

async function readText(file: string): Promise<string> {
  try {
    const { size } = await stat(file)
    if (size > largestFile)
      throw new Unusable(`${file}: the file has ${String(size)} bytes, which is too large to be a level.`)
    const bytes = await readFile(file)
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch (error) {
    throw new Unusable(reason(file, error, 'read'))
  }
}

async function writeText(file: string, text: string): Promise<void> {
  // A link stays a link: what it leads to is written.
  const target = await realpath(file).catch(() => file)
  const draft = `${target}.${String(process.pid)}.part`
  try {
    await mkdir(dirname(target), { recursive: true })
    await writeFile(draft, text, { mode: await modeOf(target) })
    await rename(draft, target)
  } catch (error) {
    await rm(draft, { force: true }).catch(() => undefined)
    throw new Unusable(reason(file, error, 'written'))
  }
}

/** The permissions of a file that may be written; undefined where there is none yet. Throws where it may not be. */
async function modeOf(file: string): Promise<number | undefined> {
  try {
    const handle = await open(file, 'r+')
    const { mode } = await handle.stat()
    await handle.close()
    return mode
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return undefined
    throw error
  }
}

function reason(file: string, error: unknown, done: string): string {
  if (error instanceof Unusable) return error.message
  const words: Readonly<Record<string, string>> = {
    ENOENT: 'there is no such file',
    EACCES: 'permission is denied',
    EISDIR: 'it is a folder, not a file',
    EROFS: 'the disk is read-only',
    ENOTDIR: 'a part of its path is not a folder',
    ENAMETOOLONG: 'its name is too long',
    EEXIST: 'a part of its path is not a folder',
  }
  const code = (error as NodeJS.ErrnoException).code ?? ''
  if (code === 'ERR_ENCODING_INVALID_ENCODED_DATA') return `${file}: the file is not UTF-8 text.`
  return `${file}: cannot be ${done}: ${words[code] ?? (error instanceof Error ? error.message : String(error))}.`
}

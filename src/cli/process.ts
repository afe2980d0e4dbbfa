import { constants, createReadStream, openSync } from 'node:fs'
import { type FileHandle, mkdir, open, readFile, realpath, rename, rm, stat } from 'node:fs/promises'
import { Socket } from 'node:net'
import { dirname, isAbsolute } from 'node:path'
import type { Readable } from 'node:stream'
import { isatty } from 'node:tty'
import { threadHelpers } from './helpers.ts'
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
      // The reader of our output has stopped: there is nobody left to tell.
      if (error.code === 'EPIPE') process.exit(process.exitCode ?? 0)
      throw error
    })
  }
  const colours = wantsColours(process.env, isatty(1))
  const columns = Math.max(40, Math.min(process.stdout.isTTY ? process.stdout.columns : 100, 120))
  return {
    out: (text) => process.stdout.write(text),
    err: (text) => process.stderr.write(text),
    colours,
    progressColumns: process.stderr.isTTY ? process.stderr.columns : null,
    columns,
    helpers: threadHelpers({ colours, columns }),
    isSilent: false,
    readText,
    find,
    writeText,
    replaceText,
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

/** Waits for a change, and then until nothing changes between two looks: a file is not read while half of it is written. */
async function changed(files: readonly string[], before: string, signal: AbortSignal): Promise<void> {
  for (let last = before; !signal.aborted;) {
    await new Promise((resume) => setTimeout(resume, lookEvery))
    const now = await stamp(files)
    if (now !== before && now === last) return
    last = now
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

/** How long, in ms, one waits for the end of what is no plain file. */
const longestRead = 2000

async function readText(file: string): Promise<string> {
  try {
    if (file === '-') return new TextDecoder('utf-8', { fatal: true }).decode(await readInput())
    const about = await stat(file)
    if (about.isDirectory()) throw Object.assign(new Error(), { code: 'EISDIR' })
    if (about.size > largestFile) throw tooLarge(file, about.size)
    const bytes = about.isFile() ? await readFile(file) : await readStream(file, about.isFIFO())
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch (error) {
    throw new Unusable(reason(file, error, 'read'))
  }
}

async function readInput(): Promise<Uint8Array> {
  const parts: Buffer[] = []
  let bytes = 0
  for await (const part of process.stdin as AsyncIterable<Buffer>) {
    bytes += part.length
    if (bytes > largestFile) throw tooLarge('standard input', bytes)
    parts.push(part)
  }
  return Buffer.concat(parts)
}

async function find(what: string): Promise<string[] | null> {
  const about = await stat(what).catch(() => null)
  const isPattern = about === null && /[*?[\]{}]/.test(what)
  if (!about?.isDirectory() && !isPattern) return null
  const { glob } = await import('tinyglobby')
  const folder = what.replace(/[/\\]+$/, '')
  const ignore = ['**/node_modules/**']
  const found = about
    ? (await glob('**/*.{yaml,yml,json}', { cwd: what, ignore })).map((name) =>
        folder === '.' ? name : `${folder}/${name}`,
      )
    : await glob(what, { ignore, absolute: isAbsolute(what) })
  return found.sort()
}

function tooLarge(file: string, bytes: number): Unusable {
  return new Unusable(`${file}: the file has ${String(bytes)} bytes or more, which is too large to be a level.`)
}

/** Reads what is no plain file: a pipe, a device. It must come to an end, and soon. */
function readStream(file: string, isPipe: boolean): Promise<Uint8Array> {
  // A pipe that nobody writes to keeps its reader waiting; not so without blocking.
  const fd = openSync(file, constants.O_RDONLY | constants.O_NONBLOCK)
  const stream: Readable = isPipe ? new Socket({ fd, readable: true }) : createReadStream('', { fd })
  return new Promise((resolve, reject) => {
    const parts: Buffer[] = []
    let size = 0
    const end = (act: () => void): void => {
      clearTimeout(timer)
      stream.destroy()
      act()
    }
    const timer = setTimeout(() => {
      const said = `${file}: it is no file, and it did not come to an end within ${String(longestRead / 1000)} s.`
      end(() => {
        reject(new Unusable(said))
      })
    }, longestRead)
    stream.on('data', (part: Buffer) => {
      parts.push(part)
      size += part.length
      if (size > largestFile) {
        end(() => {
          reject(tooLarge(file, size))
        })
      }
    })
    stream.on('error', (error) => {
      end(() => {
        reject(error)
      })
    })
    stream.on('end', () => {
      end(() => {
        resolve(Buffer.concat(parts))
      })
    })
  })
}

/** A draft older than this, in ms, was left behind by somebody who did not come to the end. */
const staleDraft = 10_000

async function writeText(file: string, text: string): Promise<void> {
  await replaced(file, () => Promise.resolve(text))
}

async function replaceText(file: string, before: string, text: string, beforehand: () => Promise<void>): Promise<void> {
  await replaced(file, async () => {
    if ((await readText(file)) !== before) {
      throw new Unusable(`${file}: the file has changed since it was read. Nothing was written: check it again.`)
    }
    await beforehand()
    return text
  })
}

/**
 * Writes a file whole, by way of a draft beside it. While there is a draft nobody else writes the file: so `make` sees
 * what is in it, and nothing comes in between.
 */
async function replaced(file: string, make: () => Promise<string>): Promise<void> {
  // A link stays a link: what it leads to is written.
  const target = await realpath(file).catch(() => file)
  const draft = `${target}.part`
  let isOurs = false
  try {
    await mkdir(dirname(target), { recursive: true })
    const mode = await modeOf(target)
    const handle = await openDraft(draft, file, mode)
    isOurs = true
    try {
      await handle.writeFile(await make())
    } finally {
      await handle.close()
    }
    await rename(draft, target)
  } catch (error) {
    if (isOurs) await rm(draft, { force: true }).catch(() => undefined)
    throw new Unusable(reason(file, error, 'written'))
  }
}

async function openDraft(draft: string, file: string, mode: number | undefined): Promise<FileHandle> {
  for (;;) {
    try {
      return await open(draft, 'wx', mode)
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
      const age =
        Date.now() -
        (await stat(draft).then(
          ({ mtimeMs }) => mtimeMs,
          () => 0,
        ))
      if (age < staleDraft) throw new Unusable(`${file}: somebody else is writing it just now. Nothing was written.`)
      await rm(draft, { force: true })
    }
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

import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { createServer, type Server } from 'node:http'
import { tmpdir } from 'node:os'
import { extname, join } from 'node:path'
import { chromium, type BrowserContext, type Page } from 'playwright-core'

const types: Readonly<Record<string, string>> = { '.html': 'text/html', '.js': 'text/javascript', '.css': 'text/css' }

/** A built page in a browser, served from a folder. */
export interface OpenPage {
  readonly page: Page
  /** What the page said on its console that it should not have. */
  readonly complaints: string[]
  close(): Promise<void>
}

/** Serves a folder and opens its page in a browser with an empty profile. */
export async function openPage(folder: string): Promise<OpenPage> {
  const server = createServer((request, response) => {
    const path = new URL(request.url ?? '/', 'http://localhost').pathname
    const file = join(folder, path === '/' ? 'index.html' : path)
    readFile(file).then(
      (body) => response.writeHead(200, { 'content-type': types[extname(file)] ?? 'text/plain' }).end(body),
      () => response.writeHead(404).end(),
    )
  })
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready))
  const profile = await mkdtemp(join(tmpdir(), 'zintel-browser-'))
  const context = await launch(profile)
  const page = await context.newPage()
  const complaints: string[] = []
  page.on('console', (message) => {
    if (message.type() === 'error' || message.type() === 'warning') complaints.push(message.text())
  })
  page.on('pageerror', (error) => complaints.push(error.message))
  await page.goto(`http://127.0.0.1:${String(portOf(server))}/`)
  return {
    page,
    complaints,
    async close() {
      await context.close()
      await new Promise((done) => server.close(done))
      await rm(profile, { recursive: true, force: true })
    },
  }
}

function launch(profile: string): Promise<BrowserContext> {
  return chromium.launchPersistentContext(profile, {
    executablePath: process.env.ZINTEL_BROWSER ?? '/usr/bin/chromium',
    headless: true,
    viewport: { width: 1280, height: 800 },
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  })
}

function portOf(server: Server): number {
  const address = server.address()
  if (address === null || typeof address === 'string') throw new Error('the server has no port')
  return address.port
}

import { createServer } from 'node:http'
import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { extname, join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { chromium } from 'playwright-core'
import { findBrowser } from './browser.mjs'
import { build } from './build.mjs'
import { root, run, tool } from './run.mjs'

// Takes the pictures of the workbench that the README shows, a step of a designer's day each.

const types = { '.html': 'text/html', '.js': 'text/javascript', '.css': 'text/css' }
const folder = `${root}examples/workbench/dist`

await build()
run(tool('vite'), ['build', '--logLevel', 'warn', 'examples/workbench'])
const server = createServer((request, response) => {
  const path = new URL(request.url, 'http://localhost').pathname
  const file = join(folder, path === '/' ? 'index.html' : path)
  readFile(file).then(
    (body) => response.writeHead(200, { 'content-type': types[extname(file)] ?? 'text/plain' }).end(body),
    () => response.writeHead(404).end(),
  )
})
await new Promise((ready) => server.listen(0, '127.0.0.1', ready))
const profile = await mkdtemp(join(tmpdir(), 'zintel-pictures-'))
const context = await chromium.launchPersistentContext(profile, {
  executablePath: findBrowser(),
  headless: true,
  viewport: { width: 1280, height: 800 },
  args: ['--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-background-networking', '--disable-sync'],
})
const page = await context.newPage()
page.setDefaultTimeout(90_000)

const shown = async (name, { width = 1280, height = 800, colorScheme = 'light' } = {}) => {
  await page.setViewportSize({ width, height })
  await page.emulateMedia({ colorScheme })
  await page.waitForTimeout(700)
  await page.screenshot({ path: `${root}docs/screenshots/workbench-${name}.png` })
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.emulateMedia({ colorScheme: 'light' })
}
const tab = (name) => page.getByRole('tab', { name: new RegExp(`^${name}`) }).click()
const checked = () => page.getByTestId('checked').or(page.getByTestId('clean')).first().waitFor()
const pixel = async (x, y) => {
  const view = JSON.parse(await page.getByTestId('plan').getAttribute('data-view'))
  const box = await page.getByTestId('plan').boundingBox()
  return [box.x + view.x + x * view.scale, box.y + view.y - y * view.scale]
}

await page.goto(`http://127.0.0.1:${server.address().port}/`)
await page.getByText('What shall lie on the desk?').waitFor()
await shown('1-open')

await page.getByRole('button', { name: /^The tide mill, a draft/ }).click()
await page.getByTestId('plan').waitFor()
await checked()
await page.setViewportSize({ width: 1920, height: 1080 })
await page.waitForTimeout(500)
await page.mouse.click(...(await pixel(9.15, 3.1)))
await page.getByRole('group', { name: /^States and transitions/ }).waitFor()
await shown('2-see', { width: 1920, height: 1080 })

await page.waitForTimeout(500)
const from = await pixel(3, 6.6)
await page.mouse.click(...from)
await page.mouse.move(...from)
await page.mouse.down()
await page.mouse.move(from[0] + 40, from[1] + 30, { steps: 5 })
await page.waitForTimeout(200)
await page.screenshot({ path: `${root}docs/screenshots/workbench-3-place.png` })
await page.keyboard.press('Escape')
await page.mouse.move(...from)
await page.mouse.up()

await tab('Findings')
await checked()
await page.locator('.card-head').nth(1).click()
await shown('5-check', { width: 1920, height: 1080 })

await page.getByTestId('try').click()
await page.getByTestId('person').waitFor()
await page.mouse.click(...(await pixel(8.45, 3.1)))
await page.getByTestId('prompt').filter({ hasText: 'Open the mill door' }).waitFor()
await page.keyboard.press('Space')
await page.waitForTimeout(300)
await shown('4-try', { colorScheme: 'dark' })
await page.getByTestId('try').click()

await tab('Findings')
await checked()
const card = page.locator('.card').first()
if ((await card.locator('.details').count()) === 0) await card.locator('.card-head').click()
await card.getByRole('button', { name: 'Try this change' }).first().click()
await page.waitForTimeout(500)
await checked()
await tab('Changes')
await page.getByTestId('differences').waitFor()
await shown('6-changes')

await tab('Hand over')
const [download] = await Promise.all([
  page.waitForEvent('download'),
  page.getByRole('button', { name: 'Report (HTML)' }).click(),
])
const report = join(profile, 'report.html')
await download.saveAs(report)
await page.goto(pathToFileURL(report).href)
await page.waitForTimeout(300)
await shown('7-hand-over', { colorScheme: 'dark' })

await context.close()
server.close()
await rm(profile, { recursive: true, force: true })

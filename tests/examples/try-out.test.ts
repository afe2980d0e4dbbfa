import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { planFrame } from '../../src/draw/index.ts'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import { makeStage } from '../../src/play/index.ts'
import { openPage, type OpenPage } from './browser.ts'

const built = fileURLToPath(new URL('../../examples/try-out/dist', import.meta.url))
const level = readFileSync(new URL('../../examples/levels/tide-mill.level.yaml', import.meta.url), 'utf8')
const frame = planFrame(makeStage(expandLevel(readLevel(level).value!)), 31)
let open: OpenPage

beforeAll(async () => {
  open = await openPage(built)
}, 120_000)

afterAll(async () => {
  await open.close()
})

/** Pixels of the plan for a spot in metres, as its picture shows them. */
async function click(x: number, y: number): Promise<void> {
  const box = await open.page.getByTestId('plan').boundingBox()
  if (!box) throw new Error('there is no plan')
  const [px, py] = frame.toPlan([x, y])
  await open.page.mouse.click(box.x + (px / frame.width) * box.width, box.y + (py / frame.height) * box.height)
}

const text = (id: string): Promise<string> => open.page.getByTestId(id).innerText()

async function until(id: string, wanted: RegExp): Promise<void> {
  await open.page.getByTestId(id).filter({ hasText: wanted }).waitFor({ timeout: 20_000 })
}

test('a player is refused at the locked door, fetches the key, comes back and opens it', async () => {
  const { page } = open
  await page.getByTestId('plan').waitFor()
  await click(8.4, 3.4)
  await until('prompt', /Open the mill door/)
  await page.keyboard.press('Space')
  await until('message', /Locked\. The sluice key would fit\./)
  expect(await text('state-mill-door')).toBe('locked')
  expect(await text('log')).toContain('keeper presses mill-door: refused (carries 0 of 1 sluice-key)')

  await click(1.1, 5.8)
  await until('prompt', /Take the sluice key/)
  await page.keyboard.press('Space')
  await until('carried', /sluice key/)
  expect(await text('state-key-hook')).toBe('taken')

  await click(8.4, 3.4)
  await until('prompt', /Open the mill door/)
  await page.keyboard.press('Space')
  await until('state-mill-door', /open/)
  await click(11, 3.5)
  await until('state-mill-door', /closed/)
})

test('the keyboard walks and stops, and a press that nothing answers says why', async () => {
  const { page } = open
  await page.getByRole('button', { name: 'Start again' }).click()
  await until('carried', /nothing/)
  const before = await page.getByTestId('person').getAttribute('cx')
  await page.keyboard.down('ArrowRight')
  await page.waitForTimeout(400)
  await page.keyboard.up('ArrowRight')
  const after = await page.getByTestId('person').getAttribute('cx')
  expect(Number(after) - Number(before)).toBeGreaterThan(15)
  await page.keyboard.press('Space')
  await until('unanswered', /its range ends at|nothing is near by/)
})

test('the page has nothing to complain about', () => {
  expect(open.complaints).toEqual([])
})

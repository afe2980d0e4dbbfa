import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { planFrame } from '../../src/draw/index.ts'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import { makeStage, type Stage } from '../../src/play/index.ts'
import { openPage, type OpenPage } from './browser.ts'

const built = fileURLToPath(new URL('../../examples/try-out/dist', import.meta.url))
const level = readFileSync(new URL('../../examples/levels/tide-mill.level.yaml', import.meta.url), 'utf8')
const stageOf = (text: string): Stage => makeStage(expandLevel(readLevel(text).value!))
let stage = stageOf(level)
let open: OpenPage

beforeAll(async () => {
  open = await openPage(built)
}, 120_000)

afterAll(async () => {
  await open.close()
})

/** Pixels of the plan for a spot in metres, as its picture shows them. */
async function click(x: number, y: number): Promise<void> {
  const plan = open.page.getByTestId('plan')
  const frame = planFrame(stage, Number(await plan.getAttribute('data-scale')))
  const box = await plan.boundingBox()
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
  await page.getByRole('button', { name: 'Restart' }).click()
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

/** Chooses a level of the gallery. */
async function choose(file: string): Promise<void> {
  stage = stageOf(readFileSync(new URL(`../../examples/levels/${file}`, import.meta.url), 'utf8'))
  await open.page.getByLabel('Level').selectOption(file)
  await open.page.getByRole('heading', { name: stage.expanded.level.title }).waitFor()
}

/** Walks to where an interactable answers a press, and presses. */
async function pressAt(x: number, y: number, name: string): Promise<void> {
  await click(x, y)
  await until('prompt', new RegExp(name))
  await open.page.keyboard.press('Space')
}

test('a popup is dismissed before anything else, a lamp of light shines, icons and tones come', async () => {
  const { page } = open
  await choose('gallery/perceiving.level.yaml')
  await pressAt(1, 1.1, 'storm-glass')
  await until('popup', /The storm is over/)
  await page.getByTestId('light').waitFor()
  await page.getByRole('button', { name: 'Understood' }).click()
  await page.getByTestId('popup').waitFor({ state: 'detached' })
  await pressAt(1, 5, 'Take it')
  await until('icons', /key 1/)
  const tones = async (): Promise<number> => Number(await page.locator('body').getAttribute('data-tones'))
  const before = await tones()
  await pressAt(6, 5.1, 'knocker')
  await page.locator(`body:not([data-tones='${String(before)}'])`).waitFor()
  await page.getByLabel('Mute').check()
  await page.keyboard.press('Space')
  await page.waitForTimeout(300)
  const muted = await tones()
  await page.keyboard.press('Space')
  await page.waitForTimeout(300)
  expect(await tones()).toBe(muted)
})

test('options are chosen, the wheels of a dial are set, doors move as they open', async () => {
  const { page } = open
  await choose('gallery/choosing.level.yaml')
  await click(8, 4.4)
  await page.getByTestId('options').getByRole('button').first().waitFor({ timeout: 20_000 })
  await page.getByTestId('options').getByRole('button').first().click()
  await until('log', /presses/)
  await click(8, 1)
  await page.getByTestId('dial').waitFor({ timeout: 20_000 })
  await page.getByLabel('wheel 1 up').click()
  await page.getByTestId('dial').locator('output').first().filter({ hasText: '1' }).waitFor()

  await choose('gallery/opening.level.yaml')
  const leaf = page.getByTestId('thing-toggle-door').locator('polygon')
  const shut = await leaf.getAttribute('points')
  await pressAt(2.2, 4.5, 'toggle-door')
  await until('state-toggle-door', /closing/)
  await page.locator(`[data-testid=thing-toggle-door] polygon:not([points='${shut ?? ''}'])`).waitFor()
})

test('one acts as another character, and goes on in another level of a project', async () => {
  const { page } = open
  await choose('gallery/company.level.yaml')
  await page.getByLabel('Character').selectOption({ label: 'boy (companion)' })
  await pressAt(1.2, 1.2, 'nets')
  await until('carried', /net/)
  stage = stageOf(readFileSync(new URL('../../examples/levels/gallery/island.level.yaml', import.meta.url), 'utf8'))
  await page.getByLabel('Level').selectOption('gallery/crossing.project.yaml')
  await pressAt(9.2, 3, 'ferry')
  await page.getByRole('heading', { name: 'The harbour: arriving' }).waitFor()
})

test('the page has nothing to complain about', () => {
  expect(open.complaints).toEqual([])
})

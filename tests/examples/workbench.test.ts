import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { readFileSync } from 'node:fs'
import { mkdtemp, readFile, writeFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath, pathToFileURL } from 'node:url'
import type { Download, Locator } from 'playwright-core'
import { readLevel } from '../../src/interactables/index.ts'
import { textOf } from '../levels.ts'
import { openPage, type OpenPage } from './browser.ts'

const built = fileURLToPath(new URL('../../examples/workbench/dist', import.meta.url))
const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')
const draft = 'tide-mill-draft.level.yaml'
const draftText = textOf(`examples/levels/${draft}`)
let open: OpenPage

/** What has to be written in the draft, since nobody but its designer can know it. */
const corrections: readonly (readonly [RegExp, string])[] = [
  [/ {6}- \{ name: stop, from: grinding.*\n/, ''],
  [/ {6}jammed: .*\n/, ''],
  [/lit: \{ lasting: true, look: dark \}/, 'lit: { lasting: true, look: burning }'],
  [/ {2}# Meant to hang on the wall of the quay\.\n {2}tide-chart:\n(?: {4}.*\n)+/, ''],
  [/ {2}tool-chest:\n(?: {4}.*\n)+/, ''],
  [/ {2}flour-sack:\n(?: {4}.*\n)+/, ''],
  [/ {2}(?:chart|flour|chisel): \{ title: .*\n/g, ''],
  [/, sends: bolt-drawn/, ''],
  [/message: "\(say here:[^"]*"/g, 'message: "It wants a {item}."'],
]

beforeAll(async () => {
  open = await openPage(built)
  open.page.setDefaultTimeout(12_000)
}, 120_000)

afterAll(async () => {
  await open.close()
})

const byId = (id: string): Locator => open.page.getByTestId(id)

/** Waits until the check of the text as it is has come to its end. */
async function checked(): Promise<void> {
  await byId('checked').or(byId('clean')).first().waitFor({ timeout: 90_000 })
}

async function tab(name: string): Promise<void> {
  await open.page.getByRole('tab', { name: new RegExp(`^${name}`) }).click()
}

/** Pixels of the page for a spot in metres. */
async function pixel(x: number, y: number): Promise<[number, number]> {
  const plan = byId('plan')
  const view = JSON.parse((await plan.getAttribute('data-view')) ?? '{}') as { x: number; y: number; scale: number }
  const box = (await plan.boundingBox())!
  return [box.x + view.x + x * view.scale, box.y + view.y - y * view.scale]
}

/** The text in the editor, all of it: what is scrolled away is not in the page, so the file is saved. */
async function saved(name: string): Promise<string> {
  await tab('Hand over')
  const row = open.page.locator('.files li', { hasText: name })
  const [download] = await Promise.all([
    open.page.waitForEvent('download'),
    row.getByRole('button', { name: 'Save' }).click(),
  ])
  return contentOf(download)
}

/** What tells elements apart, in order. */
async function idsOf(all: Locator): Promise<string[]> {
  const ids = (await all.all()).map((one) => one.getAttribute('data-testid'))
  return (await Promise.all(ids)).map((id) => id ?? '')
}

async function contentOf(download: Download): Promise<string> {
  return readFile(await download.path(), 'utf8')
}

/** What axe complains of; in another theme only colours can differ, and only they are looked at. */
async function complaintsOfAxe(onlyColours: boolean): Promise<string[]> {
  await open.page.evaluate(axe)
  const found = await open.page.evaluate(async (colours) => {
    const { axe: run } = globalThis as unknown as {
      axe: {
        run: (
          options: object,
        ) => Promise<{ violations: { id: string; nodes: { html: string; failureSummary: string }[] }[] }>
      }
    }
    return (await run.run(colours ? { runOnly: ['color-contrast', 'link-in-text-block'] } : {})).violations
  }, onlyColours)
  return found.flatMap(({ id, nodes }) =>
    nodes.map(({ html, failureSummary }) => `${id}: ${html.slice(0, 200)} ${failureSummary}`),
  )
}

describe('from an empty desk to a draft that is clean', () => {
  test('1: a sample is opened, is there after a reload, and its file is the same when it is saved', async () => {
    const { page } = open
    await page.getByRole('button', { name: /^The tide mill, a draft/ }).click()
    await byId('plan').waitFor({ timeout: 20_000 })
    await page.waitForTimeout(600)
    await page.reload()
    await byId('plan').waitFor({ timeout: 20_000 })
    expect(await saved(draft)).toBe(draftText)
    await tab('Findings')
    await checked()
    expect(await byId('count').innerText()).toMatch(/7 errors, 9 warnings/)
  }, 120_000)

  test('2: what is on the plan is clicked, and its text, its settings and its machine are shown', async () => {
    const { page } = open
    const at = readLevel(draftText).value!.interactables!['tool-chest']!.at!
    await page.mouse.click(...(await pixel(at[0], at[1])))
    await page.getByLabel('Name', { exact: true }).waitFor()
    expect(await page.getByLabel('Name', { exact: true }).inputValue()).toBe('tool-chest')
    await page.getByRole('group', { name: 'States and transitions of tool-chest' }).waitFor()
    await page.locator('.cm-shown', { hasText: 'tool-chest:' }).waitFor()
    await tab('All')
    expect(await page.locator('.all tr.chosen').innerText()).toContain('tool-chest')
  })

  test('3: a thing is dragged, moved by keys and set in the form: text and plan follow, and one history takes all back', async () => {
    const { page } = open
    const at = readLevel(draftText).value!.interactables!['tool-chest']!.at!
    const from = await pixel(at[0], at[1])
    const to = await pixel(at[0] + 1, at[1] - 0.5)
    await page.mouse.move(...from)
    await page.mouse.down()
    await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, { steps: 4 })
    await page.mouse.move(...to, { steps: 4 })
    await page.mouse.up()
    await page.locator('.cm-line', { hasText: `at: [${String(at[0] + 1)}, ${String(at[1] - 0.5)}` }).waitFor()
    const dragged = await saved(draft)
    const moved = readLevel(dragged).value!.interactables!['tool-chest']!.at!
    expect(moved[0]).toBeCloseTo(at[0] + 1, 6)
    expect(moved[1]).toBeCloseTo(at[1] - 0.5, 6)
    await byId('plan').focus()
    await page.keyboard.press('ArrowRight')
    await page.locator('.cm-line', { hasText: `at: [${String(at[0] + 1.05)}` }).waitFor()
    const grip = page.locator('.grip[data-says="range"]')
    await grip.hover()
    const range = (await grip.boundingBox())!
    await page.mouse.down()
    await page.mouse.move(range.x + range.width / 2 + 20, range.y + range.height / 2, { steps: 4 })
    await page.mouse.up()
    await page.locator('.cm-line', { hasText: /range: \{ radius: \d/ }).waitFor()
    await tab('Selection')
    await page.getByRole('combobox', { name: 'Initial state' }).click()
    await page.getByRole('option', { name: 'open', exact: true }).click()
    await page.locator('.cm-line', { hasText: 'initial: open' }).waitFor()
    for (let i = 0; i < 4; i++) await page.getByRole('button', { name: /^Undo/ }).click()
    expect(await saved(draft)).toBe(draftText)
  })

  test('3: states and transitions of a type of the level are edited in the drawing of its machine', async () => {
    const { page } = open
    await tab('All')
    await page.getByRole('button', { name: 'millstone', exact: true }).click()
    await tab('Selection')
    await page.locator('.panel [data-state=grinding]').click()
    await page.getByLabel('State', { exact: true }).fill('turning')
    await page.getByRole('button', { name: 'Rename it' }).click()
    await page.locator('.panel [data-state=turning]').waitFor()
    await page.getByRole('button', { name: '+ State' }).click()
    await page.locator('.panel [data-state=state-2]').waitFor()
    await page.getByRole('combobox', { name: 'To which state' }).click()
    await page.getByRole('option', { name: 'turning' }).click()
    await page.getByRole('button', { name: '+ Transition on a press' }).click()
    const row = page.getByRole('group', { name: 'press-2' })
    await row.getByRole('combobox', { name: 'Set off by' }).click()
    await page.getByRole('option', { name: 'time', exact: true }).click()
    await row.getByLabel('Set off by: after how many seconds').fill('5')
    await page.keyboard.press('Enter')
    await row.getByLabel('Only if (a condition)').fill('{ carries: sluice-key }')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: /^Undo: set .*guard$/ }).waitFor()
    const changed = await saved(draft)
    expect(changed).toContain('state-2: {}')
    expect(changed).toContain(
      '- { name: press-2, from: state-2, to: turning, trigger: { after: 5 }, guard: { carries: sluice-key } }',
    )
    expect(changed).not.toContain('grinding')
    for (let i = 0; i < 6; i++) await page.getByRole('button', { name: /^Undo/ }).click()
    expect(await saved(draft)).toBe(draftText)
  })

  test('3: what is typed is drawn, a text that cannot be read keeps the last drawing, and undo brings it back', async () => {
    const { page } = open
    const line = page.locator('.cm-line', { hasText: 'title: The tide mill (draft)' })
    await page.locator('.cm-content').click()
    await page.keyboard.press('Control+Home')
    await line.click()
    await page.keyboard.press('End')
    await page.keyboard.type(', again')
    await page.locator('.title-block', { hasText: 'The tide mill (draft), again' }).waitFor()
    await page.keyboard.press('Enter')
    await page.keyboard.type('nonsense: [')
    await page.getByText('The text has a mistake: this is the last that could be read.').waitFor()
    expect(await byId('plan').isVisible()).toBe(true)
    const typed = page.locator('.cm-line', { hasText: /again|nonsense/ })
    for (let i = 0; i < 9 && (await typed.count()) > 0; i++) await page.keyboard.press('Control+z')
    await page.locator('.title-block .title', { hasText: /draft\)$/ }).waitFor()
    expect(await saved(draft)).toBe(draftText)
  })

  test('4: it is tried by hand: refused, why not answered, back to a moment and on differently, kept as a walkthrough', async () => {
    const { page } = open
    await byId('try').click()
    await byId('person').waitFor()
    const door = readLevel(draftText).value!.doorways!['mill-entry']!.at
    await page.mouse.click(...(await pixel(door[0] - 0.7, door[1])))
    await byId('prompt').filter({ hasText: 'Open the mill door' }).waitFor({ timeout: 20_000 })
    await page.keyboard.press('Space')
    await byId('message').filter({ hasText: 'Locked' }).waitFor()
    await page.getByRole('img', { name: /^Over time: presses 1, changes of state 0, feedback [1-9]\d*$/ }).waitFor()
    await page.getByRole('button', { name: 'expect', exact: true }).first().click()
    const before = Number.parseFloat(await byId('clock').innerText())
    expect(before).toBeGreaterThan(1)
    await page.getByLabel('The moment, in seconds').fill('500')
    await byId('clock').filter({ hasText: '0.5 s' }).waitFor()
    await byId('pause').click()
    await byId('prompt').filter({ hasText: 'Open the mill door' }).waitFor({ timeout: 20_000 })
    await page.keyboard.down('ArrowLeft')
    await page.waitForTimeout(900)
    await page.keyboard.up('ArrowLeft')
    await page.keyboard.press('Space')
    await byId('unanswered').waitFor()
    await page.getByLabel('Keep this play as a walkthrough').fill('A locked door')
    await page.getByRole('button', { name: /^Keep/ }).click()
    await page.getByRole('button', { name: 'Run all' }).click()
    await page.getByText('A locked door').first().waitFor()
    await page.locator('.passed, .failed').first().waitFor()
  }, 60_000)

  test('5: a finding is chosen, its steps are played, and it is fixed and taken back with one click each', async () => {
    const { page } = open
    await tab('Findings')
    await checked()
    const card = page.locator('.card', { hasText: 'wasted-item' }).first()
    await card.locator('.card-head').click()
    await page.locator('.mark.chosen').first().waitFor()
    await card.getByRole('button', { name: '▶ Play the steps' }).click()
    await byId('script').filter({ hasText: 'All steps were played.' }).waitFor({ timeout: 40_000 })
    await page.getByRole('button', { name: 'Back to the drawing' }).click()
    await card.getByRole('button', { name: 'Try this change' }).first().click()
    await page.waitForTimeout(300)
    await page.locator('.card', { hasText: 'wasted-item' }).first().waitFor({ state: 'detached', timeout: 60_000 })
    await page.getByRole('button', { name: /^Undo: fix wasted-item/ }).click()
    expect(await saved(draft)).toBe(draftText)
  }, 120_000)

  test('5: every mistake that was planted is played, and fixed by a click or by typing, until nothing is left', async () => {
    const { page } = open
    await tab('Findings')
    await checked()
    const cards = page.locator('.card')
    const ids = await idsOf(cards)
    expect(ids.length).toBeGreaterThan(15)
    let played = 0
    // Every third: their steps are clicked through one by one.
    for (const id of ids.filter((_, i) => i % 3 === 0)) {
      const card = byId(id)
      if ((await card.locator('.details').count()) === 0) await card.locator('.card-head').click()
      const play = card.getByRole('button', { name: '▶ Play the steps' })
      if ((await play.count()) === 0) continue
      await play.click()
      await byId('script').waitFor()
      while ((await byId('script').innerText()) !== 'All steps were played.') {
        await page.getByRole('button', { name: 'Step', exact: true }).click()
      }
      await byId('try').click()
      played++
    }
    expect(played).toBeGreaterThan(2)
    for (const id of ids) {
      const card = byId(id)
      if ((await card.count()) === 0) continue
      if ((await card.locator('.details').count()) === 0) await card.locator('.card-head').click()
      const fix = card.getByRole('button', { name: /^(?:Fix it|Try this change)$/ }).first()
      if ((await fix.count()) > 0) await fix.click()
    }
    // What no click can fix is written, as the level should be.
    const written = corrections.reduce((text, [wrong, right]) => text.replace(wrong, right), await saved(draft))
    await page.locator('.cm-content').click()
    await page.keyboard.press('Control+a')
    await page.keyboard.insertText(written)
    await tab('Findings')
    await page.waitForTimeout(300)
    await checked()
    for (let round = 0; round < 4 && (await cards.count()) > 0; round++) {
      for (const id of await idsOf(cards)) {
        const card = byId(id)
        if ((await card.count()) === 0) continue
        if ((await card.locator('.details').count()) === 0) await card.locator('.card-head').click()
        const fix = card.getByRole('button', { name: 'Fix it' })
        if ((await fix.count()) > 0) {
          await fix.click()
          continue
        }
        await card.getByRole('button', { name: 'It is meant so…' }).click()
        await card.getByLabel('Why it is meant so').fill('As it is in the sketch.')
        await card.getByRole('button', { name: 'Accept it' }).click()
      }
      await page.waitForTimeout(300)
      await checked()
    }
    await byId('clean').waitFor()
    expect(await cards.count()).toBe(0)
  }, 300_000)

  test('6: what came and went since it was opened', async () => {
    await tab('Changes')
    await byId('differences').waitFor({ timeout: 90_000 })
    expect(await byId('differences').innerText()).toMatch(/^\d+ gone, 0 new, 0 as before\.$/)
    expect(await open.page.locator('.diff ins').count()).toBeGreaterThan(5)
  }, 120_000)

  test('7: the report opens from disk without a network, the pictures are pictures', async () => {
    const { page } = open
    await tab('Hand over')
    const taken = async (name: string): Promise<string> => {
      const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name }).click()])
      return download.path()
    }
    const folder = await mkdtemp(join(tmpdir(), 'zintel-report-'))
    const file = join(folder, 'report.html')
    await writeFile(file, await readFile(await taken('Report (HTML)')))
    const report = await page.context().newPage()
    await report.context().setOffline(true)
    await report.goto(pathToFileURL(file).href)
    await report.getByRole('heading', { name: 'The tide mill (draft)' }).waitFor()
    expect(await report.getByText('✓ Nothing was found.').count()).toBe(1)
    expect(await report.locator('img.plan').evaluate((image: { naturalWidth?: number }) => image.naturalWidth)).toBe(
      1280,
    )
    await report.close()
    await page.context().setOffline(false)
    expect((await readFile(await taken('Plan (SVG)'), 'utf8')).startsWith('<svg')).toBe(true)
    expect((await readFile(await taken('Plan (PNG)'))).subarray(1, 4).toString()).toBe('PNG')
    const sarif = JSON.parse(await readFile(await taken('Findings (SARIF)'), 'utf8')) as { version: string }
    expect(sarif.version).toBe('2.1.0')
  }, 60_000)
})

describe('the page', () => {
  test('has nothing that axe would complain of, light or dark, in any pane', async () => {
    const { page } = open
    const all: string[] = []
    for (const colorScheme of ['light', 'dark'] as const) {
      await page.emulateMedia({ colorScheme, reducedMotion: 'reduce' })
      for (const pane of ['Findings', 'Selection', 'All', 'Walkthroughs', 'Needs', 'Changes', 'Hand over']) {
        await tab(pane)
        await page.waitForTimeout(150)
        all.push(...(await complaintsOfAxe(colorScheme === 'dark')).map((one) => `${colorScheme}, ${pane}: ${one}`))
      }
      await byId('try').click()
      await byId('person').waitFor()
      all.push(...(await complaintsOfAxe(colorScheme === 'dark')).map((one) => `${colorScheme}, trying: ${one}`))
      await byId('try').click()
    }
    expect(all).toEqual([])
  }, 120_000)

  test('takes names and texts of a level as text, tells of files that cannot be used, and loses nothing', async () => {
    const { page } = open
    const folder = await mkdtemp(join(tmpdir(), 'zintel-files-'))
    const choose = async (name: string, content: string | Buffer): Promise<void> => {
      await writeFile(join(folder, name), content)
      await byId('files').click()
      await page.getByRole('menuitem', { name: /Open, or begin another/ }).click()
      await page.getByRole('dialog').getByTestId('choose-files').setInputFiles(join(folder, name))
    }
    await choose('photo.yaml', Buffer.from([0xff, 0xfe, 0x00, 0xd8]))
    await page.getByRole('alert').filter({ hasText: 'photo.yaml is not text in UTF-8.' }).waitFor()
    await page.keyboard.press('Escape')
    await choose('large.yaml', Buffer.alloc(10_500_000, 'a'))
    await page.getByRole('alert').filter({ hasText: 'large.yaml has 10.5 MB' }).waitFor()
    await page.keyboard.press('Escape')
    await choose('later.level.yaml', 'zintel: 9\ntitle: Of tomorrow\n')
    await page.getByText('There is nothing to draw yet').waitFor()
    const odd = textOf('examples/levels/tide-mill.level.yaml').replace(
      /^title: .*$/m,
      'title: "<img src=x onerror=document.title=1><b>Mill</b>"',
    )
    await choose('odd.level.yaml', odd)
    await page.locator('.title-block', { hasText: '<b>Mill</b>' }).waitFor()
    expect(await page.locator('.sheet img, .sheet b').count()).toBe(0)
    expect(await page.title()).toBe('Zintel workbench')
    // Files are dragged in, too.
    const dropped = await page.evaluateHandle(
      (text) => {
        const { DataTransfer: Transfer, File: Made } = globalThis as unknown as {
          DataTransfer: new () => { items: { add: (file: unknown) => void } }
          File: new (parts: string[], name: string) => unknown
        }
        const transfer = new Transfer()
        transfer.items.add(new Made([text], 'dropped.level.yaml'))
        return transfer
      },
      odd.replace(/^title: .*$/m, 'title: Dropped'),
    )
    await page.dispatchEvent('.bench', 'drop', { dataTransfer: dropped })
    await page.locator('.title-block', { hasText: 'Dropped' }).waitFor()
    await byId('files').click()
    await page
      .getByRole('menuitem', { name: /tide-mill-draft/ })
      .first()
      .waitFor()
    await page.keyboard.press('Escape')
  }, 60_000)

  test('begins with a type, and with a project', async () => {
    const { page } = open
    await byId('files').click()
    await page.getByRole('menuitem', { name: 'Clear the desk' }).click()
    await page.getByRole('button', { name: 'Begin with it' }).click()
    await page.locator('.title-block', { hasText: 'my door' }).waitFor()
    await byId('clean').waitFor({ timeout: 60_000 })
    await byId('files').click()
    await page.getByRole('menuitem', { name: /Open, or begin another/ }).click()
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /^Round the tide mill/ })
      .click()
    await page.locator('.title-block').waitFor()
    await byId('clean').waitFor({ timeout: 90_000 })
    for (const name of ['malt-house', 'mill-cellar']) {
      const other = byId(`other-round-the-mill/${name}.level.yaml`)
      await other.filter({ hasText: '✓ nothing found' }).waitFor({ timeout: 60_000 })
    }
  }, 180_000)

  test('an exit shows where it arrives in the other level, where the place is selected; storeys are seen one by one', async () => {
    const { page } = open
    const before = textOf('examples/levels/round-the-mill/malt-house.level.yaml')
    await page.locator('.title-block', { hasText: /ferry stage/i }).waitFor()
    await tab('All')
    await page.getByRole('button', { name: 'row-across', exact: true }).click()
    await tab('Selection')
    await page.getByText('Leads to wharf-steps in malt-house.').waitFor()
    await page.getByRole('button', { name: 'Show it there' }).click()
    await page.locator('.title-block', { hasText: /malt-house/i }).waitFor()
    await page.locator('.place.chosen').waitFor()
    expect(await page.getByLabel('Name', { exact: true }).inputValue()).toBe('wharf-steps')
    await page.locator('.cm-content').click()
    await page.keyboard.press('Control+a')
    await page.keyboard.insertText(
      before
        .replace('rooms:', 'storeys: { below: {}, above: { drawn-at: [0, 0.5] } }\nrooms:')
        .replace('  wharf: { ', '  wharf: { storey: below, ')
        .replace(/^ {2}kiln: \{ /m, '  kiln: { storey: above, '),
    )
    const storeys = page.getByRole('group', { name: 'Storeys' })
    await storeys.getByRole('button', { name: 'above' }).click()
    await page.locator('[data-path="rooms.wharf"]').waitFor({ state: 'detached' })
    expect(await page.locator('[data-path="rooms.kiln"]').count()).toBe(1)
    await storeys.getByRole('button', { name: 'All storeys' }).click()
    await page.locator('[data-path="rooms.wharf"]').first().waitFor()
  }, 60_000)

  test('has nothing to complain about', () => {
    expect(open.complaints).toEqual([])
  })
})

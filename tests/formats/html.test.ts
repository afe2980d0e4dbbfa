import { expect, test } from '@jest/globals'
import { htmlText, numberedMarks } from '../../src/formats/index.ts'
import { readLevel } from '../../src/interactables/index.ts'
import type { FileReport } from '../../src/findings/index.ts'
import { checkNow } from '../../src/library/index.ts'
import { checked, textOf, twoRooms } from '../levels.ts'

const file = 'tide-mill-draft.level.yaml'
const reading = readLevel(textOf(`examples/levels/${file}`), file)
const draft: FileReport = checkNow(reading, { quick: true })

test('a page has every finding with its number, its steps and its fix, and needs nothing else', () => {
  const page = htmlText([draft], { plans: new Map([[draft.file, '<svg xmlns="http://www.w3.org/2000/svg"/>']]) })
  for (const [i, { headline, message, steps, fix }] of draft.findings.entries()) {
    const escapedText = (headline ?? message).replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;')
    expect(page).toContain(`<span class="number">${String(i + 1)}</span>`)
    expect(page).toContain(escapedText)
    for (const { text } of steps) expect(page).toContain(`<li>${text.replaceAll('"', '&quot;')}</li>`)
    for (const line of fix.lines?.becomes ?? [])
      expect(page).toContain(line.trim().slice(0, 12).replaceAll('"', '&quot;'))
  }
  expect(page).not.toMatch(/<script|https?:\/\/(?!www\.w3\.org\/2000\/svg)/)
  expect(page).toContain('src="data:image/svg+xml;utf8,%3Csvg')
})

test('names and texts of a level are never markup', () => {
  const text = twoRooms('').replace(/^title: .*$/m, 'title: "<img src=x onerror=1>"')
  const report = checked(`${text}goals: { done: { title: "</style><b>", inside: east } }\n`, '<b>.level.yaml')
  const page = htmlText([report])
  expect(page).not.toContain('<img src=x')
  expect(page).not.toContain('<b>')
  expect(page).toContain('&lt;img src=x onerror=1&gt;')
})

test('a file that cannot be used says why, several levels have a list, none says so', () => {
  const { diagnostics } = readLevel('zintel: 1\ntitle: Half\n', 'half.level.yaml')
  const broken: FileReport = {
    ...draft,
    file: 'half.level.yaml',
    title: null,
    outcome: 'unusable',
    findings: [],
    diagnostics: [...diagnostics],
  }
  expect(htmlText([broken])).toMatch(/Line \d+: .*rooms/)
  const both = htmlText([broken, draft])
  expect(both).toContain('<a href="#level-1">The tide mill (draft)</a>')
  expect(both).toContain('could not be read')
  expect(htmlText([])).toContain('Nothing was checked.')
})

test('marks of a plan have all numbers of what is at one spot', () => {
  const marks = numberedMarks(draft.findings)
  expect(marks.flatMap(({ text }) => text.split(', ')).length).toBeGreaterThan(10)
  expect(new Set(marks.map(({ at }) => JSON.stringify(at))).size).toBe(marks.length)
  const beacon = draft.findings.flatMap(({ about }, i) => (about === 'beacon' ? [String(i + 1)] : []))
  expect(marks.find(({ at }) => at === 'beacon')?.text).toBe(beacon.join(', '))
})

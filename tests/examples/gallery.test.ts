import { describe, expect, test } from '@jest/globals'
import { readdirSync } from 'node:fs'
import { checkNow } from '../../src/findings/index.ts'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import { makeStage, readWalkthrough, runWalkthrough } from '../../src/play/index.ts'
import { project, textOf } from '../levels.ts'

const folder = 'examples/levels/gallery/'
const names = readdirSync(project + folder)
  .filter((file) => file.endsWith('.level.yaml'))
  .map((file) => file.replace('.level.yaml', ''))

const rows = [...textOf('docs/types.md').matchAll(/^\| (.+?) \| `([a-z0-9-]+)` \| \[.*?\]\(\.\.\/(.*?)\) \|$/gm)]
const features = rows.map(([, what, id, file]) => ({ what: what!, id: id!, file: file! }))

/** What fails when both walkthroughs of a level are played; a step that names what is not there fails too. */
function failures(name: string, text: string): string[] {
  const reading = readLevel(text, name)
  if (!reading.value) throw new Error(JSON.stringify(reading.diagnostics.map(({ message }) => message)))
  const stage = makeStage(expandLevel(reading.value, reading.source))
  return ['wrong-way', 'right-way'].flatMap((way) => {
    const file = `${folder}${name}.${way}.walkthrough.yaml`
    const walkthrough = readWalkthrough(textOf(file), file, stage.expanded)
    if (!walkthrough.value) return walkthrough.diagnostics.map(({ message }) => message)
    const { steps } = runWalkthrough(stage, walkthrough.value, walkthrough.source)
    return steps.flatMap(({ failure, place }) => (failure === null ? [] : [`${way}:${String(place.line)} ${failure}`]))
  })
}

describe('each level of the gallery', () => {
  for (const name of names) {
    test(`${name}: both walkthroughs go as written`, () => {
      expect(failures(name, textOf(`${folder}${name}.level.yaml`))).toEqual([])
    })

    test(`${name}: nothing is found, and nothing is open`, () => {
      const { value, source } = readLevel(textOf(`${folder}${name}.level.yaml`), name)
      const { findings, questions } = checkNow(value!, source)
      expect(findings.map(({ rule, message }) => `${rule}: ${message}`)).toEqual([])
      expect(questions.filter(({ answer }) => answer === 'open')).toEqual([])
    })
  }
})

describe('each row of the feature matrix', () => {
  test('is read, and every marked line of the gallery has a row', () => {
    expect(features.length).toBeGreaterThan(40)
    const marked = names.flatMap((name) =>
      [...textOf(`${folder}${name}.level.yaml`).matchAll(/# (\[.*\])$/gm)].flatMap(([, marks]) =>
        marks!.split(' ').map((mark) => `${name} ${mark.slice(1, -1)}`),
      ),
    )
    const inMatrix = features.map(({ id, file }) => `${file.replace(folder, '').replace('.level.yaml', '')} ${id}`)
    expect([...new Set(marked)].sort()).toEqual([...inMatrix].sort())
  })

  for (const { what, id, file } of features) {
    test(`${what}: a walkthrough fails without its lines`, () => {
      const lines = textOf(file).split('\n')
      const without = lines.filter((line) => !new RegExp(`# .*\\[${id}\\]`).test(line))
      expect(without.length).toBeLessThan(lines.length)
      const name = file.replace(folder, '').replace('.level.yaml', '')
      expect(failures(name, without.join('\n'))).not.toEqual([])
    })
  }
})

import { expect, test } from '@jest/globals'
import { readdirSync } from 'node:fs'
import { checkNow } from '../../src/findings/index.ts'
import { expandLevel, readLevel } from '../../src/interactables/index.ts'
import { makeStage, projectProblems, readProject } from '../../src/play/index.ts'
import { inShort, project, replayedSteps, textOf } from '../levels.ts'

const folder = 'examples/levels/round-the-mill/'

function read(file: string) {
  const reading = readLevel(textOf(folder + file), file)
  if (!reading.value) throw new Error(JSON.stringify(reading.diagnostics))
  return { level: reading.value, source: reading.source }
}

test('its three levels have sixty interactables, and lead to one another', () => {
  const reading = readProject(textOf(`${folder}round-the-mill.project.yaml`), 'round-the-mill.project.yaml')
  const levels = Object.fromEntries(
    Object.entries(reading.value!.levels).map(([name, { file }]) => {
      const { level, source } = read(file)
      return [name, expandLevel(level, source)]
    }),
  )
  expect(Object.keys(levels)).toHaveLength(3)
  expect(readdirSync(project + folder).filter((file) => file.endsWith('.level.yaml'))).toHaveLength(4)
  expect(projectProblems(reading, levels)).toEqual([])
  const count = Object.values(levels).reduce((sum, { interactables }) => sum + interactables.length, 0)
  expect(count).toBeGreaterThanOrEqual(60)
})

test('in the draft the turf is wasted where the fire is lit too early; until then the goal can be met', () => {
  const { level, source } = read('malt-house-draft.level.yaml')
  const report = checkNow(level, source, { quick: true })
  expect(report.counts.undecided).toBe(0)
  expect(inShort(report)).toEqual(['wasted-item malt-dry (stuck-state malt-bed/spread)'])
  const [{ steps, lastSafe }] = report.findings as [(typeof report.findings)[number]]
  expect(steps.at(-1)!.text).toBe('Press: kiln-fire uses up the turf.')
  expect(lastSafe!.after).toBe(steps.length - 1)
  const stage = makeStage(expandLevel(level, source))
  const again = (all: typeof steps): string[] => replayedSteps(stage, all).goalsMet()
  expect(again([...steps.slice(0, -1), ...lastSafe!.steps])).toContain('malt-dry')
  expect(again(steps)).toEqual([])
}, 120_000)

import { describe, expect, test } from '@jest/globals'
import { readdirSync } from 'node:fs'
import { checked, project, textOf } from '../levels.ts'

const folder = 'examples/levels/idioms/'

describe('levels of everyday idioms are clean: nothing above advice, nothing undecided', () => {
  const files = readdirSync(project + folder)
  test('there are some', () => {
    expect(files.length).toBeGreaterThanOrEqual(50)
  })

  for (const file of files) {
    test(file.replace('.level.yaml', ''), () => {
      const { findings, counts, questions } = checked(textOf(folder + file), file)
      expect(findings.filter(({ severity }) => severity !== 'advice').map(({ message }) => message)).toEqual([])
      expect(counts.undecided).toBe(0)
      const goals = questions.filter(({ rule }) => rule === 'soft-lock' || rule === 'unreachable-goal')
      expect(goals.length).toBeGreaterThan(0)
      expect(goals.every(({ answer }) => answer === 'ruled-out')).toBe(true)
    })
  }
})

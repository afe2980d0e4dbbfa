import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { checkNow, type FileReport } from '../src/findings/index.ts'
import { expandLevel, readLevel } from '../src/interactables/index.ts'
import { replay } from '../src/explore/index.ts'
import { makeStage, type Play, type Stage } from '../src/play/index.ts'

/** The folder of the project, with a slash at its end. */
export const project = fileURLToPath(new URL('..', import.meta.url))

/** The text of a file of the project. */
export function textOf(file: string): string {
  return readFileSync(project + file, 'utf8')
}

/** Two rooms, `west` and `east`, with a doorway `gap` between them, a player `sam` in the west, and what is added. */
export function twoRooms(more: string): string {
  return `zintel: 1
title: Two rooms
rooms:
  west: { outline: [[0, 0], [5, 0], [5, 4], [0, 4]] }
  east: { outline: [[5.3, 0], [10, 0], [10, 4], [5.3, 4]] }
doorways:
  gap: { joins: [west, east], at: [5.15, 2], width: 1.4, depth: 0.3 }
characters:
  sam: { role: player, start: [1.5, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }
${more}`
}

/** Two rooms, a long `west` and an `east`, with a doorway `gap` between them, a player `sam` in the west. */
export function longRooms(more: string): string {
  return `zintel: 1
title: A long room
rooms:
  west: { outline: [[0, 0], [14, 0], [14, 4], [0, 4]] }
  east: { outline: [[14.3, 0], [19, 0], [19, 4], [14.3, 4]] }
doorways:
  gap: { joins: [west, east], at: [14.15, 2], width: 1.4, depth: 0.3 }
characters:
  sam: { role: player, start: [1.5, 2], radius: 0.3, speed: 3, hand: 1.2, reach: 0.9 }
${more}`
}

/** A level on stage; throws with its diagnostics where it cannot be read. */
export function staged(text: string): Stage {
  const reading = readLevel(text)
  if (!reading.value) throw new Error(JSON.stringify(reading.diagnostics, null, 1))
  return makeStage(expandLevel(reading.value, reading.source))
}

/** A checked level; throws with its diagnostics where it cannot be read. */
export function checked(text: string, file = 'test.level.yaml', budget?: number, grouping?: boolean): FileReport {
  const reading = readLevel(text, file)
  if (!reading.value) throw new Error(JSON.stringify(reading.diagnostics, null, 1))
  return checkNow(reading.value, reading.source, { budget, grouping })
}

/** The answer to one question of a report. */
export function answerTo(report: FileReport, rule: string, subject: string): string {
  const question = report.questions.find((one) => one.rule === rule && one.subject === subject)
  return question ? question.answer + (question.why === null ? '' : `: ${question.why}`) : 'not asked'
}

/** The findings of a report in short: rule, subject, and what follows. */
export function inShort(report: FileReport): string[] {
  return report.findings.map(({ rule, subject, follows }) => {
    const also = follows.map((one) => `${one.rule} ${one.subject}`)
    return `${rule} ${subject}${also.length > 0 ? ` (${also.join(', ')})` : ''}`
  })
}

/** A play of the steps of a finding. */
export function replayed(text: string, finding: FileReport['findings'][number]): Play {
  return replayedSteps(staged(text), finding.steps)
}

/** A play of steps as a report has them. */
export function replayedSteps(stage: Stage, steps: FileReport['findings'][number]['steps']): Play {
  const { characters } = stage.expanded
  return replay(
    stage,
    steps.map((step) => ({ ...step, who: characters.findIndex(({ name }) => name === step.who) })),
  )
}

import { expect, test } from '@jest/globals'
import * as fc from 'fast-check'
import { checkNow } from '../../src/findings/index.ts'
import { loadLevel } from '../../src/interactables/index.ts'
import { minutely } from '../soak/telling.ts'
import { pairs } from './levels.ts'
import { judge, type Known } from './plain.ts'

/** Reasons for an open answer that come from rounding: of times to ticks, of ground to samples, of what Play can for certain. */
const rounding = /timing|sampling|resolution|not certain that/
/** And from something that runs for ever, which has to be looked at in slices. */
const running = 'runs for ever'

const runs = Number(process.env.ZINTEL_ORACLE_RUNS ?? 16)

test(`answers agree with a plain explorer on ${String(runs)} random levels`, () => {
  const seen = {
    levels: 0,
    company: 0,
    softLocks: 0,
    stuck: 0,
    losses: 0,
    timers: 0,
    cascades: 0,
    pushes: 0,
    known: 0,
    rounded: 0,
    cycles: 0,
    runsForEver: 0,
    atOnce: 0,
    storms: 0,
    jointStorms: 0,
  }
  const tell = minutely('oracle')
  fc.assert(
    fc.property(pairs, ({ level, spelt }) => {
      const reading = loadLevel(level)
      if (!reading.value) throw new Error(JSON.stringify(reading.diagnostics))
      const verdict = judge(spelt)
      if (!verdict) return
      const { questions } = checkNow(reading.value, reading.source, { grouping: false })
      const answers = new Map(questions.map((one) => [`${one.rule} ${one.subject}`, one]))
      tell(seen)
      seen.levels++
      if (Object.keys(spelt.characters).length > 1) seen.company++
      if (verdict.sawTimer) seen.timers++
      if (verdict.sawCascade) seen.cascades++
      if (verdict.sawPush) seen.pushes++
      if (Object.values(verdict.softLocks).includes('found')) seen.softLocks++
      const compare = (rule: string, known: Readonly<Record<string, Known>>): void => {
        for (const [subject, wanted] of Object.entries(known)) {
          const own = answers.get(`${rule} ${subject}`)
          const also = rule === 'soft-lock' ? answers.get(`wasted-item ${subject}`) : undefined
          const answer = also?.answer === 'found' ? 'found' : own?.answer
          if (wanted === null) continue
          // What an instance of a built-in type never needs is not asked about.
          const type = level.interactables?.[subject.split('/')[0]!]?.type ?? ''
          if (rule === 'dead-transition' && !own && wanted === 'found' && level.types?.[type] === undefined) continue
          seen.known++
          if (answer === wanted) continue
          if (answer === 'undecided' && rounding.test(own?.why ?? '')) seen.rounded++
          else if (answer === 'undecided' && verdict.sawCycle && own?.why?.includes(running)) seen.cycles++
          else
            throw new Error(
              `${rule} ${subject}: ${String(answer)} (${own?.why ?? ''}), but the oracle knows it is ${wanted}`,
            )
        }
      }
      compare('unreachable-state', verdict.states)
      compare('dead-transition', verdict.transitions)
      compare('unreachable-goal', verdict.goals)
      compare('soft-lock', verdict.softLocks)
      // Nothing in these levels says anything, so that every refusal is silent.
      compare('silent-refusal', verdict.refusals)
      compare('lost-item', verdict.losses)
      compare('stuck-state', verdict.stuck)
      compare('goal-already-met', verdict.atOnce)
      for (const [goal, known] of Object.entries(verdict.atOnce)) {
        if (known !== 'found') continue
        seen.atOnce++
        expect(answers.get(`soft-lock ${goal}`)?.answer).not.toBe('ruled-out')
      }
      if (answers.has('signal-storm level')) compare('signal-storm', { level: verdict.storms })
      if (verdict.storms === 'found') seen.storms++
      if (verdict.storms === 'found' && verdict.sawJointStorm) seen.jointStorms++
      if (verdict.sawCycle) seen.runsForEver++
      if (Object.values(verdict.stuck).includes('found')) seen.stuck++
      if (Object.values(verdict.losses).includes('found')) seen.losses++
    }),
    { numRuns: runs, seed: Number(process.env.ZINTEL_ORACLE_SEED ?? 20_261_123), endOnFailure: false },
  )
  console.info(JSON.stringify(seen))
  // With few levels the rarest kinds may not come up; with many, each often enough.
  const rare = ['pushes', 'cycles', 'storms', 'jointStorms', 'runsForEver', 'atOnce', 'stuck', 'losses', 'company']
  for (const [kind, count] of Object.entries(seen)) {
    const least = runs >= 1000 ? 30 : rare.includes(kind) ? 0 : 1
    // Fewer of what is left undecided are only better.
    if (kind !== 'rounded' && kind !== 'cycles') expect([kind, count >= least]).toEqual([kind, true])
  }
  for (const count of [seen.softLocks, seen.timers, seen.cascades]) expect(count).toBeGreaterThan(seen.levels / 12)
  expect(seen.rounded).toBeLessThan(seen.known / 100)
}, 36_000_000)

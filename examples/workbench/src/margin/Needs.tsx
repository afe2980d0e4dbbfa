import { Button, Select } from '@mantine/core'
import { useState } from 'react'
import type { Files } from '../desk/history.ts'
import type { LevelLook } from '../background/look.ts'
import { needsOf } from '../background/workers.ts'

type Answer = Awaited<ReturnType<typeof needsOf>>

/** What depends on what on the way to a goal, as a chart; and the way with the fewest steps. */
export function Needs({
  level,
  files,
  file,
}: {
  readonly level: LevelLook
  readonly files: Files
  readonly file: string
}) {
  const { goals } = level.contents
  const [goal, setGoal] = useState(goals[0]?.name ?? null)
  const [answer, setAnswer] = useState<{ readonly for: string; readonly text: string; readonly is: Answer } | null>(
    null,
  )
  const [running, setRunning] = useState(false)
  const [trouble, setTrouble] = useState<string | null>(null)
  if (goals.length === 0) return <p className="hint">This level has no goal yet: there is nothing to depend on.</p>
  const find = (): void => {
    if (goal === null) return
    setRunning(true)
    setTrouble(null)
    needsOf(files, file, goal)
      .then(
        (is) => {
          setAnswer({ for: goal, text: files[file] ?? '', is })
        },
        (error: unknown) => {
          setTrouble(error instanceof Error ? error.message : String(error))
        },
      )
      .finally(() => {
        setRunning(false)
      })
  }
  const fits = answer?.for === goal && answer.text === files[file]
  return (
    <section aria-label="What depends on what" className="needs">
      <header className="pane-head">
        <h2>What a goal needs</h2>
      </header>
      <div className="row">
        <Select
          size="xs"
          aria-label="Goal"
          data={goals.map(({ name, title }) => ({ value: name, label: title ?? name }))}
          value={goal}
          allowDeselect={false}
          onChange={setGoal}
        />
        <Button size="xs" onClick={find} loading={running} disabled={goal === null}>
          Find the way
        </Button>
      </div>
      {trouble !== null && (
        <p className="trouble" role="alert">
          {trouble}
        </p>
      )}
      {!answer && !running && (
        <p className="hint">Zintel finds the shortest way to the goal, and what each step of it cannot do without.</p>
      )}
      {answer && !fits && <p className="hint">This is for another goal, or an earlier text.</p>}
      {answer?.is?.svg && (
        <img
          className="machine"
          alt={`What the way to ${answer.for} needs`}
          src={`data:image/svg+xml;utf8,${encodeURIComponent(answer.is.svg)}`}
        />
      )}
      {answer?.is?.plan.why != null && <p className="hint">{answer.is.plan.why}</p>}
      {answer?.is?.plan.fewest && (
        <p>
          The way has {answer.is.plan.fewest.walkthrough.steps.length - 1} steps and takes{' '}
          {(answer.is.plan.fewest.ms / 1000).toFixed(1)} s.
        </p>
      )}
    </section>
  )
}

import { Button, Select } from '@mantine/core'
import { lazy, Suspense } from 'react'
import type { Trying } from './use-trial.ts'

const Chart = lazy(() => import('./Chart.tsx'))

/** Time as a tape: play, pause, step, slow and fast, and back to any moment. */
export function Tape({ trying, onLeave }: { readonly trying: Trying; readonly onLeave: () => void }) {
  const { trial, script, isPaused, speed } = trying
  const length = Math.max(10_000, Math.ceil((trial.end + 1000) / 5000) * 5000)
  return (
    <div
      className="tape"
      role="group"
      aria-label="Time"
      onClick={(event) => {
        // Who clicks with a pointer goes on playing with the keys: the space bar must not press the button once more.
        if (event.detail > 0 && event.target instanceof Element && event.target.closest('button')) focusPlan()
      }}
    >
      <div className="row">
        <Button
          size="compact-sm"
          onClick={() => {
            trying.setPaused(!isPaused)
          }}
          data-testid="pause"
        >
          {isPaused ? '▶ Go on' : '❚❚ Pause'}
        </Button>
        <Button
          size="compact-sm"
          variant="default"
          onClick={() => {
            trying.step()
          }}
        >
          Step
        </Button>
        <Select
          size="xs"
          w={76}
          aria-label="Speed"
          data={['0.25', '0.5', '1', '2', '5'].map((value) => ({ value, label: `× ${value}` }))}
          value={String(speed)}
          allowDeselect={false}
          onChange={(value) => {
            trying.setSpeed(Number(value))
          }}
        />
        <Button
          size="compact-sm"
          variant="default"
          onClick={() => {
            trying.restart()
          }}
        >
          Restart
        </Button>
        <output className="clock" data-testid="clock">
          {(trial.now / 1000).toFixed(1)} s
        </output>
        {script && (
          <span className="hint" data-testid="script" aria-live="polite">
            {script.isOver
              ? 'All steps were played.'
              : `Step ${String(Math.max(1, script.at))} of ${String(script.steps.length)}: ${script.steps[Math.max(0, script.at - 1)]?.text ?? ''}`}
          </span>
        )}
        <span className="grow" />
        <Button size="compact-sm" variant="default" onClick={onLeave}>
          Back to the drawing
        </Button>
      </div>
      <div className="reel">
        <Suspense fallback={<div className="marks" />}>
          <Chart log={trial.play.log} count={trial.play.log.length} length={length} />
        </Suspense>
        <input
          type="range"
          aria-label="The moment, in seconds"
          min={0}
          max={length}
          step={50}
          value={trial.now}
          onChange={(event) => {
            trying.goTo(Number(event.currentTarget.value))
          }}
        />
      </div>
    </div>
  )
}

/** Gives the keys to the plan. */
export function focusPlan(): void {
  document.querySelector<SVGElement>('.sheet > svg')?.focus({ preventScroll: true })
}

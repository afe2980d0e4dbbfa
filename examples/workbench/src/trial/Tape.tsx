import { Button, Select } from '@mantine/core'
import { useEffect, useMemo, useRef } from 'react'
import type { LogEntry } from 'zintel'
import type { Trying } from './use-trial.ts'

/** Kinds of what happened that are put on the tape, a row for each. */
const rows = [
  { name: 'done', is: (entry: LogEntry) => entry.what === 'press' || entry.what === 'dials' },
  { name: 'state', is: (entry: LogEntry) => entry.what === 'transition' && entry.from !== entry.to },
  { name: 'told', is: (entry: LogEntry) => entry.what === 'feedback' },
] as const

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
        <Chart trying={trying} length={length} />
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

/** What happened over time: presses, changes of state, and what was told. Drawn afresh only where something was added. */
function Chart({ trying, length }: { readonly trying: Trying; readonly length: number }) {
  const { log } = trying.trial.play
  const holder = useRef<HTMLCanvasElement>(null)
  const marks = useMemo(() => rows.map(({ is }) => log.filter(is).map(({ at }) => at)), [log, log.length])
  useEffect(() => {
    const canvas = holder.current
    const context = canvas?.getContext('2d')
    if (!canvas || !context) return
    const ratio = window.devicePixelRatio
    const [width, height] = [canvas.clientWidth, canvas.clientHeight]
    canvas.width = width * ratio
    canvas.height = height * ratio
    context.scale(ratio, ratio)
    const styles = getComputedStyle(canvas)
    const colours = ['--sea', '--rust', '--ochre'].map((name) => styles.getPropertyValue(name))
    for (const [row, times] of marks.entries()) {
      context.fillStyle = colours[row]!
      for (const at of times) context.fillRect((at / length) * (width - 16) + 8, row * 9 + 2, 2.5, 7)
    }
  }, [marks, length])
  return (
    <canvas ref={holder} className="marks" role="img" aria-label="Presses, changes of state and feedback over time" />
  )
}

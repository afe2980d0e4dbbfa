import { Button } from '@mantine/core'
import { useState } from 'react'
import type { Files } from '../desk/history.ts'
import { kindOf } from '../desk/files.ts'
import { reader } from '../background/workers.ts'

type Run = Awaited<ReturnType<typeof reader.runWalkthroughs>>[number]

interface WalkthroughsProps {
  readonly files: Files
  readonly file: string
  readonly onOpen: (file: string) => void
  readonly onWatch: (file: string) => void
}

/** The walkthroughs on the desk: run, and where each fails. */
export function Walkthroughs({ files, file, onOpen, onWatch }: WalkthroughsProps) {
  const names = Object.keys(files).filter((name) => kindOf(name, files[name] ?? '') === 'walkthrough')
  const [runs, setRuns] = useState<{ readonly of: Files; readonly all: readonly Run[] } | null>(null)
  const [isRunning, setRunning] = useState(false)
  const run = (): void => {
    setRunning(true)
    void reader
      .runWalkthroughs(files, file)
      .then((all) => {
        setRuns({ of: files, all })
      })
      .finally(() => {
        setRunning(false)
      })
  }
  return (
    <section aria-label="Walkthroughs" className="walkthroughs">
      <header className="pane-head">
        <h2>Walkthroughs</h2>
        <Button size="compact-sm" onClick={run} loading={isRunning} disabled={names.length === 0}>
          Run all
        </Button>
      </header>
      {names.length === 0 && (
        <p className="hint">
          There are none on the desk. Try the level, and keep what you did as one: then it can be run after every
          change.
        </p>
      )}
      {runs && runs.of !== files && <p className="hint">The files have changed since these were run.</p>}
      <ul>
        {names.map((name) => {
          const one = runs?.all.find((result) => result.file === name)
          return (
            <li key={name} data-testid={`walkthrough-${name}`}>
              <div className="row">
                <button
                  type="button"
                  className="link"
                  onClick={() => {
                    onOpen(name)
                  }}
                >
                  {name}
                </button>
                <span className="grow" />
                <Button
                  size="compact-xs"
                  variant="default"
                  onClick={() => {
                    onWatch(name)
                  }}
                >
                  ▶ Watch
                </Button>
              </div>
              {one && (
                <p className={one.passed ? 'passed' : 'failed'}>
                  {one.passed ? '✓ passed' : '✗ failed'} {one.title}
                  {one.failures.map((text) => (
                    <span key={text} className="failure">
                      {text}
                    </span>
                  ))}
                </p>
              )}
            </li>
          )
        })}
      </ul>
    </section>
  )
}

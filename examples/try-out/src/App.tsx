import { useEffect, useMemo, useRef, useState } from 'react'
import { Game, openLevel } from './game.ts'
import { levels } from './levels.ts'
import { Plan } from './Plan.tsx'
import { Side, Unanswered } from './Side.tsx'

/** The try-out page: one level, played by hand. */
export function App() {
  const [file, setFile] = useState(Object.keys(levels)[0] ?? '')
  const [round, setRound] = useState(0)
  const opened = useMemo(() => openLevel(file, levels[file] ?? ''), [file])
  // A new round is a new game on the same stage.
  const game = useMemo(() => (opened.stage ? new Game(opened.stage) : null), [opened, round])
  const [, setFrame] = useState(0)
  const [hint, setHint] = useState('')
  useFrames(game, () => {
    setFrame((frame) => frame + 1)
  })
  useKeys(game)
  if (!game) return <p className="errors">{opened.errors?.join(' ')}</p>
  const { play } = game
  const view = play.view(0)
  const message = play.log.findLast((entry) => entry.what === 'feedback' && entry.channel === 'message')
  const isFresh = message && play.now - message.at < 5000
  return (
    <main>
      <header>
        <h1>{opened.stage?.expanded.level.title}</h1>
        <label>
          Level{' '}
          <select
            value={file}
            onChange={(event) => {
              setFile(event.target.value)
              event.target.blur()
            }}
          >
            {Object.keys(levels).map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        <button
          onClick={(event) => {
            setRound(round + 1)
            event.currentTarget.blur()
          }}
        >
          Start again
        </button>
        <p>
          Walk with <kbd>←</kbd> <kbd>↑</kbd> <kbd>↓</kbd> <kbd>→</kbd> or by clicking; press with <kbd>space</kbd>.
        </p>
      </header>
      <div className="stage">
        <Plan
          play={play}
          onWalk={(spot) => {
            setHint(game.walkTo(spot) ? '' : 'There is no way to that spot now.')
          }}
        />
        <div className="bar">
          <div className="prompt" data-testid="prompt">
            {view.prompts.map((prompt) => (
              <span key={prompt}>
                <kbd>space</kbd> {prompt}
              </span>
            ))}
            {view.prompts.length === 0 && view.candidates.length > 0 && (
              <span>
                <kbd>space</kbd> {view.candidates[0]}
              </span>
            )}
          </div>
          <div className="message" data-testid="message" role="status">
            {isFresh && message.what === 'feedback' ? message.text : hint}
          </div>
          <Unanswered log={play.log.slice(-3)} />
        </div>
      </div>
      <Side play={play} changed={changes(play.log)} />
    </main>
  )
}

/** When each interactable last changed its state, in ms. */
function changes(log: Game['play']['log']): Map<string, number> {
  const last = new Map<string, number>()
  for (const entry of log) if (entry.what === 'transition') last.set(entry.interactable, entry.at)
  return last
}

/** Feeds a game with real time, frame by frame. */
function useFrames(game: Game | null, onFrame: () => void): void {
  const draw = useRef(onFrame)
  draw.current = onFrame
  useEffect(() => {
    if (!game) return
    let last = performance.now()
    let request = 0
    const frame = (now: number): void => {
      game.pass(Math.max(0, now - last))
      last = now
      draw.current()
      request = requestAnimationFrame(frame)
    }
    request = requestAnimationFrame(frame)
    return () => {
      cancelAnimationFrame(request)
    }
  }, [game])
}

/** Feeds a game with keys. */
function useKeys(game: Game | null): void {
  useEffect(() => {
    if (!game) return
    const down = (event: KeyboardEvent): void => {
      if (event.target instanceof HTMLSelectElement || event.ctrlKey || event.metaKey || event.altKey) return
      if (event.key === ' ' || event.key === 'e') {
        if (!event.repeat) game.press()
        event.preventDefault()
      } else if (game.key(event.key, true)) event.preventDefault()
    }
    const up = (event: KeyboardEvent): void => {
      game.key(event.key, false)
    }
    const release = (): void => {
      game.release()
    }
    window.addEventListener('keydown', down)
    window.addEventListener('keyup', up)
    window.addEventListener('blur', release)
    return () => {
      window.removeEventListener('keydown', down)
      window.removeEventListener('keyup', up)
      window.removeEventListener('blur', release)
    }
  }, [game])
}

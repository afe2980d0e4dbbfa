import { useEffect, useMemo, useRef, useState } from 'react'
import { Game, openLevel } from './game.ts'
import { levels } from './levels.ts'
import { Plan } from './Plan.tsx'
import { Doing, Overlay } from './Screen.tsx'
import { Side, Unanswered } from './Side.tsx'
import { Tones } from './sound.ts'

/** The try-out page: one level, or a project, played by hand. */
export function App() {
  const [file, setFile] = useState(chosenAtFirst)
  const [round, setRound] = useState(0)
  const opened = useMemo(() => openLevel(file, levels), [file])
  // A new round is a new play of the same level.
  const game = useMemo(() => (opened.begin ? new Game(opened.begin()) : null), [opened, round])
  const tones = useMemo(() => new Tones(), [])
  const [, setFrame] = useState(0)
  const [hint, setHint] = useState('')
  useFrames(game, () => {
    setFrame((frame) => frame + 1)
  })
  useKeys(game, tones)
  useSounds(game, tones)
  return (
    <main>
      <header>
        <h1>{game?.play.level.title}</h1>
        <label>
          Level{' '}
          <select
            value={file}
            onChange={(event) => {
              setFile(event.target.value)
              window.location.hash = event.target.value
              event.target.blur()
            }}
          >
            {Object.keys(levels).map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        {game && <Characters game={game} />}
        <button
          onClick={(event) => {
            setRound(round + 1)
            event.currentTarget.blur()
          }}
        >
          Restart
        </button>
        <label>
          <input
            type="checkbox"
            onChange={(event) => {
              tones.muted = event.target.checked
              event.target.blur()
            }}
          />{' '}
          Mute
        </label>
        <p>
          Walk: <kbd>←</kbd> <kbd>↑</kbd> <kbd>↓</kbd> <kbd>→</kbd> or click · press: <kbd>space</kbd>
        </p>
      </header>
      {game ? (
        <>
          <div className="stage">
            <div className="screen">
              <Plan
                play={game.play}
                who={game.who}
                onWalk={(spot) => {
                  setHint(game.walkTo(spot) ? '' : 'There is no way to that spot now.')
                }}
              />
              <Overlay game={game} />
            </div>
            <div className="bar">
              <Doing game={game} />
              <div className="message" data-testid="message" role="status">
                {messageOf(game) ?? hint}
              </div>
              <Unanswered log={game.play.log.slice(-3)} />
            </div>
          </div>
          <Side play={game.play} who={game.who} changed={changes(game.play.log)} />
        </>
      ) : (
        <p className="errors">{opened.error}</p>
      )}
    </main>
  )
}

function chosenAtFirst(): string {
  const wanted = decodeURIComponent(window.location.hash.slice(1))
  return Object.hasOwn(levels, wanted) ? wanted : (Object.keys(levels)[0] ?? '')
}

/** Who acts, where there are several. */
function Characters({ game }: { game: Game }) {
  const { characters } = game.play.level.contents
  if (characters.length < 2) return null
  return (
    <label>
      As{' '}
      <select
        aria-label="Character"
        value={game.who}
        onChange={(event) => {
          game.switchTo(event.target.value)
          event.target.blur()
        }}
      >
        {characters.map(({ name, role }) => (
          <option key={name} value={name}>
            {name} ({role})
          </option>
        ))}
      </select>
    </label>
  )
}

/** The last message that is still to be read. */
function messageOf({ play, who }: Game): string | null {
  const messages = play.view(who).showing.filter(({ channel }) => channel === 'message')
  return messages.at(-1)?.text ?? null
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

/** Sounds what the one who acts has heard since the last frame. */
function useSounds(game: Game | null, tones: Tones): void {
  const heard = useRef({ game, entries: 0 })
  useEffect(() => {
    if (!game) return
    const { log } = game.play
    if (heard.current.game !== game) heard.current = { game, entries: 0 }
    for (const entry of log.slice(heard.current.entries)) {
      if (entry.what !== 'feedback' || entry.channel !== 'sound' || !entry.to.includes(game.who)) continue
      tones.play(entry.text, entry.pitch ?? 1, entry.varies ?? 0)
    }
    heard.current.entries = log.length
    document.body.dataset.tones = String(tones.played)
  })
}

/** Feeds a game with keys. */
function useKeys(game: Game | null, tones: Tones): void {
  useEffect(() => {
    if (!game) return
    const isPress = (key: string): boolean => key === ' ' || key === 'e'
    const down = (event: KeyboardEvent): void => {
      tones.wake()
      if (event.target instanceof HTMLSelectElement || event.ctrlKey || event.metaKey || event.altKey) return
      if (event.target instanceof HTMLButtonElement && (event.key === ' ' || event.key === 'Enter')) return
      const option = game.play.view(game.who).options[Number(event.key) - 1]
      if (isPress(event.key)) {
        if (!event.repeat) game.pressDown()
        event.preventDefault()
      } else if (option !== undefined) game.play.choose(game.who, option)
      else if (game.key(event.key, true)) event.preventDefault()
    }
    const up = (event: KeyboardEvent): void => {
      if (isPress(event.key)) game.letGo()
      game.key(event.key, false)
    }
    const forget = (): void => {
      game.forgetKeys()
    }
    const wake = (): void => {
      tones.wake()
    }
    window.addEventListener('keydown', down)
    window.addEventListener('keyup', up)
    window.addEventListener('blur', forget)
    window.addEventListener('pointerdown', wake)
    return () => {
      window.removeEventListener('keydown', down)
      window.removeEventListener('keyup', up)
      window.removeEventListener('blur', forget)
      window.removeEventListener('pointerdown', wake)
    }
  }, [game, tones])
}

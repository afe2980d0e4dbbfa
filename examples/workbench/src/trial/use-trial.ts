import { useCallback, useEffect, useRef, useState } from 'react'
import type { LevelPlay, LogEntry } from 'zintel'
import { firstPlayer, type Noted } from './recording.ts'
import { Script, type ScriptStep } from './script.ts'
import { Tones } from './sound.ts'
import { type Act, type Spot, Trial } from './trial.ts'

/** What is tried, or why it cannot be. */
export type Begun =
  { readonly begin: () => LevelPlay; readonly why: null } | { readonly begin: null; readonly why: string }

/** A level being tried, as the page shows it: read afresh at every frame. */
export interface Trying {
  readonly trial: Trial
  readonly script: Script | null
  readonly who: string
  readonly isPaused: boolean
  readonly speed: number
  readonly tones: Tones
  /** What was done so far, with what a walkthrough wants to know of it. */
  readonly noted: readonly Noted[]
  act(act: Act): boolean
  setWho(who: string): void
  setPaused(paused: boolean): void
  setSpeed(speed: number): void
  goTo(ms: number): void
  /** One step of the script, or a tenth of a second. */
  step(): void
  restart(): void
}

const directions: Readonly<Record<string, Spot>> = {
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  w: [0, 1],
  s: [0, -1],
  a: [-1, 0],
  d: [1, 0],
}

/** Below this a stick of a gamepad is at rest. */
const rest = 0.25

interface Held {
  readonly keys: Set<string>
  steered: string
  slides: number
  stuckAt: string
  wasPressed: boolean
}

/** Tries a level: feeds it with time, keys and a gamepad, frame by frame. `steps`: what is played for one. */
export function useTrial(begin: (() => LevelPlay) | null, steps: readonly ScriptStep[] | null): Trying | null {
  const [, setFrame] = useState(0)
  const [round, setRound] = useState(0)
  const [isPaused, setPaused] = useState(false)
  const [speed, setSpeed] = useState(1)
  const [who, setWho] = useState('')
  const made = useRef<{ trial: Trial; script: Script | null; noted: Noted[] } | null>(null)
  const held = useRef<Held>({ keys: new Set(), steered: '0 0', slides: 0, stuckAt: '', wasPressed: false })
  const [tones] = useState(() => new Tones())
  const [now, setNow] = useState<typeof made.current>(null)
  useEffect(() => {
    if (!begin) {
      made.current = null
      setNow(null)
      return
    }
    const trial = new Trial(begin())
    made.current = { trial, script: steps ? new Script(trial, steps) : null, noted: [] }
    held.current.steered = '0 0'
    setWho(firstPlayer(trial.play))
    setPaused(false)
    setNow(made.current)
  }, [begin, steps, round])

  const act = useCallback(
    (does: Act): boolean => {
      const one = made.current
      if (!one) return false
      const { trial, noted } = one
      const { play } = trial
      const spot = play.character(who).position
      const [pressed = null] = play.view(who).candidates
      while (noted.length > 0 && noted.at(-1)!.at > trial.now) noted.pop()
      noted.push({ at: trial.now, who, act: does, spot, standsSince: standsSince(play.log, who), pressed })
      return trial.act(who, does)
    },
    [who],
  )

  useEffect(() => {
    if (!now) return
    let last = performance.now()
    let left = 0
    let request = 0
    let heard = now.trial.play.log.length
    const frame = (at: number): void => {
      const passed = Math.min(100, Math.max(0, at - last)) * speed
      last = at
      const { trial, script } = now
      if (!isPaused) {
        left += passed
        const whole = Math.floor(left)
        left -= whole
        steer(trial, who, held.current, act)
        if (script && !script.isOver) script.advance(whole)
        else trial.advance(whole)
      }
      const { play } = trial
      if (!play.characters.includes(who)) setWho(firstPlayer(play))
      for (const entry of play.log.slice(Math.min(heard, play.log.length))) {
        if (entry.what === 'feedback' && entry.channel === 'sound' && entry.to.includes(who))
          tones.play(entry.text, entry.pitch ?? 1, entry.varies ?? 0)
      }
      heard = play.log.length
      setFrame((count) => count + 1)
      request = requestAnimationFrame(frame)
    }
    request = requestAnimationFrame(frame)
    return () => {
      cancelAnimationFrame(request)
    }
  }, [now, isPaused, speed, who, act, tones])

  useEffect(() => {
    if (!now) return
    const isPress = (name: string): boolean => name === ' ' || name === 'e'
    const isElsewhere = ({ target }: KeyboardEvent): boolean =>
      target instanceof HTMLElement &&
      target.closest('input, textarea, select, [contenteditable], .cm-editor, [role=dialog]') !== null
    const down = (event: KeyboardEvent): void => {
      tones.wake()
      if (isElsewhere(event) || event.ctrlKey || event.metaKey || event.altKey) return
      const isButton = event.target instanceof HTMLButtonElement
      if (isButton && (event.key === ' ' || event.key === 'Enter')) return
      const view = now.trial.play.view(who)
      const option = view.options[Number(event.key) - 1]
      if (isPress(event.key)) {
        if (!event.repeat) act({ do: view.popup !== null ? 'dismiss' : 'hold' })
        event.preventDefault()
      } else if (option !== undefined) act({ do: 'choose', option })
      else if (Object.hasOwn(directions, event.key)) {
        held.current.keys.add(event.key)
        event.preventDefault()
      } else if (event.key === 'p') setPaused((before) => !before)
    }
    const up = (event: KeyboardEvent): void => {
      if (isPress(event.key) && !isElsewhere(event) && now.trial.play.view(who).keepsPressed !== null)
        act({ do: 'release' })
      held.current.keys.delete(event.key)
    }
    const forget = (): void => {
      held.current.keys.clear()
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
  }, [now, who, act, tones])

  if (!now || begin === null) return null
  const { trial, script, noted } = now
  return {
    trial,
    script,
    who: trial.play.characters.includes(who) ? who : firstPlayer(trial.play),
    isPaused,
    speed,
    tones,
    noted,
    act,
    setWho(next) {
      act({ do: 'steer', towards: null })
      held.current.steered = '0 0'
      setWho(next)
    },
    setPaused,
    setSpeed,
    goTo(ms) {
      setPaused(true)
      trial.goTo(ms)
    },
    step() {
      setPaused(true)
      if (script && !script.isOver) script.advance(120_000, true)
      else trial.advance(100)
    },
    restart() {
      setRound((before) => before + 1)
    },
  }
}

/** When a character came to stand where it stands, in milliseconds; 0: it has not moved. */
function standsSince(log: readonly LogEntry[], who: string): number {
  return (
    log.findLast((entry) => (entry.what === 'arrived' || entry.what === 'stopped') && entry.character === who)?.at ?? 0
  )
}

/** Steers where keys and the gamepad say; at a wall one slides along it. */
function steer(trial: Trial, who: string, held: Held, act: (act: Act) => boolean): void {
  const { play } = trial
  if (!play.characters.includes(who)) return
  const [pad] = navigator.getGamepads().filter((one) => one !== null)
  const pressed = pad?.buttons[0]?.pressed ?? false
  if (pressed !== held.wasPressed) {
    held.wasPressed = pressed
    if (pressed) act({ do: play.view(who).popup !== null ? 'dismiss' : 'hold' })
    else if (play.view(who).keepsPressed !== null) act({ do: 'release' })
  }
  if (play.view(who).popup !== null) return
  let [x, y] = [0, 0]
  for (const key of held.keys) {
    x += directions[key]?.[0] ?? 0
    y += directions[key]?.[1] ?? 0
  }
  const [tiltX = 0, tiltY = 0] = pad?.axes ?? []
  if (Math.hypot(tiltX, tiltY) > rest) [x, y] = [Math.round(tiltX * 4) / 4, Math.round(-tiltY * 4) / 4]
  else [x, y] = [Math.sign(x), Math.sign(y)]
  const wanted = `${String(x)} ${String(y)}`
  if (wanted !== held.steered) held.slides = 0
  else if (wanted === '0 0' || play.character(who).walking) return
  else {
    // Stopped at a wall: of a slanting direction first one part is tried, then the other, as long as that helps.
    const spot = play.character(who).position.join()
    if (x === 0 || y === 0 || (held.slides === 0 && spot === held.stuckAt)) return
    if (held.slides === 0) held.stuckAt = spot
    held.slides = (held.slides + 1) % 3
  }
  const isFirst = held.steered === '0 0' && wanted === '0 0'
  held.steered = wanted
  if (isFirst) return
  if (wanted === '0 0') act({ do: 'steer', towards: null })
  else act({ do: 'steer', towards: held.slides === 1 ? [x, 0] : held.slides === 2 ? [0, y] : [x, y] })
}

import { Button, Checkbox, Select, TextInput } from '@mantine/core'
import { useState } from 'react'
import { clockText, entryText, type LogEntry, notAskedText, type View } from 'zintel'
import { type Asked, expectationOf, firstPlayer, walkthroughText, writtenSteps } from './recording.ts'
import type { Trying } from './use-trial.ts'

interface PlayerProps {
  readonly trying: Trying
  readonly level: string
  readonly onKeep: (title: string, text: string) => void
}

/** What the one who acts perceives and carries, how everything stands, and what has happened. */
export function Player({ trying, level, onKeep }: PlayerProps) {
  const { trial, who } = trying
  const { play } = trial
  const { characters, items, goals, flags, counters } = play.level.contents
  const view = play.view(who)
  const carried = Object.entries(view.carries)
  const [asked, setAsked] = useState<readonly Asked[]>([])
  const met = play.goalsMet()
  return (
    <section aria-label="Trying it" className="player">
      <header className="pane-head">
        <h2>Trying it</h2>
        <Checkbox
          size="xs"
          label="Sound"
          defaultChecked
          onChange={(event) => {
            trying.tones.muted = !event.currentTarget.checked
          }}
        />
      </header>
      {characters.length > 1 && (
        <Select
          size="xs"
          label="As"
          data={characters.map(({ name, role }) => ({ value: name, label: `${name} (${role})` }))}
          value={who}
          allowDeselect={false}
          onChange={(next) => {
            if (next !== null) trying.setWho(next)
          }}
        />
      )}
      <Doing trying={trying} view={view} />
      <Why log={play.log} />
      <h3>Carries</h3>
      <p data-testid="carried">
        {carried.length === 0
          ? 'nothing'
          : carried
              .map(
                ([item, count]) =>
                  `${items.find(({ name }) => name === item)?.title ?? item}${count > 1 ? ` × ${String(count)}` : ''}`,
              )
              .join(', ')}
      </p>
      {goals.length > 0 && (
        <>
          <h3>Goals</h3>
          <p>
            {goals.map(({ name, title }) => (
              <span key={name} className={met.includes(name) ? 'met' : ''} data-testid={`goal-${name}`}>
                {met.includes(name) ? '✓' : '○'} {title ?? name}{' '}
              </span>
            ))}
          </p>
        </>
      )}
      <h3>States</h3>
      <table className="states" data-testid="states">
        <tbody>
          {play.interactables.map((name) => (
            <tr key={name} className={isFresh(play.log, name, trial.now) ? 'fresh' : ''}>
              <th scope="row">{name}</th>
              <td data-testid={`state-${name}`}>{play.state(name)}</td>
            </tr>
          ))}
          {flags.map((name) => (
            <tr key={`flag ${name}`}>
              <th scope="row">flag {name}</th>
              <td>{play.flag(name) ? 'set' : 'not set'}</td>
            </tr>
          ))}
          {counters.map((name) => (
            <tr key={`counter ${name}`}>
              <th scope="row">counter {name}</th>
              <td>{play.counter(name)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Log trying={trying} asked={asked} onAsk={setAsked} />
      <Keep
        onKeep={(title) => {
          const steps = writtenSteps(trying.noted, asked, firstPlayer(play))
          onKeep(title, walkthroughText(title, level, steps))
        }}
        isEmpty={trying.noted.length === 0}
        asked={asked.length}
      />
    </section>
  )
}

function isFresh(log: readonly LogEntry[], name: string, now: number): boolean {
  const last = log.findLast((entry) => entry.what === 'transition' && entry.interactable === name)
  return last !== undefined && now - last.at < 1500
}

/** What can be done from here: the prompt, its options, other kinds of press, and dials within reach. */
function Doing({ trying, view }: { readonly trying: Trying; readonly view: View }) {
  const messages = view.showing.filter(({ channel }) => channel === 'message')
  return (
    <div className="doing">
      <p className="message" role="status" data-testid="message">
        {messages.at(-1)?.text ?? ''}
      </p>
      <p className="prompt" data-testid="prompt">
        {view.prompts.map(({ text }) => (
          <span key={text}>
            <kbd>space</kbd> {text}
          </span>
        ))}
        {view.prompts.length === 0 && view.candidates[0] !== undefined && (
          <span>
            <kbd>space</kbd> {view.candidates[0]}
          </span>
        )}
        {view.prompts.length === 0 && view.candidates.length === 0 && (
          <span className="hint">Nothing answers from here. Walk with the arrow keys, or click on the plan.</span>
        )}
      </p>
      {view.candidates.length > 0 && (
        <Button
          size="compact-sm"
          onClick={() => {
            trying.act({ do: 'press', way: null, chance: null })
          }}
        >
          Press
        </Button>
      )}
      {view.options.map((option, i) => (
        <Button
          key={option}
          size="compact-sm"
          variant="default"
          onClick={() => {
            trying.act({ do: 'choose', option })
          }}
        >
          {i + 1} {option}
        </Button>
      ))}
      {view.ways.map(({ way, interactable }) => (
        <Button
          key={way}
          size="compact-sm"
          variant="default"
          onClick={() => {
            trying.act({ do: 'press', way, chance: null })
          }}
        >
          {way} {interactable}
        </Button>
      ))}
      {view.keepsPressed !== null && (
        <Button
          size="compact-sm"
          variant="default"
          onClick={() => {
            trying.act({ do: 'release' })
          }}
        >
          Let go of {view.keepsPressed}
        </Button>
      )}
      {view.dials.map(({ interactable, wheels }) => (
        <div key={interactable} className="dial" role="group" aria-label={interactable}>
          {wheels.map(({ at, positions }, i) => {
            const turn = (by: number): void => {
              trying.act({ do: 'dial', on: interactable, wheel: i + 1, to: (at + by + positions) % positions })
            }
            return (
              <span key={i}>
                <button
                  type="button"
                  aria-label={`Wheel ${String(i + 1)} up`}
                  onClick={() => {
                    turn(1)
                  }}
                >
                  ▲
                </button>
                <output>{at}</output>
                <button
                  type="button"
                  aria-label={`Wheel ${String(i + 1)} down`}
                  onClick={() => {
                    turn(-1)
                  }}
                >
                  ▼
                </button>
              </span>
            )
          })}
        </div>
      ))}
      {view.popup !== null && (
        <div className="popup" role="alertdialog" aria-label="Popup" data-testid="popup">
          <p>{view.popup}</p>
          <Button
            size="compact-sm"
            autoFocus
            onClick={() => {
              trying.act({ do: 'dismiss' })
            }}
          >
            Understood
          </Button>
        </div>
      )}
      {view.icons.length > 0 && (
        <p className="icons" aria-label="On the screen">
          {view.icons.map(({ icon, count }) => `${icon}${count === null ? '' : ` ${String(count)}`}`).join(' · ')}
        </p>
      )}
    </div>
  )
}

/** Why the last press was not answered, as long as nothing else was pressed. */
function Why({ log }: { readonly log: readonly LogEntry[] }) {
  const last = log.findLast((entry) => entry.what === 'press')
  if (last?.outcome !== 'unanswered') return null
  return (
    <div className="why" data-testid="unanswered">
      Nothing answered that press.
      <ul>
        {last.nearby.map((near) => (
          <li key={near.interactable}>{notAskedText(near)}</li>
        ))}
        {last.nearby.length === 0 && <li>Nothing is near by.</li>}
      </ul>
    </div>
  )
}

const dull = new Set(['walks', 'steers', 'arrived', 'stopped', 'heard'])

interface LogProps {
  readonly trying: Trying
  readonly asked: readonly Asked[]
  readonly onAsk: (asked: readonly Asked[]) => void
}

/** What has happened, newest first: a click goes back to that moment, another expects it in the walkthrough. */
function Log({ trying, asked, onAsk }: LogProps) {
  const shown = trying.trial.play.log
    .map((entry, index) => ({ entry, index }))
    .filter(({ entry }) => !dull.has(entry.what))
    .slice(-80)
    .reverse()
  return (
    <>
      <h3>What happened, newest first</h3>
      {shown.length === 0 && <p className="hint">Nothing yet.</p>}
      <ol className="log" data-testid="log">
        {shown.map(({ entry, index }) => {
          const expect = expectationOf(entry)
          const isAsked = asked.some(
            (one) => one.at === entry.at && JSON.stringify(one.expect) === JSON.stringify(expect),
          )
          return (
            <li key={index}>
              <button
                type="button"
                className="time"
                title="Back to this moment"
                onClick={() => {
                  trying.goTo(entry.at)
                }}
              >
                {clockText(entry.at)}
              </button>
              <span>{entryText(entry)}</span>
              {expect && (
                <button
                  type="button"
                  className={`ask${isAsked ? ' asked' : ''}`}
                  aria-pressed={isAsked}
                  title="Expect this in the walkthrough"
                  onClick={() => {
                    onAsk(isAsked ? asked.filter((one) => one.at !== entry.at) : [...asked, { at: entry.at, expect }])
                  }}
                >
                  {isAsked ? '✓ expected' : 'expect'}
                </button>
              )}
            </li>
          )
        })}
      </ol>
    </>
  )
}

/** Keeps what was done as a walkthrough. */
function Keep({
  onKeep,
  isEmpty,
  asked,
}: {
  readonly onKeep: (title: string) => void
  readonly isEmpty: boolean
  readonly asked: number
}) {
  const [title, setTitle] = useState('')
  return (
    <form
      className="keep"
      onSubmit={(event) => {
        event.preventDefault()
        onKeep(title.trim() === '' ? 'As it was played' : title.trim())
      }}
    >
      <TextInput
        size="xs"
        label="Keep this play as a walkthrough"
        placeholder="What it shows"
        value={title}
        onChange={(event) => {
          setTitle(event.currentTarget.value)
        }}
      />
      <Button size="xs" type="submit" variant="default" disabled={isEmpty}>
        Keep{asked > 0 ? ` with ${String(asked)} expected` : ''}
      </Button>
    </form>
  )
}

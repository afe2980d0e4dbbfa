import { Button, Select, TextInput } from '@mantine/core'
import { useEffect, useState } from 'react'
import { parse, stringify } from 'yaml'
import type { TransitionDefinition } from 'zintel'

type Trigger = TransitionDefinition['trigger']

interface TransitionProps {
  readonly one: TransitionDefinition
  readonly path: string
  readonly states: readonly string[]
  readonly onGive: (path: string, value: unknown) => void
  readonly onRemove: (path: string) => void
}

/** What sets a transition off: as it is called here, what it begins with, and what its value is. */
const triggers: Readonly<
  Record<string, { readonly says: string; readonly first: unknown; readonly takes: string | null }>
> = {
  press: { says: 'a press', first: null, takes: null },
  hold: { says: 'a press that is kept down', first: 1, takes: 'for how many seconds' },
  release: { says: 'letting go', first: null, takes: null },
  'press-way': { says: 'another kind of press', first: 'pry', takes: 'which kind' },
  option: { says: 'an option of its prompt', first: 'Open it', takes: 'what the option says' },
  touch: { says: 'a touch', first: null, takes: null },
  enter: { says: 'coming into a zone', first: 'near', takes: 'which zone' },
  leave: { says: 'leaving a zone', first: 'near', takes: 'which zone' },
  signal: { says: 'a signal', first: 'begin', takes: 'which signal' },
  after: { says: 'time', first: 3, takes: 'after how many seconds' },
  'motion-end': { says: 'the end of its motion', first: null, takes: null },
  becomes: { says: 'a condition that comes true', first: { flag: 'done' }, takes: 'the condition' },
  chance: { says: 'a press, by chance', first: 'first', takes: 'what is drawn' },
}

/** One transition of a type of the level's own: where it leads, what sets it off, what it needs and what it changes. */
export default function Transition({ one, path, states, onGive, onRemove }: TransitionProps) {
  const [why, setWhy] = useState<string | null>(null)
  const kind = kindOf(one.trigger)
  const { takes } = triggers[kind] ?? { takes: null }
  const value = typeof one.trigger === 'string' ? undefined : (one.trigger as Record<string, unknown>)[keyOf(kind)]
  const written = (key: string, text: string): void => {
    try {
      onGive(`${path}.${key}`, text.trim() === '' ? undefined : (parse(text) as unknown))
      setWhy(null)
    } catch (error) {
      setWhy(error instanceof Error ? (error.message.split('\n')[0] ?? '') : String(error))
    }
  }
  return (
    <fieldset className="transition">
      <legend>{one.name ?? `from ${typeof one.from === 'string' ? one.from : one.from.join(', ')}`}</legend>
      <Select
        size="xs"
        label="Leads to"
        data={[...states]}
        value={one.to ?? null}
        placeholder="stays as it is"
        clearable
        clearButtonProps={{ 'aria-label': 'Stays as it is' }}
        onChange={(to) => {
          onGive(`${path}.to`, to ?? undefined)
        }}
      />
      <Select
        size="xs"
        label="Set off by"
        data={Object.entries(triggers).map(([name, { says }]) => ({ value: name, label: says }))}
        value={kind}
        allowDeselect={false}
        onChange={(next) => {
          if (next !== null && next !== kind) onGive(`${path}.trigger`, triggerOf(next, triggers[next]?.first))
        }}
      />
      {takes !== null && (
        <Written
          label={`Set off by: ${takes}`}
          value={value}
          onDone={(text) => {
            written('trigger', text === '' ? '' : stringify(withValue(one.trigger, kind, parsed(text))))
          }}
        />
      )}
      <Written
        label="Only if (a condition)"
        placeholder="{ carries: key }"
        value={one.guard}
        onDone={(text) => {
          written('guard', text)
        }}
      />
      <Written
        label="Changes (a list of effects)"
        placeholder="[{ give: key }, { send: open-up }]"
        value={one.effects}
        onDone={(text) => {
          written('effects', text)
        }}
      />
      <Written
        label="Perceived (feedback)"
        placeholder="[{ sound: click }]"
        value={one.feedback}
        onDone={(text) => {
          written('feedback', text)
        }}
      />
      {why !== null && <p role="alert">{why}</p>}
      <Button
        size="compact-xs"
        variant="subtle"
        onClick={() => {
          onRemove(path)
        }}
      >
        Remove this transition
      </Button>
    </fieldset>
  )
}

/** What sets it off: of the keys of a trigger the one that says what, not what stands beside it. */
function kindOf(trigger: Trigger): string {
  if (typeof trigger === 'string') return trigger
  if ('press' in trigger) return 'press-way'
  return Object.keys(trigger).find((key) => Object.hasOwn(triggers, key)) ?? ''
}

/** The key that a kind of trigger has in the text. */
function keyOf(kind: string): string {
  return kind === 'press-way' ? 'press' : kind
}

function triggerOf(kind: string, value: unknown): unknown {
  return value === null || value === undefined ? kind : { [keyOf(kind)]: value }
}

/** The trigger with another value; what stands beside it stays. */
function withValue(trigger: Trigger, kind: string, value: unknown): unknown {
  const rest = typeof trigger === 'string' ? {} : trigger
  return { ...rest, [keyOf(kind)]: value }
}

function parsed(text: string): unknown {
  return parse(text) as unknown
}

/** A value as it stands in the text. It counts once one leaves the field, or presses Enter. */
function Written({
  label,
  value,
  placeholder,
  onDone,
}: {
  readonly label: string
  readonly value: unknown
  readonly placeholder?: string
  readonly onDone: (text: string) => void
}) {
  const now = value === undefined ? '' : stringify(value, { collectionStyle: 'flow', lineWidth: 0 }).trim()
  const [text, setText] = useState(now)
  useEffect(() => {
    setText(now)
  }, [now])
  const done = (): void => {
    if (text !== now) onDone(text)
  }
  return (
    <TextInput
      size="xs"
      label={label}
      placeholder={placeholder}
      value={text}
      onChange={(event) => {
        setText(event.currentTarget.value)
      }}
      onBlur={done}
      onKeyDown={(event) => {
        if (event.key === 'Enter') done()
        if (event.key === 'Escape') setText(now)
      }}
    />
  )
}

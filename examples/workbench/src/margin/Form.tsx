import { ActionIcon, Button, Checkbox, NumberInput, Select, TextInput, Tooltip } from '@mantine/core'
import { useEffect, useState } from 'react'
import type { InteractableSheet, SettingNow } from 'zintel'
import type { LevelLook } from '../background/look.ts'

/** Where an exit arrives in another level: a click shows the place there. */
export function Arrival({
  level,
  sheet,
  onShow,
}: {
  readonly level: LevelLook
  readonly sheet: InteractableSheet
  readonly onShow: (file: string, place: string) => void
}) {
  const { to, place } = arrivalOf(level, sheet)
  if (!to || place === null || !to.places.includes(place)) return null
  return (
    <div className="row">
      <span>
        Leads to <b>{place}</b> in <b>{to.name}</b>.
      </span>
      <Button
        size="compact-xs"
        variant="default"
        onClick={() => {
          onShow(to.file, place)
        }}
      >
        Show it there
      </Button>
    </div>
  )
}

/** The other level that an exit leads to, as far as it is on the desk, and the place there. */
function arrivalOf(level: LevelLook, { settings }: InteractableSheet) {
  const said = (path: string): unknown => settings.find((one) => one.path === path)?.value
  const [to, place] = [said('exit-to.level'), said('exit-to.place')]
  return { to: level.around.find(({ name }) => name === to) ?? null, place: typeof place === 'string' ? place : null }
}

interface FormProps {
  readonly level: LevelLook
  readonly sheet: InteractableSheet
  readonly onGive: (path: string, value: unknown) => void
  readonly onInitial: (state: string | undefined) => void
}

/** The settings, as the type defines them. */
export function Form({ level, sheet, onGive, onInitial }: FormProps) {
  return (
    <div className="form">
      <Select
        size="xs"
        label="Initial state"
        data={[...sheet.states]}
        value={sheet.initial}
        allowDeselect={false}
        onChange={(state) => {
          onInitial(state === null || state === sheet.states[0] ? undefined : state)
        }}
      />
      {sheet.settings.map((setting) => (
        <Field
          key={setting.path}
          setting={setting}
          level={level}
          sheet={sheet}
          label={setting.path.slice(setting.path.lastIndexOf('.') + 1)}
          onGive={(value) => {
            onGive(setting.path, value)
          }}
        />
      ))}
    </div>
  )
}

interface FieldProps {
  readonly setting: SettingNow
  readonly level: LevelLook
  readonly sheet: InteractableSheet
  readonly label: string
  readonly onGive: (value: unknown) => void
}

/** One setting: its own value, or that of its type in grey. */
export function Field(props: FieldProps) {
  const { setting, label, onGive } = props
  const { path, kind, about, given, needed } = setting
  const depth = label.includes(' ') ? 0 : path.split('.').length - 1
  const clear = given !== undefined && !needed && (
    <Clear
      label={path}
      onClear={() => {
        onGive(undefined)
      }}
    />
  )
  if (kind === 'group')
    return (
      <div className="group" style={{ marginLeft: depth * 12 }}>
        <b>{label}</b>
        <span className="hint">{about}</span>
        {clear}
      </div>
    )
  return (
    <div className={`field${given === undefined ? ' usual' : ''}`} style={{ marginLeft: depth * 12 }}>
      <Input {...props} />
      {clear}
    </div>
  )
}

function Clear({ label, onClear }: { readonly label: string; readonly onClear: () => void }) {
  return (
    <Tooltip label="As its type has it">
      <ActionIcon variant="subtle" size="sm" aria-label={`${label}: as its type has it`} onClick={onClear}>
        ↺
      </ActionIcon>
    </Tooltip>
  )
}

const numbers: readonly SettingNow['kind'][] = ['seconds', 'metres', 'degrees', 'speed', 'count']

function Input({ setting, level, sheet, label, onGive }: FieldProps) {
  const { kind, value, given, about, takes, options } = setting
  const description = about
  if (kind === 'yes-no')
    return (
      <Checkbox
        size="xs"
        label={label}
        description={description}
        checked={value === true}
        onChange={(event) => {
          onGive(event.currentTarget.checked)
        }}
      />
    )
  const names = namesOf(setting, level, sheet)
  if (kind === 'choice' || names)
    return (
      <Select
        size="xs"
        label={label}
        description={description}
        data={[...(names ?? options)]}
        value={typeof value === 'string' ? value : null}
        placeholder={takes}
        searchable={(names ?? options).length > 7}
        onChange={(chosen) => {
          onGive(chosen ?? undefined)
        }}
      />
    )
  if (numbers.includes(kind))
    return (
      <Lazy
        value={typeof value === 'number' ? value : ''}
        onDone={(text) => {
          onGive(text === '' ? undefined : Number(text))
        }}
      >
        {(text, set) => (
          <NumberInput
            size="xs"
            label={`${label}, ${takes}`}
            description={description}
            value={text}
            hideControls
            onChange={(next) => {
              set(String(next))
            }}
          />
        )}
      </Lazy>
    )
  const written = value === undefined ? '' : typeof value === 'string' ? value : JSON.stringify(value)
  const isText = kind === 'text' || typeof given === 'string'
  return (
    <Lazy
      value={written}
      onDone={(text) => {
        if (text === '') onGive(undefined)
        else if (isText) onGive(text)
        else onGive(parsed(text))
      }}
    >
      {(text, set) => (
        <TextInput
          size="xs"
          label={`${label}, ${takes}`}
          description={description}
          value={text}
          onChange={(event) => {
            set(event.currentTarget.value)
          }}
        />
      )}
    </Lazy>
  )
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown
  } catch {
    return text
  }
}

function namesOf({ kind, path }: SettingNow, level: LevelLook, sheet: InteractableSheet): readonly string[] | null {
  const { contents, shapes, around } = level
  switch (kind) {
    case 'level':
      return around.length > 0 ? around.map(({ name }) => name) : null
    case 'item':
      return contents.items.map(({ name }) => name)
    case 'interactable':
      return contents.interactables.map(({ name }) => name)
    case 'flag':
      return [...contents.flags]
    case 'counter':
      return [...contents.counters]
    case 'place':
      if (
        path === 'exit-to.place' &&
        sheet.settings.some((one) => one.path === 'exit-to.level' && one.value !== undefined)
      )
        return arrivalOf(level, sheet).to?.places ?? null
      return shapes.flatMap((one) => (one.kind === 'place' ? [one.name] : []))
    default:
      return null
  }
}

interface LazyProps {
  readonly value: string | number
  readonly onDone: (text: string) => void
  readonly children: (text: string, set: (text: string) => void) => React.ReactNode
}

/** What is written counts once one leaves the field, or presses Enter: half a number is no setting. */
function Lazy({ value, onDone, children }: LazyProps) {
  const [text, setText] = useState(String(value))
  useEffect(() => {
    setText(String(value))
  }, [value])
  const done = (): void => {
    if (text !== String(value)) onDone(text)
  }
  return (
    <div
      onBlur={done}
      onKeyDown={(event) => {
        if (event.key === 'Enter') done()
        if (event.key === 'Escape') setText(String(value))
      }}
    >
      {children(text, setText)}
    </div>
  )
}

import { Button, TextInput } from '@mantine/core'
import { type FormEvent, useState } from 'react'
import type { InteractableSheet } from 'zintel'
import type { LevelLook } from '../background/look.ts'
import { Arrival, Field, Form } from './Form.tsx'
import { Machine, type OwnType } from './Machine.tsx'

interface SelectionProps {
  readonly level: LevelLook
  readonly selected: string | null
  readonly sheet: InteractableSheet | null
  /** The machine of the interactable as SVG; null while it is drawn. */
  readonly machine: string | null
  /** The state that it is in, where one tries the level. */
  readonly state: string | null
  readonly onRename: (path: string, name: string) => void
  readonly onDuplicate: (path: string) => void
  readonly onRemove: (path: string) => void
  readonly onTurn: (path: string, by: number) => void
  /** Its type, where that is the level's own. */
  readonly own: OwnType | null
  readonly onGive: (path: string, value: unknown) => void
  readonly onAppend: (path: string, value: unknown) => void
  readonly onSelect: (path: string) => void
  /** Shows a place of another level, where it can be dragged. */
  readonly onShowPlace: (file: string, place: string) => void
}

/** What is selected: its name, its settings in a form, and its machine. */
export function Selection(props: SelectionProps) {
  const { selected, sheet, level, machine, onTurn, onDuplicate, onRemove, onGive } = props
  if (selected === null) return <Nothing {...props} />
  const [section = '', name = ''] = selected.split('.')
  const turns = level.grips.some(({ path, drag }) => path === selected && drag.is === 'direction')
  return (
    <section aria-label="What is selected" className="thing">
      <header className="pane-head">
        <h2>
          {sectionWord(section)}
          {sheet ? `, a ${sheet.type}` : ''}
        </h2>
      </header>
      <Name key={selected} {...props} selected={selected} name={name} />
      <div className="row">
        {turns && (
          <>
            <Button
              size="compact-sm"
              variant="default"
              onClick={() => {
                onTurn(selected, 15)
              }}
            >
              ⟲ 15°
            </Button>
            <Button
              size="compact-sm"
              variant="default"
              onClick={() => {
                onTurn(selected, -15)
              }}
            >
              ⟳ 15°
            </Button>
          </>
        )}
        <Button
          size="compact-sm"
          variant="default"
          onClick={() => {
            onDuplicate(selected)
          }}
        >
          Duplicate
        </Button>
        <Button
          size="compact-sm"
          variant="default"
          color="red"
          onClick={() => {
            onRemove(selected)
          }}
        >
          Delete
        </Button>
      </div>
      {sheet && section === 'interactables' && (
        <>
          {sheet.about !== '' && <p className="about">{sheet.about}</p>}
          <h3>Its machine</h3>
          {props.state !== null && (
            <p className="hint">
              Now: <b>{props.state}</b>
            </p>
          )}
          {machine === null ? (
            <p className="hint">Drawing…</p>
          ) : (
            <Machine
              key={selected}
              name={name}
              svg={machine}
              own={props.own}
              onRename={props.onRename}
              onRemove={onRemove}
              onGive={onGive}
              onAppend={props.onAppend}
            />
          )}
          <h3>Its settings</h3>
          <Arrival level={level} sheet={sheet} onShow={props.onShowPlace} />
          <Form
            level={level}
            sheet={sheet}
            onGive={(path, value) => {
              onGive(`${selected}.set.${path}`, value)
            }}
            onInitial={(state) => {
              onGive(`${selected}.initial`, state)
            }}
          />
          <h3>How it stands, and is pressed</h3>
          <div className="form">
            {sheet.standing.map((setting) => (
              <Field
                key={setting.path}
                setting={setting}
                level={level}
                sheet={sheet}
                label={setting.path.replace('.', ' ')}
                onGive={(value) => {
                  onGive(`${selected}.${setting.path}`, value)
                }}
              />
            ))}
          </div>
        </>
      )}
    </section>
  )
}

function Nothing({ level, onSelect }: SelectionProps) {
  const { shapes } = level
  const of = (kinds: readonly string[]) => shapes.filter((one) => kinds.includes(one.kind))
  const groups = [
    ['Interactables', of(['handle'])],
    ['Rooms and doorways', of(['room', 'doorway', 'obstacle'])],
    ['Characters and places', of(['start', 'place'])],
  ] as const
  return (
    <section aria-label="What is selected" className="thing">
      <header className="pane-head">
        <h2>Nothing is selected</h2>
      </header>
      <p className="hint">Click something on the plan, or choose it here. Drag it to move it; Alt leaves the grid.</p>
      {groups.map(([title, all]) => (
        <div key={title}>
          <h3>{title}</h3>
          <ul className="choices">
            {all.map(({ path, name }) => (
              <li key={path}>
                <button
                  type="button"
                  onClick={() => {
                    onSelect(path)
                  }}
                >
                  {name}
                </button>
              </li>
            ))}
          </ul>
        </div>
      ))}
    </section>
  )
}

const words: Readonly<Record<string, string>> = {
  interactables: 'Interactable',
  rooms: 'Room',
  doorways: 'Doorway',
  obstacles: 'Obstacle',
  places: 'Place',
  characters: 'Character',
}

function sectionWord(section: string): string {
  return words[section] ?? section
}

/** The name, which can be changed; every place that says it follows. */
function Name({ name, selected, onRename }: SelectionProps & { readonly selected: string; readonly name: string }) {
  const [text, setText] = useState(name)
  const submit = (event: FormEvent): void => {
    event.preventDefault()
    if (text !== name) onRename(selected, text)
  }
  return (
    <form className="name" onSubmit={submit}>
      <TextInput
        label="Name"
        value={text}
        onChange={(event) => {
          setText(event.currentTarget.value)
        }}
      />
      <Button type="submit" size="sm" variant="default" disabled={text === name || text === ''}>
        Rename
      </Button>
    </form>
  )
}

import { TextInput } from '@mantine/core'
import { useState } from 'react'
import type { LevelLook } from '../background/look.ts'

interface AllProps {
  readonly level: LevelLook
  readonly selected: string | null
  readonly states: Readonly<Record<string, string>>
  readonly onSelect: (path: string) => void
}

/** A table of all interactables: what each changes from its type, and what of that stands out among those of its type. */
export function All({ level, selected, states, onSelect }: AllProps) {
  const [wanted, setWanted] = useState('')
  const shown = level.listed.filter(({ name, type }) => `${name} ${type}`.includes(wanted.trim()))
  const types = [...new Set(shown.map(({ type }) => type))]
  const isLive = Object.keys(states).length > 0
  return (
    <section aria-label="All interactables" className="all">
      <header className="pane-head">
        <h2>{level.listed.length} interactables</h2>
        <TextInput
          size="xs"
          placeholder="Name or type"
          aria-label="Look for a name or a type"
          value={wanted}
          onChange={(event) => {
            setWanted(event.currentTarget.value)
          }}
        />
      </header>
      {shown.length === 0 && (
        <p className="hint">
          {level.listed.length === 0
            ? 'There are none in this level yet: add one from the sheet.'
            : 'None is called so.'}
        </p>
      )}
      {types.map((type) => (
        <table key={type}>
          <caption>{type}</caption>
          <tbody>
            {shown
              .filter((one) => one.type === type)
              .map(({ name, place, changes, lacks }) => (
                <tr key={name} className={selected === `interactables.${name}` ? 'chosen' : ''}>
                  <th scope="row">
                    <button
                      type="button"
                      onClick={() => {
                        onSelect(`interactables.${name}`)
                      }}
                    >
                      {name}
                    </button>
                    {isLive && <span className="state">{states[name]}</span>}
                    <span className="hint">{place}</span>
                  </th>
                  <td>
                    {changes.map((change) => {
                      const isOdd = change.siblings > 0 && change.alike === 0
                      return (
                        <span
                          key={change.path}
                          className={`change${isOdd ? ' odd' : ''}`}
                          title={isOdd ? 'Only here' : undefined}
                        >
                          {change.path} <code>{change.value}</code>
                        </span>
                      )
                    })}
                    {lacks.map(({ path, have, siblings }) => (
                      <span key={path} className="change lacks">
                        no {path}, which {have} of {siblings} others have
                      </span>
                    ))}
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      ))}
    </section>
  )
}

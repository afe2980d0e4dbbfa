import { Button, Checkbox, Modal, Select, TextInput } from '@mantine/core'
import { lazy, Suspense, useEffect, useRef, useState } from 'react'
import type { TransitionDefinition } from 'zintel'

const Transition = lazy(() => import('./Transition.tsx'))

/** A type of the level's own, as far as its machine is edited. */
export interface OwnType {
  /** Its path, such as `types.millstone`. */
  readonly path: string
  readonly states: Readonly<Record<string, { readonly lasting?: boolean | undefined }>>
  readonly transitions: readonly TransitionDefinition[]
}

interface MachineProps {
  readonly name: string
  /** The drawing of the machine, as SVG. */
  readonly svg: string
  /** Null where its type is built in: its states come of its settings then. */
  readonly own: OwnType | null
  readonly onRename: (path: string, name: string) => void
  readonly onRemove: (path: string) => void
  readonly onGive: (path: string, value: unknown) => void
  readonly onAppend: (path: string, value: unknown) => void
}

/** The machine of an interactable: a click on a state of a type of the level's own edits it. */
export function Machine(props: MachineProps) {
  const { name, svg, own } = props
  const [isLarge, setLarge] = useState(false)
  const [chosen, setChosen] = useState<string | null>(null)
  const state = chosen !== null && own && Object.hasOwn(own.states, chosen) ? chosen : null
  return (
    <div className="machine-pane">
      <Drawn name={name} svg={svg} chosen={state} isOwn={own !== null} onState={setChosen} />
      <div className="row">
        <Button
          size="compact-xs"
          variant="default"
          onClick={() => {
            setLarge(true)
          }}
        >
          Larger
        </Button>
        {own && <AddState {...props} own={own} onChosen={setChosen} />}
        {!own && <span className="hint">A built-in type: its states come of its settings.</span>}
      </div>
      {own && state === null && <p className="hint">Click a state in the drawing to change it.</p>}
      {own && state !== null && <State key={state} {...props} own={own} state={state} onChosen={setChosen} />}
      <Modal
        opened={isLarge}
        onClose={() => {
          setLarge(false)
        }}
        size="90%"
        title={`The machine of ${name}`}
        closeButtonProps={{ 'aria-label': 'Close' }}
      >
        <Drawn name={name} svg={svg} chosen={state} isOwn={own !== null} onState={setChosen} />
      </Modal>
    </div>
  )
}

interface DrawnProps {
  readonly name: string
  readonly svg: string
  readonly chosen: string | null
  /** Whether its states can be edited. */
  readonly isOwn: boolean
  readonly onState: (state: string) => void
}

/** The drawing itself. It is our own and its texts are escaped; it is read as a drawing, never as markup of the page. */
function Drawn({ name, svg, chosen, isOwn, onState }: DrawnProps) {
  const holder = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const drawing = new DOMParser().parseFromString(svg, 'image/svg+xml').documentElement
    // As wide as there is room for.
    drawing.removeAttribute('width')
    drawing.removeAttribute('height')
    holder.current?.replaceChildren(document.importNode(drawing, true))
  }, [svg])
  useEffect(() => {
    for (const one of holder.current?.querySelectorAll<SVGElement>('[data-state]') ?? []) {
      one.classList.toggle('chosen', one.dataset.state === chosen)
      if (!isOwn) continue
      one.setAttribute('tabindex', '0')
      one.setAttribute('role', 'button')
    }
  }, [svg, chosen, isOwn])
  const choose = (target: EventTarget): void => {
    const state = (target as Element).closest<SVGElement>('[data-state]')?.dataset.state
    if (state !== undefined) onState(state)
  }
  return (
    <div
      ref={holder}
      className="machine"
      role="group"
      aria-label={`States and transitions of ${name}`}
      onClick={(event) => {
        choose(event.target)
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') choose(event.target)
      }}
    />
  )
}

type OwnProps = MachineProps & { readonly own: OwnType; readonly onChosen: (state: string | null) => void }

/** One more state, under a name of its own. */
function AddState({ own, onGive, onChosen }: OwnProps) {
  return (
    <Button
      size="compact-xs"
      variant="default"
      onClick={() => {
        const name = freeIn(Object.keys(own.states), 'state')
        onGive(`${own.path}.states.${name}`, {})
        onChosen(name)
      }}
    >
      + State
    </Button>
  )
}

function freeIn(taken: readonly string[], like: string): string {
  for (let count = 2; ; count++) if (!taken.includes(`${like}-${String(count)}`)) return `${like}-${String(count)}`
}

/** A state with what leads away from it. */
function State({ own, state, onRename, onRemove, onGive, onAppend, onChosen }: OwnProps & { readonly state: string }) {
  const [name, setName] = useState(state)
  const [to, setTo] = useState<string | null>(null)
  const path = `${own.path}.states.${state}`
  const states = Object.keys(own.states)
  const away = own.transitions.flatMap((one, i) => {
    const from = typeof one.from === 'string' ? [one.from] : one.from
    return from.includes(state) || from.includes('any') ? [{ ...one, index: i }] : []
  })
  return (
    <div className="state-form" role="group" aria-label={`State ${state}`}>
      <form
        className="name"
        onSubmit={(event) => {
          event.preventDefault()
          if (name === state) return
          onRename(path, name)
          onChosen(name)
        }}
      >
        <TextInput
          size="xs"
          label="State"
          value={name}
          onChange={(event) => {
            setName(event.currentTarget.value)
          }}
        />
        <Button size="xs" type="submit" variant="default" disabled={name === state || name === ''}>
          Rename it
        </Button>
        <Button
          size="xs"
          variant="default"
          disabled={states.length < 2}
          onClick={() => {
            onRemove(path)
            onChosen(null)
          }}
        >
          Remove it
        </Button>
      </form>
      <Checkbox
        size="xs"
        label="It may stay so for ever (lasting)"
        checked={own.states[state]?.lasting ?? false}
        onChange={(event) => {
          onGive(`${path}.lasting`, event.currentTarget.checked ? true : undefined)
        }}
      />
      <Suspense>
        {away.map(({ index, ...one }) => (
          <Transition
            key={index}
            one={one}
            path={`${own.path}.transitions.${String(index)}`}
            states={states}
            onGive={onGive}
            onRemove={onRemove}
          />
        ))}
      </Suspense>
      <div className="row">
        <Select size="xs" aria-label="To which state" placeholder="to …" data={states} value={to} onChange={setTo} />
        <Button
          size="compact-xs"
          variant="default"
          disabled={to === null}
          onClick={() => {
            const taken = own.transitions.map((one) => one.name ?? '')
            onAppend(`${own.path}.transitions`, { name: freeIn(taken, 'press'), from: state, to, trigger: 'press' })
          }}
        >
          + Transition on a press
        </Button>
      </div>
    </div>
  )
}

import { ActionIcon, Button, Menu, Tooltip, useComputedColorScheme, useMantineColorScheme } from '@mantine/core'
import type { Desk, DeskState } from './desk/desk.ts'
import { unsaved } from './desk/desk.ts'
import { inOrder, shortName } from './desk/files.ts'

interface StripProps {
  readonly desk: Desk
  readonly state: DeskState
  readonly isTrying: boolean
  readonly canTry: boolean
  /** Whether the level is being laid out for a play. */
  readonly isBeginning: boolean
  readonly bookShown: boolean
  readonly onBook: () => void
  readonly onTry: () => void
  readonly onOpen: () => void
  readonly onHelp: () => void
}

/** The strip along the top: which files are on the desk, and what can be done to all of it. */
export function Strip({
  desk,
  state,
  isTrying,
  canTry,
  isBeginning,
  bookShown,
  onBook,
  onTry,
  onOpen,
  onHelp,
}: StripProps) {
  const { files, open, history } = state
  const dirty = unsaved(state)
  const [last, next] = [history.steps[history.done - 1], history.steps[history.done]]
  return (
    <header className="strip">
      <h1>Zintel</h1>
      <Menu position="bottom-start" shadow="sm" width={320}>
        <Menu.Target>
          <Button variant="default" size="compact-sm" data-testid="files">
            {open === null ? 'No file' : shortName(open)}
            {open !== null && dirty.includes(open) ? ' · not saved' : ''} ▾
          </Button>
        </Menu.Target>
        <Menu.Dropdown mah={480} style={{ overflowY: 'auto' }}>
          {inOrder(files).map(({ name, kind }) => (
            <Menu.Item
              key={name}
              aria-current={name === open}
              onClick={() => {
                desk.look(name)
              }}
            >
              {name === open ? '● ' : ''}
              {name} <span className="hint">{kind}</span>
            </Menu.Item>
          ))}
          <Menu.Divider />
          <Menu.Item onClick={onOpen}>Open, or begin another…</Menu.Item>
          {open !== null && (
            <Menu.Item
              onClick={() => {
                desk.remove([open])
              }}
            >
              Take {shortName(open)} off the desk
            </Menu.Item>
          )}
          <Menu.Item
            onClick={() => {
              desk.remove(Object.keys(files))
            }}
          >
            Clear the desk
          </Menu.Item>
        </Menu.Dropdown>
      </Menu>
      <Tooltip label={last ? `Undo: ${last.says} (Ctrl Z)` : 'Nothing to undo'}>
        <ActionIcon
          variant="default"
          aria-label={last ? `Undo: ${last.says}` : 'Undo'}
          data-disabled={last === undefined || undefined}
          aria-disabled={last === undefined}
          onClick={() => {
            desk.undo()
          }}
        >
          ↶
        </ActionIcon>
      </Tooltip>
      <Tooltip label={next ? `Redo: ${next.says} (Ctrl Shift Z)` : 'Nothing to redo'}>
        <ActionIcon
          variant="default"
          aria-label={next ? `Redo: ${next.says}` : 'Redo'}
          data-disabled={next === undefined || undefined}
          aria-disabled={next === undefined}
          onClick={() => {
            desk.redo()
          }}
        >
          ↷
        </ActionIcon>
      </Tooltip>
      <Button variant="default" size="compact-sm" aria-pressed={bookShown} onClick={onBook} className="book-toggle">
        {bookShown ? 'Hide the text' : 'Show the text'}
      </Button>
      <span className="grow" />
      <Button size="compact-sm" onClick={onTry} disabled={!canTry && !isTrying} loading={isBeginning} data-testid="try">
        {isTrying ? '■ Stop trying' : '▶ Try it'}
      </Button>
      <Theme />
      <Button variant="default" size="compact-sm" onClick={onHelp} aria-label="Help">
        ?
      </Button>
    </header>
  )
}

/** Light or dark: as the system wishes, until one says otherwise. */
function Theme() {
  const { setColorScheme } = useMantineColorScheme()
  const now = useComputedColorScheme('light')
  const other = now === 'light' ? 'dark' : 'light'
  return (
    <ActionIcon
      variant="default"
      aria-label={`Go to the ${other} theme`}
      onClick={() => {
        setColorScheme(other)
      }}
    >
      {now === 'light' ? '☾' : '☀'}
    </ActionIcon>
  )
}

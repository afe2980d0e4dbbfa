import { Button, Menu, Modal, Select, Tabs } from '@mantine/core'
import {
  lazy,
  type ReactNode,
  Suspense,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from 'react'
import type { InteractableSheet, LevelPlay } from 'zintel'
import type { BookNote } from './book/Book.tsx'
import { useCheck, useOthers } from './checking.ts'
import { type Desk, levelFor } from './desk/desk.ts'
import type { Edited } from './desk/edits.ts'
import { freeFile, kindOf, shortName } from './desk/files.ts'
import type { FileChange, Files } from './desk/history.ts'
import { droppedFiles, takeFiles } from './desk/saving.ts'
import { Help } from './Help.tsx'
import { All } from './margin/All.tsx'
import { Compare } from './margin/Compare.tsx'
import { type Finding, keyOf } from './margin/finding.ts'
import { HandOver } from './margin/HandOver.tsx'
import { Needs } from './margin/Needs.tsx'
import { Findings } from './margin/Findings.tsx'
import type { OwnType } from './margin/Machine.tsx'
import { Selection } from './margin/Selection.tsx'
import { Walkthroughs } from './margin/Walkthroughs.tsx'
import type { GripDrag } from './sheet/Grips.tsx'
import { Sheet, type SheetMark } from './sheet/Sheet.tsx'
import type { Spot } from './sheet/view.ts'
import { Strip } from './Strip.tsx'
import { Overlay } from './trial/Overlay.tsx'
import { Player } from './trial/Player.tsx'
import { scriptOf, type ScriptStep } from './trial/script.ts'
import { focusPlan, Tape } from './trial/Tape.tsx'
import { useTrial } from './trial/use-trial.ts'
import { useLook } from './useLook.ts'
import { Welcome } from './Welcome.tsx'
import { reader } from './work/workers.ts'

const Book = lazy(() => import('./book/Book.tsx'))
const edits = () => import('./desk/edits.ts')

type Edits = Awaited<ReturnType<typeof edits>>
type Pane = 'findings' | 'selection' | 'all' | 'needs' | 'walkthroughs' | 'compare' | 'hand-over' | 'player'

const panes: readonly (readonly [Pane, string])[] = [
  ['findings', 'Findings'],
  ['selection', 'Selection'],
  ['all', 'All'],
  ['walkthroughs', 'Walkthroughs'],
  ['needs', 'Needs'],
  ['compare', 'Changes'],
  ['hand-over', 'Hand over'],
]

/** What is tried: a way to begin, and steps that are played, if any. */
interface Tried {
  readonly begin: () => LevelPlay
  readonly steps: readonly ScriptStep[] | null
  /** The text of the level that is tried: it stays the same while one edits on. */
  readonly file: string
}

/** The whole desk: the strip, the text, the sheet and its margin. */
export function Workbench({ desk, keepingTrouble }: { readonly desk: Desk; readonly keepingTrouble: string | null }) {
  const state = useSyncExternalStore(desk.subscribe, desk.snapshot)
  const { files, open } = state
  const file = levelFor(state)
  const looked = useLook(files, open, file)
  const check = useCheck(files, file, looked.level !== null && !looked.isOld)
  const others = useOthers(files, file, !check.running && check.report !== null)
  const [selected, setSelected] = useState<string | null>(null)
  const [chosen, setChosen] = useState<string | null>(null)
  const [pane, setPane] = useState<Pane>('findings')
  const [bookShown, setBookShown] = useState(true)
  const [trouble, setTrouble] = useState<string | null>(null)
  const [isBeginning, setBeginning] = useState(false)
  const [isOpening, setOpening] = useState(false)
  const [isHelping, setHelping] = useState(false)
  const [snap, setSnap] = useState(0.05)
  const [tried, setTried] = useState<Tried | null>(null)
  const trying = useTrial(tried?.begin ?? null, tried?.steps ?? null)
  const [types, setTypes] = useState<readonly string[]>([])
  const [goTo, setGoTo] = useState<readonly [number, number] | null>(null)
  const made = useRef<Edits | null>(null)
  const now = useRef({ files, file, open })
  now.current = { files, file, open }

  useEffect(() => {
    void edits().then((module) => {
      made.current = module
    })
    void reader.types({}, null).then((all) => {
      setTypes(all.map(({ name }) => name))
    })
  }, [])
  // Another level: nothing of the one before is selected, or played.
  useEffect(() => {
    setSelected(null)
    setChosen(null)
    setTried(null)
    setGoTo(null)
    setPane((before) => (before === 'player' ? 'findings' : before))
  }, [file])

  /** Makes a change of the level, as one step of the history. */
  const make = useCallback(
    (says: string, what: (module: Edits, files: Files, file: string) => Edited & { readonly path?: string }): void => {
      void edits().then((module) => {
        const { files: all, file: of } = now.current
        if (of === null) return
        const done = what(module, all, of)
        if (done.changes === null) {
          setTrouble(done.why)
          return
        }
        setTrouble(null)
        desk.change(done.changes, says)
        if (done.path !== undefined) setSelected(done.path)
        const blank = blankIn(done.changes)
        if (!blank) return
        // A line is still to be written: there is no better moment for it.
        setBookShown(true)
        setGoTo(blank)
      })
    },
    [desk],
  )
  const select = useCallback((path: string | null): void => {
    setSelected(path)
    setGoTo(null)
    if (path !== null) setPane((before) => (before === 'all' || before === 'player' ? before : 'selection'))
  }, [])
  const described = useDescribed(files, file, selected, looked.level !== null && !looked.isOld)

  const findings = check.report?.findings ?? []
  const finding = findings.find((one) => keyOf(one) === chosen) ?? null
  const latestFindings = useRef(findings)
  latestFindings.current = findings
  const choose = useCallback((key: string | null): void => {
    setChosen(key)
    setPane('findings')
    setGoTo(null)
    const one = key === null ? undefined : latestFindings.current.find((each) => keyOf(each) === key)
    if (one?.about != null) setSelected(`interactables.${one.about}`)
    else if (one?.place) setSelected(one.place.path.split('.').slice(0, 2).join('.'))
  }, [])
  const marks = useMemo(
    () => (check.isOld ? [] : marksOf(findings, chosen, looked.level?.shapes ?? [])),
    [findings, chosen, looked.level, check.isOld],
  )
  const notes = useMemo(() => {
    const own = (looked.look?.problems ?? []).map((one): BookNote => ({ ...one, severity: 'error' }))
    if (open !== file || check.isOld) return own
    return [...own, ...findings.flatMap((one) => noteOf(one, files[open ?? ''] ?? ''))]
  }, [looked.look, findings, open, file, check.isOld, files])

  const begin = useCallback((steps: readonly ScriptStep[] | null | 'of-finding', of?: Finding['steps']): void => {
    void (async () => {
      const { begun } = await import('./trial/begin.ts')
      const { files: all, file: level } = now.current
      if (level === null) return
      setBeginning(true)
      const { begin: play, why } = await begun(all, level)
      setBeginning(false)
      if (now.current.file !== level) return
      if (play === null) {
        setTrouble(why)
        return
      }
      const script = steps === 'of-finding' ? scriptOf(of ?? [], play().characters) : steps
      setTrouble(null)
      setTried({ begin: play, steps: script, file: level })
      focusPlan()
      setPane((before) => (steps === 'of-finding' ? before : 'player'))
    })()
  }, [])
  const leave = useCallback((): void => {
    setTried(null)
    setPane((before) => (before === 'player' ? 'findings' : before))
  }, [])
  const watch = (name: string): void => {
    void import('./trial/begin.ts').then(({ stepsOfWalkthrough }) => {
      const { steps, why } = stepsOfWalkthrough(files, name, file)
      if (steps === null) setTrouble(why)
      else begin(steps)
    })
  }

  useShortcuts({
    isTrying: trying !== null,
    undo: () => {
      desk.undo()
    },
    redo: () => {
      desk.redo()
    },
    remove: () => {
      if (selected === null) return
      const path = selected
      make(`delete ${path}`, (module, all, of) => module.remove(all, of, path))
      setSelected(null)
    },
    duplicate: () => {
      if (selected === null) return
      const path = selected
      make(`duplicate ${path}`, (module, all, of) => module.duplicate(all, of, path))
    },
    nudge: (by) => {
      if (selected === null) return
      const path = selected
      make(`move ${path}`, (module, all, of) => module.move(all, of, path, [by[0] * snap, by[1] * snap]))
    },
    escape: () => {
      if (trying) leave()
    },
  })
  const drop = useDrop((dropped, why) => {
    if (why !== null) setTrouble(why)
    if (Object.keys(dropped).length > 0) desk.add(dropped, 'open files')
  })
  const onFiles = (added: Files, says: string): void => {
    setOpening(false)
    setTrouble(null)
    desk.add(added, says)
  }
  const onStart = (type: string): void => {
    void import('zintel/yaml').then(({ starterFiles }) => {
      const wanted = freeFile(files, `my-${type}.level.yaml`).replace('.level.yaml', '')
      const all = starterFiles(wanted, type)
      onFiles(
        Object.fromEntries(Object.entries(all).filter(([name]) => name.endsWith('.yaml'))),
        `begin with a ${type}`,
      )
    })
  }
  const welcome = (
    <Welcome onFiles={onFiles} onTrouble={setTrouble} onStart={onStart} types={types.filter((one) => one !== 'lock')} />
  )
  const spanOf = selected === null ? undefined : looked.levelSpans[selected]
  const shown = open === file ? (goTo ?? spanOf ?? null) : null
  const text = open === null ? '' : (files[open] ?? '')
  const level = looked.level
  const liveStates = trying
    ? Object.fromEntries(trying.trial.play.interactables.map((name) => [name, trying.trial.play.state(name)]))
    : {}
  const selectedName = selected?.startsWith('interactables.') ? selected.slice(14) : null
  const liveState = selectedName === null ? null : (liveStates[selectedName] ?? null)

  const machine = useMachine(files, file, selectedName, liveState, described?.machine ?? null)

  const onMove = useCallback(
    (path: string, by: Spot): void => {
      make(`move ${path}`, (module, all, of) => module.move(all, of, path, by))
    },
    [make],
  )
  const onGrip = useCallback(
    (drag: GripDrag, to: Spot): void => {
      make(`change ${drag.path}`, (module, all, of) => gripped(module, all, of, drag, to))
    },
    [make],
  )
  const movesWith = useCallback((path: string): string => {
    const { files: all, file: of } = now.current
    return of === null || !made.current ? path : made.current.moving(all, of, path)
  }, [])

  return (
    <div className={`bench${bookShown ? '' : ' no-book'}`} {...drop}>
      <Strip
        desk={desk}
        state={state}
        isTrying={trying !== null}
        canTry={level !== null && !looked.isOld}
        isBeginning={isBeginning}
        bookShown={bookShown}
        onBook={() => {
          setBookShown(!bookShown)
        }}
        onTry={() => {
          if (trying) leave()
          else begin(null)
        }}
        onOpen={() => {
          setOpening(true)
        }}
        onHelp={() => {
          setHelping(true)
        }}
      />
      {(trouble ?? keepingTrouble) !== null && (
        <div className="banner" role="alert">
          <span>{trouble ?? keepingTrouble}</span>
          {trouble !== null && (
            <Button
              size="compact-xs"
              variant="default"
              onClick={() => {
                setTrouble(null)
              }}
            >
              Understood
            </Button>
          )}
        </div>
      )}
      {open === null ? (
        welcome
      ) : (
        <>
          {bookShown && (
            <section className="book" aria-label="Text">
              <Suspense fallback={<p className="loading">Bringing the text …</p>}>
                <Book
                  file={open}
                  kind={kindOf(open, text)}
                  text={text}
                  level={level}
                  notes={notes}
                  shown={shown}
                  onType={(next) => {
                    desk.write(open, next, `type in ${shortName(open)}`, true)
                  }}
                  onCursor={(at) => {
                    const path = pathAt(looked.levelSpans, at)
                    if (open === file && path !== null && path !== selected) setSelected(path)
                  }}
                  onUndo={() => {
                    desk.undo()
                  }}
                  onRedo={() => {
                    desk.redo()
                  }}
                />
              </Suspense>
            </section>
          )}
          <main className="middle" aria-label="Plan">
            {level && file !== null ? (
              <>
                {!trying && (
                  <Adding
                    level={level}
                    snap={snap}
                    onSnap={setSnap}
                    onAdd={(type, place) => {
                      make(`add a ${type}`, (module, all, of) => module.addThing(all, of, type, place))
                    }}
                  />
                )}
                <Sheet
                  file={file}
                  level={level}
                  covered={looked.covered}
                  isOld={looked.isOld}
                  selected={selected}
                  snap={snap}
                  marks={trying ? [] : marks}
                  trial={
                    trying && {
                      overlay: (scale) => <Overlay trying={trying} scale={scale} />,
                      onWalk: (spot) => {
                        if (!trying.act({ do: 'walk-to', target: spot }))
                          setTrouble('There is no way to that spot now.')
                        else setTrouble(null)
                      },
                    }
                  }
                  onSelect={select}
                  onMove={onMove}
                  onGrip={onGrip}
                  onMark={choose}
                  movesWith={movesWith}
                />
                {trying && <Tape trying={trying} onLeave={leave} />}
              </>
            ) : (
              <Unreadable problems={looked.look?.problems.length ?? null} kind={looked.look?.kind ?? null} />
            )}
          </main>
          <aside className="margin" aria-label="Margin">
            <Tabs
              value={pane}
              onChange={(next) => {
                if (next !== null) setPane(next as Pane)
              }}
              keepMounted={false}
              className="tabs"
            >
              <Tabs.List>
                {trying && <Tabs.Tab value="player">Player</Tabs.Tab>}
                {panes.map(([value, name]) => (
                  <Tabs.Tab key={value} value={value}>
                    {name}
                    {value === 'findings' && findings.length > 0 ? ` ${String(findings.length)}` : ''}
                  </Tabs.Tab>
                ))}
              </Tabs.List>
              <Panel value="player">
                {trying && (
                  <Player
                    trying={trying}
                    level={shortName(file ?? '')}
                    onKeep={(title, written) => {
                      const stem = (file ?? 'level').replace(/\.level\.(?:ya?ml|json)$/, '')
                      const slug =
                        title
                          .toLowerCase()
                          .replaceAll(/[^a-z0-9]+/g, '-')
                          .replaceAll(/^-|-$/g, '') || 'play'
                      const name = freeFile(files, `${stem}.${slug}.walkthrough.yaml`)
                      desk.change([{ file: name, before: null, after: written }], `keep ${shortName(name)}`)
                      leave()
                      setPane('walkthroughs')
                    }}
                  />
                )}
              </Panel>
              <Panel value="findings">
                <Findings
                  check={check}
                  others={others}
                  onOpen={(name) => {
                    desk.look(name)
                  }}
                  chosen={finding ? chosen : null}
                  isBroken={looked.isOld || level === null}
                  onChoose={choose}
                  onPlay={(one) => {
                    begin('of-finding', one.steps)
                  }}
                  onFix={(one, which) => {
                    const edit = which === 'fix' ? one.fix.edit : one.tried[which]?.edit
                    if (edit)
                      make(`fix ${one.rule} of ${one.subject}`, (module, all, of) => module.edit(all, of, [edit]))
                  }}
                  onAccept={(one, because) => {
                    make(`accept ${one.rule} of ${one.subject}`, (module, all, of) =>
                      module.accept(all, of, one, because),
                    )
                  }}
                  onStop={check.stop}
                  onCheck={check.again}
                  onGo={(line) => {
                    if (file === null) return
                    desk.look(file)
                    setBookShown(true)
                    const from = offsetOf(files[file] ?? '', line)
                    setGoTo([from, from + 1])
                  }}
                />
              </Panel>
              <Panel value="selection">
                {level && (
                  <Selection
                    level={level}
                    selected={selected}
                    sheet={described?.sheet ?? null}
                    own={described?.own ?? null}
                    onAppend={(path, value) => {
                      make(`add to ${path}`, (module, all, of) => module.append(all, of, path, value))
                    }}
                    machine={machine}
                    state={liveState}
                    onRename={(path, name) => {
                      make(`rename ${path}`, (module, all, of) => {
                        const renamed = module.rename(all, of, path, name)
                        return path === selected
                          ? { ...renamed, path: `${path.slice(0, path.lastIndexOf('.'))}.${name}` }
                          : renamed
                      })
                    }}
                    onDuplicate={(path) => {
                      make(`duplicate ${path}`, (module, all, of) => module.duplicate(all, of, path))
                    }}
                    onRemove={(path) => {
                      make(`delete ${path}`, (module, all, of) => module.remove(all, of, path))
                      if (path === selected) setSelected(null)
                    }}
                    onTurn={(path, by) => {
                      make(`turn ${path}`, (module, all, of) => module.turn(all, of, path, by))
                    }}
                    onGive={(path, value) => {
                      make(`set ${path}`, (module, all, of) => module.give(all, of, path, value))
                    }}
                    onSelect={select}
                  />
                )}
              </Panel>
              <Panel value="all">
                {level && <All level={level} selected={selected} states={liveStates} onSelect={select} />}
              </Panel>
              <Panel value="walkthroughs">
                {file !== null && (
                  <Walkthroughs
                    files={files}
                    file={file}
                    onOpen={(name) => {
                      desk.look(name)
                    }}
                    onWatch={watch}
                  />
                )}
              </Panel>
              <Panel value="needs">{level && file !== null && <Needs level={level} files={files} file={file} />}</Panel>
              <Panel value="compare">{file !== null && <Compare desk={desk} state={state} file={file} />}</Panel>
              <Panel value="hand-over">
                {file !== null && (
                  <HandOver
                    desk={desk}
                    state={state}
                    file={file}
                    report={check.isOld ? null : check.report}
                    onTrouble={setTrouble}
                  />
                )}
              </Panel>
            </Tabs>
          </aside>
        </>
      )}
      <Modal
        opened={isOpening}
        onClose={() => {
          setOpening(false)
        }}
        size="xl"
        title="Open, or begin another"
        closeButtonProps={{ 'aria-label': 'Close' }}
      >
        {welcome}
      </Modal>
      <Help
        opened={isHelping}
        onClose={() => {
          setHelping(false)
        }}
      />
    </div>
  )
}

function Panel({ value, children }: { readonly value: Pane; readonly children: ReactNode }) {
  return (
    <Tabs.Panel value={value} className="panel" tabIndex={0}>
      {children}
    </Tabs.Panel>
  )
}

/** In place of the sheet, where there is nothing that could be drawn. */
function Unreadable({ problems, kind }: { readonly problems: number | null; readonly kind: string | null }) {
  if (problems === null)
    return (
      <p className="loading" role="status">
        Reading …
      </p>
    )
  return (
    <div className="unreadable">
      <h2>There is nothing to draw yet</h2>
      <p>
        {kind === 'level' || kind === null
          ? `The text has ${problems === 1 ? 'a mistake' : `${String(problems)} mistakes`}: each is marked in it, with what was expected there.`
          : 'This file is no level, and no level on the desk belongs to it.'}
      </p>
    </div>
  )
}

interface AddingProps {
  readonly level: {
    readonly types: readonly string[]
    readonly doorways: readonly string[]
    readonly shapes: readonly { readonly kind: string }[]
  }
  readonly snap: number
  readonly onSnap: (snap: number) => void
  readonly onAdd: (type: string, place: { at: Spot } | { in: string }) => void
}

/** Adding a thing, and the grid that dragging keeps to. */
function Adding({ level, snap, onSnap, onAdd }: AddingProps) {
  const room = level.shapes.find((one): one is { kind: 'room'; outline: readonly Spot[] } => one.kind === 'room')
  const middle = room?.outline.reduce<Spot>(
    ([x, y], [east, north]) => [x + east / room.outline.length, y + north / room.outline.length],
    [0, 0],
  ) ?? [1, 1]
  return (
    <div className="adding">
      <Menu position="bottom-start" shadow="sm">
        <Menu.Target>
          <Button size="compact-sm" variant="default">
            + Add ▾
          </Button>
        </Menu.Target>
        <Menu.Dropdown mah={420} style={{ overflowY: 'auto' }}>
          <Menu.Label>In the middle of the first room: drag it from there</Menu.Label>
          {level.types
            .filter((type) => type !== 'door')
            .map((type) => (
              <Menu.Item
                key={type}
                onClick={() => {
                  onAdd(type, { at: middle })
                }}
              >
                {type}
              </Menu.Item>
            ))}
          <Menu.Label>A door, in a doorway</Menu.Label>
          {level.doorways.map((doorway) => (
            <Menu.Item
              key={doorway}
              onClick={() => {
                onAdd('door', { in: doorway })
              }}
            >
              door in {doorway}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
      <Select
        size="xs"
        w={120}
        aria-label="The grid that dragging keeps to"
        data={[
          { value: '0.01', label: 'grid 1 cm' },
          { value: '0.05', label: 'grid 5 cm' },
          { value: '0.1', label: 'grid 10 cm' },
          { value: '0.25', label: 'grid 25 cm' },
          { value: '0.5', label: 'grid 50 cm' },
        ]}
        value={String(snap)}
        allowDeselect={false}
        onChange={(value) => {
          onSnap(Number(value))
        }}
      />
    </div>
  )
}

interface Described {
  readonly sheet: InteractableSheet
  readonly machine: string
  readonly own: OwnType | null
  /** The path of what it is about. */
  readonly of: string
}

/** What is to be said of the thing that is selected, and its machine. */
function useDescribed(
  files: Files,
  file: string | null,
  selected: string | null,
  canBeRead: boolean,
): Described | null {
  const [described, setDescribed] = useState<Described | null>(null)
  useEffect(() => {
    if (file === null || !canBeRead || !selected?.startsWith('interactables.')) {
      if (!selected?.startsWith('interactables.')) setDescribed(null)
      return
    }
    let isWanted = true
    reader.describe(files, file, selected.slice(14)).then(
      (answer) => {
        if (isWanted) setDescribed({ ...answer, of: selected })
      },
      () => {
        if (isWanted) setDescribed(null)
      },
    )
    return () => {
      isWanted = false
    }
  }, [files, file, selected, canBeRead])
  return described?.of === selected ? described : null
}

/** The machine with the state lit that it is in, where one tries the level. */
function useMachine(
  files: Files,
  file: string | null,
  name: string | null,
  state: string | null,
  plain: string | null,
): string | null {
  const [lit, setLit] = useState<{ readonly key: string; readonly svg: string } | null>(null)
  const key = `${String(name)} ${String(state)}`
  useEffect(() => {
    if (file === null || name === null || state === null) return
    let isWanted = true
    reader.machine(files, file, name, state).then(
      (svg) => {
        if (isWanted) setLit({ key, svg })
      },
      () => undefined,
    )
    return () => {
      isWanted = false
    }
  }, [files, file, name, state, key])
  return state !== null && lit?.key === key ? lit.svg : plain
}

/** Where a change has put a text that is still to be written; null: nowhere. */
function blankIn(changes: readonly FileChange[]): readonly [number, number] | null {
  for (const { before, after } of changes) {
    const all = [...(after ?? '').matchAll(/\(say here:[^)"]*\)?/g)]
    const fresh = all.find(({ index }) => before?.slice(index, index + 10) !== '(say here:')
    if (fresh) return [fresh.index, fresh.index + fresh[0].length]
  }
  return null
}

function gripped(module: Edits, files: Files, file: string, drag: GripDrag, to: Spot): Edited {
  switch (drag.is) {
    case 'corner':
      return module.moveCorner(files, file, drag.path, drag.corner, to)
    case 'range':
      return module.give(
        files,
        file,
        `${drag.path}.range.radius`,
        module.rounded(Math.max(0.1, Math.hypot(to[0] - drag.middle[0], to[1] - drag.middle[1]))),
      )
    case 'zone':
      return module.give(
        files,
        file,
        `${drag.path}.zones.${drag.zone}.radius`,
        module.rounded(Math.max(0.1, Math.hypot(to[0] - drag.middle[0], to[1] - drag.middle[1]))),
      )
    case 'turn': {
      const angle = (Math.atan2(to[1] - drag.middle[1], to[0] - drag.middle[0]) * 180) / Math.PI
      return module.give(files, file, `${drag.path}.facing`, (Math.round(angle / 5) * 5 + 360) % 360)
    }
  }
}

/** Numbers of findings, at what they are about; of the one that is chosen, the spots that show it too. */
function marksOf(
  findings: readonly Finding[],
  chosen: string | null,
  shapes: readonly { readonly kind: string; readonly name: string }[],
): SheetMark[] {
  const at = (name: string): Spot | null => {
    const shape = shapes.find(
      (one): one is { kind: 'handle'; name: string; at: Spot } => one.kind === 'handle' && one.name === name,
    )
    return shape?.at ?? null
  }
  const taken = new Map<string, number>()
  return findings.flatMap((one, i): SheetMark[] => {
    const key = keyOf(one)
    const isChosen = key === chosen
    const own = one.about === null ? null : at(one.about)
    const spots = isChosen ? one.spots : own ? [] : one.spots.slice(0, 1)
    const all = [...(own ? [{ at: own, text: '' }] : []), ...spots]
    return all.map((spot) => {
      const place = JSON.stringify(spot.at)
      const before = taken.get(place) ?? 0
      taken.set(place, before + 1)
      return { key, at: spot.at, text: String(i + 1), says: spot.text, isChosen, sign: one.severity, shift: before }
    })
  })
}

function noteOf({ place, severity, message, rule }: Finding, text: string): BookNote[] {
  if (place?.line == null) return []
  const from = offsetOf(text, place.line) + (place.column ?? 1) - 1
  const word = /^[^\s,\]}:]+/.exec(text.slice(from, from + 200))?.[0].length ?? 1
  return [
    { from, to: from + word, severity: severity === 'advice' ? 'info' : severity, message: `${rule}: ${message}` },
  ]
}

function offsetOf(text: string, line: number): number {
  let from = 0
  for (let at = 1; at < line; at++) from = text.indexOf('\n', from) + 1
  return from
}

/** The part that a position in the text belongs to; null: none. */
function pathAt(spans: Readonly<Record<string, readonly [number, number]>>, at: number): string | null {
  return (
    Object.entries(spans).find(
      ([path, [from, to]]) =>
        at >= from && at <= to && /^(?:rooms|doorways|obstacles|places|interactables|characters)\./.test(path),
    )?.[0] ?? null
  )
}

interface Shortcuts {
  readonly isTrying: boolean
  readonly undo: () => void
  readonly redo: () => void
  readonly remove: () => void
  readonly duplicate: () => void
  readonly nudge: (by: Spot) => void
  readonly escape: () => void
}

const nudges: Readonly<Record<string, Spot>> = {
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
}

/** Keys for everything on the desk; those of text fields stay their own. */
function useShortcuts(all: Shortcuts): void {
  const latest = useRef(all)
  latest.current = all
  useEffect(() => {
    const down = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement
      const does = latest.current
      if (target.closest('input, textarea, select, .cm-editor, [role=dialog], [role=menu], [role=tab]')) return
      const isCommand = event.ctrlKey || event.metaKey
      if (isCommand && event.key.toLowerCase() === 'z') (event.shiftKey ? does.redo : does.undo)()
      else if (isCommand && event.key.toLowerCase() === 'y') does.redo()
      else if (isCommand && event.key.toLowerCase() === 'd' && !does.isTrying) does.duplicate()
      else if (event.key === 'Escape') {
        does.escape()
        return
      } else if (does.isTrying || isCommand) return
      else if (event.key === 'Delete' || event.key === 'Backspace') does.remove()
      else if (nudges[event.key] && target.closest('.sheet')) does.nudge(nudges[event.key]!)
      else return
      event.preventDefault()
    }
    window.addEventListener('keydown', down)
    return () => {
      window.removeEventListener('keydown', down)
    }
  }, [])
}

/** Files and folders that are dragged in. */
function useDrop(onFiles: (files: Files, why: string | null) => void) {
  return {
    onDragOver: (event: React.DragEvent): void => {
      if (event.dataTransfer.types.includes('Files')) event.preventDefault()
    },
    onDrop: (event: React.DragEvent): void => {
      if (!event.dataTransfer.types.includes('Files')) return
      event.preventDefault()
      void droppedFiles(event.dataTransfer)
        .then(takeFiles)
        .then(({ files, refused }) => {
          const isEmpty = Object.keys(files).length === 0 && refused.length === 0
          onFiles(
            files,
            isEmpty ? 'There is no YAML or JSON file in it.' : refused.length > 0 ? refused.join(' ') : null,
          )
        })
    },
  }
}

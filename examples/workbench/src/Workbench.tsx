import { Button, Tabs } from '@mantine/core'
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
import type { PlanChange, PlanGrip } from 'zintel/draw'
import { useCheck, useOthers } from './checking.ts'
import { type Desk, levelFor } from './desk/desk.ts'
import type { Edited } from './desk/edits.ts'
import { freeFile, kindOf, shortName } from './desk/files.ts'
import type { Files } from './desk/history.ts'
import { Help } from './Help.tsx'
import { Opening, OpeningModal } from './Opening.tsx'
import { All } from './margin/All.tsx'
import { Compare } from './margin/Compare.tsx'
import { keyOf } from './margin/finding.ts'
import { HandOver } from './margin/HandOver.tsx'
import { Needs } from './margin/Needs.tsx'
import { Findings } from './margin/Findings.tsx'
import { Selection } from './margin/Selection.tsx'
import { Walkthroughs } from './margin/Walkthroughs.tsx'
import { Sheet } from './sheet/Sheet.tsx'
import type { Spot } from './sheet/view.ts'
import { Adding } from './sheet/Adding.tsx'
import { useDescribed, useMachine } from './margin/described.ts'
import { blankIn, type BookNote, marksOf, noteOf, offsetOf, pathAt } from './marking.ts'
import { useDrop, useShortcuts } from './desk/keys.ts'
import { Strip } from './Strip.tsx'
import { Overlay } from './trial/Overlay.tsx'
import { Player } from './trial/Player.tsx'
import { Tape } from './trial/Tape.tsx'
import { type Showing, useTrying } from './trial/use-trying.ts'
import { useLook } from './useLook.ts'

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

/** The whole desk: the strip, the text, the sheet and its margin. */
export function Workbench({ desk, keepingTrouble }: { readonly desk: Desk; readonly keepingTrouble: string | null }) {
  const state = useSyncExternalStore(desk.subscribe, desk.snapshot)
  const { files, open } = state
  const file = levelFor(state)
  const looked = useLook(files, open, file)
  const check = useCheck(files, file, looked.level !== null && !looked.isOld)
  const others = useOthers(files, file, looked.level !== null && !looked.isOld)
  const [selected, setSelected] = useState<string | null>(null)
  const [chosen, setChosen] = useState<string | null>(null)
  const [pane, setPane] = useState<Pane>('findings')
  const [bookShown, setBookShown] = useState(true)
  const [trouble, setTrouble] = useState<string | null>(null)
  const [isOpening, setOpening] = useState(false)
  const [isHelping, setHelping] = useState(false)
  const [snap, setSnap] = useState(0.05)
  const [goTo, setGoTo] = useState<readonly [number, number] | null>(null)
  const made = useRef<Edits | null>(null)
  const now = useRef({ files, file, open })
  now.current = { files, file, open }
  const onBegun = useCallback((of: Showing | null): void => {
    setPane((before) => (of === null ? 'player' : before))
  }, [])
  const { trying, isBeginning, begin, watch, stop } = useTrying(now, { onTrouble: setTrouble, onBegun })

  useEffect(() => {
    void edits().then((module) => {
      made.current = module
    })
  }, [])
  /** What is selected in the level that is opened next. */
  const selectNext = useRef<string | null>(null)
  // Another level: nothing of the one before is selected, or played.
  useEffect(() => {
    setSelected(selectNext.current)
    selectNext.current = null
    setChosen(null)
    stop()
    setGoTo(null)
    setPane((before) => (before === 'player' ? 'findings' : before))
  }, [file, stop])

  /** Makes a change of the level, as one step of the history. */
  const make = useCallback(
    (says: string, what: (module: Edits, files: Files, file: string) => Edited & { readonly path?: string }): void => {
      void edits().then((module) => {
        // As the desk is at this moment: what was changed since the page was drawn is not lost.
        const of = levelFor(desk.state)
        if (of === null) return
        const done = what(module, desk.state.files, of)
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

  const leave = useCallback((): void => {
    stop()
    setPane((before) => (before === 'player' ? 'findings' : before))
  }, [stop])
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
  const opening = {
    desk,
    files,
    onTrouble: setTrouble,
    onDone: () => {
      setOpening(false)
    },
  }
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
    (grip: PlanGrip, changes: readonly PlanChange[]): void => {
      make(`${grip.says} of ${grip.path}`, (module, all, of) => module.giveAll(all, of, changes))
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
        <Opening {...opening} />
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
                    begin(null, { report: check.report, steps: one.steps })
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
                    onShowPlace={(other, place) => {
                      selectNext.current = `places.${place}`
                      desk.look(other)
                    }}
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
      <OpeningModal isOpen={isOpening} {...opening} />
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

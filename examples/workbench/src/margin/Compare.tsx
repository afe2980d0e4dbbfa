import { Button } from '@mantine/core'
import { useEffect, useMemo, useState } from 'react'
import type { FileReport } from 'zintel'
import type { Desk, DeskState } from '../desk/desk.ts'
import type { Files } from '../desk/history.ts'
import { reportOf } from '../background/workers.ts'
import { type Differences, differences, type Finding, signs } from './finding.ts'

interface CompareProps {
  readonly desk: Desk
  readonly state: DeskState
  readonly file: string
}

/** What changed since the file was opened, or since comparing began: lines, states, and findings that came and went. */
export function Compare({ desk, state, file }: CompareProps) {
  const before = state.baseline[file] ?? null
  const now = state.files[file] ?? ''
  const [old = null, report = null] = useReports(
    state.files,
    file,
    before === null || before === now ? [] : [before, now],
  )
  const lines = useMemo(() => (before === null ? [] : lineChanges(before, now)), [before, now])
  const found: Differences | null = old && report ? differences(old, report) : null
  return (
    <section aria-label="Compare" className="compare">
      <header className="pane-head">
        <h2>Since it was opened</h2>
        <Button
          size="compact-sm"
          variant="default"
          onClick={() => {
            desk.compareFromHere(file)
          }}
        >
          Compare from here
        </Button>
      </header>
      {before === now && <p className="hint">The text is as it was.</p>}
      {before !== now && (
        <>
          <h3>Findings</h3>
          {!found && (
            <p className="hint" role="status">
              Checking how it was, and how it is …
            </p>
          )}
          {found && (
            <>
              <p data-testid="differences">
                {found.went.length} gone, {found.came.length} new, {found.stayed} as before.
              </p>
              <List title="Gone" sign="✓" all={found.went} />
              <List title="New" sign="" all={found.came} />
            </>
          )}
          {old && report && <States before={old} after={report} />}
          <h3>Lines</h3>
          <pre className="diff" aria-label="Lines that changed">
            {lines.map(({ line, was, becomes }) => (
              <span key={line}>
                <span className="hint">{`line ${String(line)}\n`}</span>
                {was.map((text, i) => (
                  <del key={`- ${String(i)}`}>{`− ${text}\n`}</del>
                ))}
                {becomes.map((text, i) => (
                  <ins key={`+ ${String(i)}`}>{`+ ${text}\n`}</ins>
                ))}
              </span>
            ))}
          </pre>
        </>
      )}
    </section>
  )
}

function List({
  title,
  sign,
  all,
}: {
  readonly title: string
  readonly sign: string
  readonly all: readonly Finding[]
}) {
  if (all.length === 0) return null
  return (
    <ul aria-label={title} className="came-went">
      {all.map((one) => (
        <li key={`${one.rule} ${one.subject}`}>
          <span aria-hidden="true">{sign === '' ? signs[one.severity] : sign}</span> {title}: <code>{one.rule}</code>{' '}
          {one.subject}
        </li>
      ))}
    </ul>
  )
}

/** How many situations, moves and questions there were, and are. */
function States({ before, after }: { readonly before: FileReport; readonly after: FileReport }) {
  const rows = [
    ['Situations', before.counts.situations, after.counts.situations],
    ['Moves', before.counts.moves, after.counts.moves],
    ['Questions undecided', before.counts.undecided, after.counts.undecided],
  ] as const
  const margins = (after.margins ?? []).map((one) => {
    const old = before.margins?.find(({ goal }) => goal === one.goal)
    return [`Seconds to spare, ${one.goal}`, old?.spare ?? null, one.spare] as const
  })
  return (
    <table className="numbers">
      <thead>
        <tr>
          <th scope="col">What</th>
          <th scope="col">before</th>
          <th scope="col">now</th>
        </tr>
      </thead>
      <tbody>
        {[...rows, ...margins].map(([name, was, is]) => (
          <tr key={name} className={was === is ? '' : 'changed'}>
            <th scope="row">{name}</th>
            <td>{was?.toLocaleString('en') ?? '—'}</td>
            <td>{is?.toLocaleString('en') ?? '—'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** The reports of texts of a level; each is made once. */
function useReports(files: Files, file: string, texts: readonly string[]): readonly (FileReport | null)[] {
  const [known, setKnown] = useState<ReadonlyMap<string, FileReport>>(new Map())
  const wanted = texts.find((text) => !known.has(text))
  useEffect(() => {
    if (wanted === undefined) return
    let isWanted = true
    // What is typed has a moment to settle.
    const timer = window.setTimeout(() => {
      void reportOf({ ...files, [file]: wanted }, file).then((report) => {
        if (isWanted && report) setKnown((before) => new Map([...before].slice(-3)).set(wanted, report))
      })
    }, 400)
    return () => {
      isWanted = false
      window.clearTimeout(timer)
    }
    // The other files are as they are now.
  }, [wanted, file])
  return texts.map((text) => known.get(text) ?? null)
}

interface LineChange {
  /** The number of the first line, from 1, in the text as it is now. */
  readonly line: number
  readonly was: readonly string[]
  readonly becomes: readonly string[]
}

/** The lines that differ between two texts, in pieces: told by the longest common subsequence of their lines (Wagner and Fischer, 1974). */
export function lineChanges(before: string, after: string): LineChange[] {
  const [a, b] = [before.split('\n'), after.split('\n')]
  let start = 0
  while (start < a.length && start < b.length && a[start] === b[start]) start++
  let end = 0
  while (end < a.length - start && end < b.length - start && a[a.length - 1 - end] === b[b.length - 1 - end]) end++
  const [left, right] = [a.slice(start, a.length - end), b.slice(start, b.length - end)]
  if (left.length === 0 && right.length === 0) return []
  // Long stretches that have nothing in common are told as one piece.
  if (left.length * right.length > 4_000_000) return [{ line: start + 1, was: left, becomes: right }]
  const common = table(left, right)
  const pieces: { line: number; was: string[]; becomes: string[] }[] = []
  let [i, j] = [0, 0]
  let piece: (typeof pieces)[number] | null = null
  while (i < left.length || j < right.length) {
    if (i < left.length && j < right.length && left[i] === right[j]) {
      piece = null
      i++
      j++
      continue
    }
    if (!piece) pieces.push((piece = { line: start + j + 1, was: [], becomes: [] }))
    const down = i < left.length ? common[(i + 1) * (right.length + 1) + j]! : -1
    const across = j < right.length ? common[i * (right.length + 1) + j + 1]! : -1
    if (down >= across) piece.was.push(left[i++]!)
    else piece.becomes.push(right[j++]!)
  }
  return pieces
}

/** For each pair of rests of two lists of lines, how many lines they have in common, in order. */
function table(left: readonly string[], right: readonly string[]): Uint32Array {
  const wide = right.length + 1
  const common = new Uint32Array((left.length + 1) * wide)
  for (let i = left.length - 1; i >= 0; i--) {
    for (let j = right.length - 1; j >= 0; j--) {
      common[i * wide + j] =
        left[i] === right[j]
          ? common[(i + 1) * wide + j + 1]! + 1
          : Math.max(common[(i + 1) * wide + j]!, common[i * wide + j + 1]!)
    }
  }
  return common
}

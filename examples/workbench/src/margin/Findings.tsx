import { Button, Progress, Textarea } from '@mantine/core'
import { type ReactNode, useEffect, useRef, useState, useSyncExternalStore } from 'react'
import type { FileReport } from 'zintel'
import type { CheckProgress, CheckState, OtherLevel } from '../checking.ts'
import { countText, type Finding, keyOf, signs } from './finding.ts'

type Following = Finding['follows'][number]

interface FindingsProps {
  readonly check: CheckState & { readonly progress: CheckProgress }
  /** The other levels on the desk. */
  readonly others: readonly OtherLevel[]
  readonly onOpen: (file: string) => void
  readonly chosen: string | null
  /** Whether the text cannot be read, so that there is nothing to check. */
  readonly isBroken: boolean
  readonly onChoose: (key: string | null) => void
  readonly onPlay: (finding: Finding | Following) => void
  readonly onFix: (finding: Finding, which: 'fix' | number) => void
  readonly onAccept: (finding: Finding, because: string) => void
  readonly onStop: () => void
  readonly onCheck: () => void
  readonly onGo: (line: number, path: string) => void
}

/** What the check found: numbered as on the plan, one card for each cause. */
export function Findings(props: FindingsProps) {
  const { check, chosen, isBroken, onStop, onCheck } = props
  const { report } = check
  return (
    <section aria-label="Findings" className="findings">
      <header className="pane-head">
        <h2 data-testid="count">{report ? countText(report.findings) : 'Not checked yet'}</h2>
        {check.running ? (
          <Button size="compact-sm" variant="default" onClick={onStop}>
            Stop
          </Button>
        ) : (
          <Button size="compact-sm" variant="default" onClick={onCheck} disabled={isBroken}>
            Check again
          </Button>
        )}
      </header>
      <Status {...props} />
      {report?.findings.length === 0 && !check.running && check.isWhole && (
        <div className="done" data-testid="clean">
          <p>
            <strong>✓ Nothing is wrong with it, as far as was asked.</strong>
          </p>
          <Settled report={report} />
        </div>
      )}
      <ol>
        {report?.findings.map((finding, i) => (
          <Card key={keyOf(finding)} {...props} finding={finding} number={i + 1} isChosen={keyOf(finding) === chosen} />
        ))}
      </ol>
      {report && report.accepted.length > 0 && (
        <details className="accepted">
          <summary>{report.accepted.length} accepted</summary>
          {report.accepted.map((one) => (
            <p key={keyOf(one)}>
              <code>{one.rule}</code> {one.subject}: {one.because}
            </p>
          ))}
        </details>
      )}
      {report && report.findings.length > 0 && <Settled report={report} />}
      <Others {...props} />
    </section>
  )
}

function Status({ check, isBroken }: FindingsProps) {
  const { running, report, trouble, isWhole, isOld } = check
  if (trouble !== null)
    return (
      <p className="trouble" role="alert">
        {trouble}
      </p>
    )
  if (isBroken)
    return (
      <p className="hint">
        The text cannot be read as it is: what is wrong is marked in it. These are the last answers.
      </p>
    )
  if (running) return <Running progress={check.progress} isFirst={report !== null && !isOld && !isWhole} />
  if (isOld && report) return <p className="hint">These answers are for an earlier text.</p>
  if (!report) return <p className="hint">The check begins as soon as there is a level that can be read.</p>
  return (
    <p className="hint" data-testid="checked">
      Checked in {(check.ms / 1000).toFixed(1)} s.
    </p>
  )
}

/** How far the check has come. */
function Running({ progress, isFirst }: { readonly progress: CheckProgress; readonly isFirst: boolean }) {
  const { share, says } = useSyncExternalStore(progress.subscribe, progress.snapshot)
  return (
    <div className="running" role="status" data-testid="running">
      <Progress value={share * 100} size="sm" aria-label="How far the check has come" />
      <p className="hint">
        {says}
        {isFirst ? ' First answers are below; they are still being grouped by cause.' : ''}
      </p>
    </div>
  )
}

/** What is found in the other levels on the desk. */
function Others({ others, onOpen }: FindingsProps) {
  if (others.length === 0) return null
  return (
    <div className="others">
      <h3>The other levels on the desk</h3>
      <ul>
        {others.map(({ file, report }) => (
          <li key={file} data-testid={`other-${file}`}>
            <button
              type="button"
              className="link"
              onClick={() => {
                onOpen(file)
              }}
            >
              {report?.title ?? file}
            </button>{' '}
            <span className="hint">
              {report === null
                ? 'not checked yet'
                : report.outcome === 'unusable'
                  ? '▲ cannot be read'
                  : report.findings.length === 0
                    ? '✓ nothing found'
                    : countText(report.findings)}
            </span>
          </li>
        ))}
      </ul>
    </div>
  )
}

/** What was asked, and how it was answered. */
function Settled({ report }: { readonly report: FileReport }) {
  const { found, ruledOut, undecided } = report.counts
  const open = report.questions.filter(({ answer }) => answer === 'undecided')
  return (
    <details className="settled">
      <summary>
        {found + ruledOut + undecided} questions, {ruledOut} ruled out, {undecided} undecided
      </summary>
      {report.account.map((line) => (
        <p key={line}>{line}</p>
      ))}
      {open.map((one) => (
        <p key={`${one.rule} ${one.subject}`}>
          Undecided: <code>{one.rule}</code> {one.subject}: {one.why}
        </p>
      ))}
    </details>
  )
}

function Card(
  props: FindingsProps & { readonly finding: Finding; readonly number: number; readonly isChosen: boolean },
) {
  const { finding, number, isChosen, onChoose } = props
  const card = useRef<HTMLLIElement>(null)
  useEffect(() => {
    if (isChosen) card.current?.scrollIntoView({ block: 'nearest' })
  }, [isChosen])
  const key = keyOf(finding)
  return (
    <li
      ref={card}
      className={`card ${finding.severity}${isChosen ? ' chosen' : ''}`}
      data-testid={`finding-${finding.rule}-${finding.subject}`}
    >
      <button
        type="button"
        className="card-head"
        aria-expanded={isChosen}
        onClick={() => {
          onChoose(isChosen ? null : key)
        }}
      >
        <span className="number">{number}</span>
        <span className="what">
          <span className="rule">
            <span aria-hidden="true">{signs[finding.severity]}</span> {finding.severity} · {finding.rule} ·{' '}
            <b>{finding.subject}</b>
          </span>
          <span className="says">{finding.headline ?? finding.message}</span>
        </span>
      </button>
      {isChosen && <Details {...props} />}
    </li>
  )
}

function Details({ finding, onPlay, onFix, onAccept, onGo }: FindingsProps & { readonly finding: Finding }) {
  const { place, fix, tried } = finding
  return (
    <div className="details">
      {finding.headline !== null && <p>{finding.message}</p>}
      {finding.also.length > 0 && <p className="hint">The same of: {finding.also.join(', ')}.</p>}
      <Steps finding={finding} onPlay={onPlay} />
      {finding.table.length > 0 && (
        <table className="siblings">
          <tbody>
            {finding.table.map(({ value, instances }) => (
              <tr key={value ?? '—'}>
                <td>
                  <code>{value ?? 'nothing'}</code>
                </td>
                <td>{instances.join(', ')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Change
        says={fix.says}
        lines={fix.lines}
        make={
          fix.edit && (
            <Button
              size="compact-sm"
              onClick={() => {
                onFix(finding, 'fix')
              }}
            >
              Fix it
            </Button>
          )
        }
      />
      {tried.map((one, i) => (
        <Change
          key={one.says}
          says={one.says}
          lines={one.lines}
          make={
            <Button
              size="compact-sm"
              variant="default"
              onClick={() => {
                onFix(finding, i)
              }}
            >
              Try this change
            </Button>
          }
        />
      ))}
      {finding.follows.length > 0 && (
        <div className="follows">
          <h3>Gone with it</h3>
          <ul>
            {finding.follows.map((one) => (
              <li key={keyOf(one)}>
                <code>{one.rule}</code> {one.message}
                {one.steps.length > 0 && (
                  <Button
                    size="compact-xs"
                    variant="subtle"
                    onClick={() => {
                      onPlay(one)
                    }}
                  >
                    Play it
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </div>
      )}
      <div className="row">
        {place?.line != null && (
          <Button
            size="compact-sm"
            variant="subtle"
            onClick={() => {
              onGo(place.line ?? 1, place.path)
            }}
          >
            Line {place.line}
          </Button>
        )}
        <Accept
          onAccept={(because) => {
            onAccept(finding, because)
          }}
        />
      </div>
    </div>
  )
}

function Steps({ finding, onPlay }: { readonly finding: Finding; readonly onPlay: FindingsProps['onPlay'] }) {
  const { steps, lastSafe } = finding
  if (steps.length === 0) return null
  return (
    <>
      <ol className="steps">
        {steps.map(({ text }, i) => (
          <li key={`${String(i)} ${text}`}>{text}</li>
        ))}
      </ol>
      {lastSafe && (
        <p className="hint">
          {lastSafe.after === 0 ? 'At the start' : `After step ${String(lastSafe.after)}`} all was still well.
        </p>
      )}
      <Button
        size="compact-sm"
        onClick={() => {
          onPlay(finding)
        }}
      >
        ▶ Play the steps
      </Button>
    </>
  )
}

interface ChangeProps {
  readonly says: string
  readonly lines: Finding['fix']['lines']
  readonly make: ReactNode
}

/** A change of the text: in words, and as the lines that it takes away and puts there. */
function Change({ says, lines, make }: ChangeProps) {
  return (
    <div className="change">
      <p>{says}</p>
      {lines && (
        <pre aria-label="The lines that change">
          {lines.was.map((line, i) => (
            <del key={`- ${String(i)}`}>{`− ${line}\n`}</del>
          ))}
          {lines.becomes.map((line, i) => (
            <ins key={`+ ${String(i)}`}>{`+ ${line}\n`}</ins>
          ))}
        </pre>
      )}
      {make}
    </div>
  )
}

/** Accepting takes a reason. */
function Accept({ onAccept }: { readonly onAccept: (because: string) => void }) {
  const [because, setBecause] = useState<string | null>(null)
  if (because === null)
    return (
      <Button
        size="compact-sm"
        variant="subtle"
        onClick={() => {
          setBecause('')
        }}
      >
        It is meant so…
      </Button>
    )
  return (
    <form
      className="accept"
      onSubmit={(event) => {
        event.preventDefault()
        if (because.trim() !== '') onAccept(because.trim())
      }}
    >
      <Textarea
        label="Why it is meant so"
        autosize
        minRows={1}
        value={because}
        data-autofocus
        onChange={(event) => {
          setBecause(event.currentTarget.value)
        }}
      />
      <div className="row">
        <Button size="compact-sm" type="submit" disabled={because.trim() === ''}>
          Accept it
        </Button>
        <Button
          size="compact-sm"
          variant="subtle"
          onClick={() => {
            setBecause(null)
          }}
        >
          Cancel
        </Button>
      </div>
    </form>
  )
}

import type { FileReport, Finding, FollowingFinding, ReportStep, Severity } from '../findings/index.ts'
import { escaped } from '../model/index.ts'

/** What a page says beside the reports. */
export interface HtmlExtras {
  /** The plan of each level as SVG, by the file of its report; a level without one has no picture. */
  readonly plans?: ReadonlyMap<string, string> | undefined
}

const signs: Readonly<Record<Severity, string>> = { error: '▲', warning: '■', advice: '○' }

/**
 * Check reports as one HTML page (HTML Living Standard) that needs nothing else: no script, no network, light and dark as the reader's
 * system wishes. Names and texts of levels are never markup in it. Without reports, the page says that nothing was checked.
 */
export function htmlText(reports: readonly FileReport[], { plans = new Map() }: HtmlExtras = {}): string {
  const title = reports.length === 1 ? (reports[0]!.title ?? reports[0]!.file) : `${String(reports.length)} levels`
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; img-src data:">
<title>${escaped(title)}: what Zintel found</title>
<style>${style}</style>
</head>
<body>
<main>
${reports.length === 0 ? '<p>Nothing was checked.</p>' : ''}${reports.length > 1 ? overview(reports) : ''}${reports
    .map((report, i) => section(report, i, plans.get(report.file) ?? null))
    .join('\n')}
</main>
</body>
</html>
`
}

/** Marks for a plan: the number of each finding at what it is about. Findings that are about nothing on the ground have none. */
export function numberedMarks(
  findings: readonly Finding[],
): { readonly at: string | readonly [number, number]; readonly text: string }[] {
  const numbers = new Map<string, string[]>()
  for (const [i, { about, spots }] of findings.entries()) {
    const at = about ?? (spots[0] ? JSON.stringify(spots[0].at) : null)
    if (at !== null) numbers.set(at, [...(numbers.get(at) ?? []), String(i + 1)])
  }
  return [...numbers].map(([at, own]) => ({
    at: at.startsWith('[') ? (JSON.parse(at) as [number, number]) : at,
    text: own.join(', '),
  }))
}

/** Of several levels: a line for each, to go to. */
function overview(reports: readonly FileReport[]): string {
  const rows = reports.map(
    (report, i) =>
      `<tr><td><a href="#level-${String(i)}">${escaped(report.title ?? report.file)}</a></td><td>${escaped(report.file)}</td><td>${escaped(countText(report))}</td></tr>`,
  )
  return `<h1>What Zintel found</h1>\n<table><thead><tr><th>Level</th><th>File</th><th>Found</th></tr></thead><tbody>${rows.join('')}</tbody></table>\n`
}

function countText({ outcome, findings }: FileReport): string {
  if (outcome === 'unusable') return 'could not be read'
  if (outcome === 'interrupted') return 'interrupted'
  const parts = (['error', 'warning', 'advice'] as const).flatMap((severity) => {
    const count = findings.filter((one) => one.severity === severity).length
    if (count === 0) return []
    return [severity === 'advice' ? `${String(count)} advice` : `${String(count)} ${severity}${count === 1 ? '' : 's'}`]
  })
  return parts.length === 0 ? 'nothing found' : parts.join(', ')
}

function section(report: FileReport, index: number, plan: string | null): string {
  const { found, ruledOut, undecided } = report.counts
  const asked = `${String(found + ruledOut + undecided)} questions: ${String(found)} found, ${String(ruledOut)} ruled out, ${String(undecided)} undecided`
  const open = report.questions.filter(({ answer }) => answer === 'undecided')
  return [
    `<section id="level-${String(index)}">`,
    `<h1>${escaped(report.title ?? report.file)}</h1>`,
    `<p class="file">${escaped(report.file)} · ${escaped(countText(report))}</p>`,
    // Its own file, so that nothing in it can be taken for a part of the page.
    plan === null
      ? ''
      : `<img class="plan" alt="The plan of the level" src="data:image/svg+xml;utf8,${encodeURIComponent(plan)}">`,
    report.withoutLevels.length > 0
      ? `<p>Checked without its project: what ${report.withoutLevels.map(escaped).join(', ')} give, and coming back from there, is left out of account.</p>`
      : '',
    report.unread.length > 0
      ? `<p>Of the other levels of its project, ${report.unread.map(escaped).join(', ')} could not be read: what hangs on them is undecided.</p>`
      : '',
    report.together.length > 0
      ? `<p>Explored as one with the other levels of its project: ${report.together.map(escaped).join(', ')}.</p>`
      : '',
    ...report.diagnostics.map(
      ({ message, place }) => `<p class="card error">${escaped(where(place))}${escaped(message)}</p>`,
    ),
    ...report.findings.map((finding, i) => card(finding, i + 1)),
    report.outcome === 'checked' && report.findings.length === 0 ? '<p class="clean">✓ Nothing was found.</p>' : '',
    report.accepted.length > 0
      ? `<details><summary>${String(report.accepted.length)} accepted</summary>${report.accepted.map((one) => `<p><code>${escaped(one.rule)}</code> ${escaped(one.subject)}: ${escaped(one.because)}</p>`).join('')}</details>`
      : '',
    `<details><summary>${escaped(asked)}</summary>${report.account.map((line) => `<p>${escaped(line)}</p>`).join('')}${open.map((one) => `<p>Undecided: <code>${escaped(one.rule)}</code> ${escaped(one.subject)}${one.why === null ? '' : `: ${escaped(one.why)}`}</p>`).join('')}</details>`,
    '</section>',
  ]
    .filter((line) => line !== '')
    .join('\n')
}

function where(place: FileReport['diagnostics'][number]['place']): string {
  return place?.line == null ? '' : `Line ${String(place.line)}: `
}

function card(finding: Finding, number: number): string {
  const { severity, rule, subject, headline, message, also, place, fix, tried, follows, lastSafe } = finding
  return [
    `<article class="card ${severity}">`,
    `<h2><span class="number">${String(number)}</span> ${signs[severity]} ${severity}: ${escaped(headline ?? message)}</h2>`,
    `<p class="file"><code>${escaped(rule)}</code> ${escaped(subject)}${place?.line == null ? '' : `, line ${String(place.line)}`}</p>`,
    headline === null ? '' : `<p>${escaped(message)}</p>`,
    also.length > 0 ? `<p>The same of ${also.map(escaped).join(', ')}.</p>` : '',
    steps(finding.steps),
    lastSafe
      ? `<p>${lastSafe.after === 0 ? 'At the start' : `After step ${String(lastSafe.after)}`} all was still well.</p>`
      : '',
    change(fix.says, fix.lines),
    ...tried.map((one) => change(one.says, one.lines)),
    follows.length > 0
      ? `<details><summary>Gone with it: ${String(follows.length)}</summary>${follows.map(following).join('')}</details>`
      : '',
    '</article>',
  ]
    .filter((line) => line !== '')
    .join('\n')
}

function following({ rule, message, steps: own }: FollowingFinding): string {
  return `<p><code>${escaped(rule)}</code> ${escaped(message)}</p>${steps(own)}`
}

function steps(all: readonly ReportStep[]): string {
  return all.length === 0 ? '' : `<ol>${all.map(({ text }) => `<li>${escaped(text)}</li>`).join('')}</ol>`
}

function change(says: string, lines: Finding['fix']['lines']): string {
  const changed = lines
    ? `<pre>${[
        `line ${String(lines.line)}`,
        ...lines.was.map((line) => `<del>- ${escaped(line)}</del>`),
        ...lines.becomes.map((line) => `<ins>+ ${escaped(line)}</ins>`),
      ].join('\n')}</pre>`
    : ''
  return `<div class="fix"><p>${escaped(says)}</p>${changed}</div>`
}

const style = `
:root { color-scheme: light dark; --paper: #f4efe4; --card: #fffdf7; --ink: #25303b; --soft: #655f4e; --line: #d9d1bd; --rust: #96402a; --ochre: #80560a; --sea: #1f5f7e; --leaf: #3f6128 }
@media (prefers-color-scheme: dark) { :root { --paper: #1b2126; --card: #242b31; --ink: #e8e2d2; --soft: #aea893; --line: #3b444b; --rust: #f0997f; --ochre: #e3b65c; --sea: #8cc6e0; --leaf: #a5cf8a } }
body { margin: 0; background: var(--paper); color: var(--ink); font: 15px/1.5 'DejaVu Sans', Verdana, sans-serif }
main { max-width: 60rem; margin: 0 auto; padding: 1.5rem }
h1 { font-size: 1.5rem; margin: 1.5rem 0 0 }
h2 { font-size: 1rem; margin: 0 }
.file { color: var(--soft); margin: .2rem 0 .8rem }
.plan { width: 100%; border: 1px solid var(--line); background: #f4efe4 }
.card { background: var(--card); border: 1px solid var(--line); border-left: 5px solid var(--soft); padding: .8rem 1rem; margin: 1rem 0; break-inside: avoid }
.error { border-left-color: var(--rust) } .warning { border-left-color: var(--ochre) } .advice { border-left-color: var(--sea) }
.number { display: inline-block; min-width: 1.4em; border: 1.5px solid var(--ink); border-radius: 1em; text-align: center; padding: 0 .2em }
.clean { color: var(--leaf) }
pre { overflow-x: auto; background: var(--paper); padding: .5rem; white-space: pre-wrap }
code, pre { font-family: 'DejaVu Sans Mono', Consolas, monospace; font-size: .86em }
del { color: var(--rust); text-decoration: none } ins { color: var(--leaf); text-decoration: none }
table { border-collapse: collapse } th, td { text-align: left; padding: .3rem .8rem .3rem 0; border-bottom: 1px solid var(--line) }
a { color: var(--sea) }
summary { cursor: pointer }
`

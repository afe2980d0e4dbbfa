import { type FileReport, fillIn, type Finding } from '../findings/index.ts'
import { readLevel } from '../interactables/index.ts'
import { changedLines, edited } from '../model/index.ts'

/** A fix with the lines that it changes, as the text was before it. */
export interface Made {
  readonly finding: Finding
  readonly lines: NonNullable<Finding['fix']['lines']>
}

/** A fix that was tried and is not made. */
export interface LeftOut {
  readonly finding: Finding
  /** What is found after it and was not found before; null: the finding itself is still there. */
  readonly brings: Pick<Finding, 'rule' | 'subject'> | null
}

/** The automatic fixes of a level that do what they say. */
export interface TriedFixes {
  /** The text with these made. */
  readonly fixed: string
  readonly made: readonly Made[]
  readonly leftOut: readonly LeftOut[]
}

/** The text of a level, and those of the files that it has in common with others. */
interface Texts {
  readonly text: string
  readonly common: Readonly<Record<string, string>>
}

/**
 * Tries the automatic fixes of some findings of a level that was checked: after a fix its finding has to be gone, unless a line is
 * still to be filled in, and nothing new may be found. All are tried together; where that is not so, one after the other, each on top of those
 * that were good. `check` checks a text in place of the level's own; null where it was interrupted: then so is this.
 */
export async function triedFixes(
  report: FileReport,
  findings: readonly Finding[],
  { text, common }: Texts,
  check: (text: string) => Promise<FileReport | null>,
): Promise<TriedFixes | null> {
  const all = withFixes(findings, { text, common }, report.file)
  if (all.made.length === 0) return { ...all, leftOut: [] }
  const after = await check(all.fixed)
  if (!after) return null
  if (whyNot(all.made, report, after) === null) return { ...all, leftOut: [] }
  let [now, fixed] = [report, text]
  const made: Made[] = []
  const leftOut: LeftOut[] = []
  for (const { finding } of all.made) {
    const next = withFixes([finding], { text: fixed, common }, report.file)
    if (next.made.length === 0) continue
    const then = await check(next.fixed)
    if (!then) return null
    const why = whyNot(next.made, now, then)
    if (why) leftOut.push(why)
    else {
      ;[now, fixed] = [then, next.fixed]
      made.push(...next.made)
    }
  }
  return { fixed, made, leftOut }
}

/** The text with the fixes of findings made, one after the other; a fix that no longer fits is left out. */
function withFixes(
  findings: readonly Finding[],
  { text, common }: Texts,
  file: string,
): { fixed: string; made: Made[] } {
  let fixed = text
  const made: Made[] = []
  for (const finding of findings) {
    const { automatic, edit } = finding.fix
    if (!automatic || !edit) continue
    // What a report says is an edit of the level's own: its shape was made from that.
    const next = edited(readLevel(fixed, file, common).source, edit)
    const lines = next === null ? null : changedLines(fixed, next)
    if (next === null || lines === null || !readLevel(next, file, common).value) continue
    fixed = next
    made.push({ finding, lines: { line: lines.line, was: [...lines.was], becomes: [...lines.becomes] } })
  }
  return { fixed, made }
}

/** The first fix that does not do what it says; null where all do. */
function whyNot(made: readonly Made[], before: FileReport, after: FileReport): LeftOut | null {
  const known = new Set(before.findings.flatMap((one) => [one, ...one.follows]).map(nameOf))
  const found = after.findings.flatMap((one) => [one, ...one.follows])
  const names = new Set(found.map(nameOf))
  for (const { finding, lines } of made) {
    const isOpen = lines.becomes.some((line) => line.includes(fillIn))
    if (!isOpen && names.has(nameOf(finding))) return { finding, brings: null }
  }
  const fresh = found.find((one) => !known.has(nameOf(one)))
  return fresh ? { finding: made[0]!.finding, brings: { rule: fresh.rule, subject: fresh.subject } } : null
}

function nameOf({ rule, subject }: Pick<Finding, 'rule' | 'subject'>): string {
  return `${rule} ${subject}`
}

import * as z from 'zod'
import type { FileReport, Finding } from '../findings/index.ts'
import { plural } from './report.ts'
import { Unusable, type World } from './world.ts'

const baselineSchema = z.strictObject({
  baseline: z.literal(1),
  findings: z.array(z.strictObject({ file: z.string(), rule: z.string(), subject: z.string() })),
})

/** Findings that are known. */
export type Baseline = z.infer<typeof baselineSchema>

/** Reads a baseline; null where there is none yet. Throws where the file is no baseline. */
export async function readBaseline(file: string, world: World): Promise<Baseline | null> {
  if (!(await world.exists(file))) return null
  const text = await world.readText(file)
  let value: unknown = null
  try {
    value = JSON.parse(text)
  } catch {
    // What is no JSON is no baseline either.
  }
  const read = baselineSchema.safeParse(value)
  if (read.success) return read.data
  throw new Unusable(`${file}: this is no baseline that zintel check --baseline has written.`)
}

/** Writes all that was found into a baseline, and says so. */
export async function writeBaseline(file: string, reports: readonly FileReport[], world: World): Promise<void> {
  const findings = reports.flatMap((report) =>
    report.findings.map(({ rule, subject }) => ({ file: report.file, rule, subject })),
  )
  await world.writeText(file, `${JSON.stringify({ baseline: 1, findings }, null, 2)}\n`)
  world.err(`zintel: ${plural(findings.length, 'finding')} written to ${file}: from now on only others count.\n`)
}

/** A report without the findings that a baseline knows. A group is known where its first finding is. */
export function withoutKnown(report: FileReport, { findings: known }: Baseline): FileReport {
  const isKnown = ({ rule, subject }: Finding): boolean =>
    known.some((one) => one.file === report.file && one.rule === rule && one.subject === subject)
  const findings = report.findings.filter((one) => !isKnown(one))
  return { ...report, findings, known: report.findings.length - findings.length }
}

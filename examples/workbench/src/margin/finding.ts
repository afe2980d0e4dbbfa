import type { FileReport } from 'zintel'

export type Finding = FileReport['findings'][number]

/** What tells findings of a level apart, from one check to the next. */
export function keyOf({ rule, subject }: Pick<Finding, 'rule' | 'subject'>): string {
  return `${rule} ${subject}`
}

/** A sign for how bad a finding is, beside its colour. */
export const signs = { error: '▲', warning: '■', advice: '○' } as const

/** What came and went between two reports of a level, what follows from a finding among it. */
export interface Differences {
  readonly came: readonly Finding[]
  readonly went: readonly Finding[]
  readonly stayed: number
}

/** The findings of two reports, compared by rule and subject. */
export function differences(before: FileReport, after: FileReport): Differences {
  const [old, now] = [before, after].map(({ findings }) => new Map(findings.map((one) => [keyOf(one), one]))) as [
    Map<string, Finding>,
    Map<string, Finding>,
  ]
  return {
    came: [...now].filter(([key]) => !old.has(key)).map(([, one]) => one),
    went: [...old].filter(([key]) => !now.has(key)).map(([, one]) => one),
    stayed: [...now].filter(([key]) => old.has(key)).length,
  }
}

/** How many findings of each severity there are, in words. */
export function countText(findings: readonly Pick<Finding, 'severity'>[]): string {
  const count = (severity: Finding['severity']): number => findings.filter((one) => one.severity === severity).length
  const parts = [
    [count('error'), 'error', 'errors'],
    [count('warning'), 'warning', 'warnings'],
    [count('advice'), 'piece of advice', 'pieces of advice'],
  ] as const
  const said = parts.filter(([n]) => n > 0).map(([n, one, more]) => `${String(n)} ${n === 1 ? one : more}`)
  return said.length === 0 ? 'Nothing found' : said.join(', ')
}

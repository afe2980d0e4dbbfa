import { type Expanded, levelIn, levelMark } from '../../interactables/index.ts'
import type { FileReport, FindingSummary } from './report.ts'

/** The report of levels that were checked together as one for each of them, in their order; that of one level as it is. */
export function byLevel({ joined }: Expanded, report: FileReport): FileReport[] {
  if (!joined) return [report]
  const names = joined.parts.map(({ name }) => name)
  const [home] = names
  return joined.parts.map(({ name, title, expanded }): FileReport => {
    const isOwn = (of: string): boolean => (levelIn(of).level ?? home) === name
    // A finding is told where it is to be mended, whatever it is about.
    const files = joined.parts.map((part) => part.expanded.source.file)
    const isToldHere = ({ subject, place }: FindingSummary): boolean => {
      const at = place?.file == null ? -1 : files.indexOf(place.file)
      return at < 0 ? isOwn(subject) : names[at] === name
    }
    const questions = report.questions.filter(({ subject }) => isOwn(subject))
    const own = {
      ...report,
      file: expanded.source.file ?? title,
      title,
      together: names.filter((other) => other !== name),
      withoutLevels: [],
      questions,
      counts: { ...report.counts, ...countsOf(questions) },
      findings: report.findings.filter(isToldHere),
      margins: report.margins?.filter(({ goal }) => isOwn(goal)) ?? null,
      accepted: report.accepted.filter(isToldHere),
      feedback: report.feedback.filter(({ interactable }) => isOwn(interactable)),
    }
    const titles = new Map(joined.parts.map((part) => [part.name, part.title]))
    return told(own, name, titles)
  })
}

function countsOf(questions: FileReport['questions']): Pick<FileReport['counts'], 'found' | 'ruledOut' | 'undecided'> {
  const count = (answer: FileReport['questions'][number]['answer']): number =>
    questions.filter((one) => one.answer === answer).length
  return { found: count('found'), ruledOut: count('ruled-out'), undecided: count('undecided') }
}

/** A value in whose texts the names of a level are as they are there, and those of others say where they are. */
function told<T>(value: T, level: string, titles: ReadonlyMap<string, string>): T {
  const within = <V>(one: V, key: string): V => {
    if (typeof one === 'string') return (isName.has(key) ? levelIn(one).name : named(one, level, titles)) as V
    if (Array.isArray(one)) return one.map((entry) => within(entry as unknown, key)) as V
    if (typeof one !== 'object' || one === null) return one
    return Object.fromEntries(Object.entries(one).map(([inner, part]) => [inner, within(part as unknown, inner)])) as V
  }
  return within(value, '')
}

/** What is a name or a path, for programs, and not a text for people. */
const isName = new Set([
  'who',
  'subject',
  'about',
  'path',
  'target',
  'on',
  'goal',
  'interactable',
  'transition',
  'also',
])

function named(text: string, level: string, titles: ReadonlyMap<string, string>): string {
  return text.replace(marked, (_, of: string, name: string) =>
    of === level ? name : `${name} (${titles.get(of) ?? of})`,
  )
}

const marked = new RegExp(`([a-z][a-z0-9-]*)${levelMark}([a-z0-9/-]+)`, 'g')

import { diagnostic, type Diagnostic, type Reading } from '../model/index.ts'
import { type Project, projectProblems as found } from '../play/index.ts'
import { type AnyLevel, expandedOf } from './prepared.ts'

/** What is wrong with a project and its levels together: levels that are not given, exits that lead nowhere, names that nothing has. */
export function projectProblems(
  project: Reading<Project>,
  levels: Readonly<Record<string, AnyLevel>>,
): readonly Diagnostic[] {
  const missing = Object.keys(project.value?.levels ?? {}).flatMap((name) => {
    const place = project.source.place(`levels.${name}`)
    return Object.hasOwn(levels, name) ? [] : [diagnostic('wrong-shape', place, `The level ${name} was not given.`)]
  })
  const expanded = Object.fromEntries(Object.entries(levels).map(([name, level]) => [name, expandedOf(level)]))
  return [...project.diagnostics, ...missing, ...found(project, expanded)]
}

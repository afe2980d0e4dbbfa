import type { Files } from './history.ts'

/** What a file is, as far as the workbench is concerned. */
export type FileKind = 'level' | 'project' | 'walkthrough' | 'common' | 'other'

/** What a file is: by the key that its first lines begin with, or else by its name. */
export function kindOf(name: string, text: string): FileKind {
  const head = text.slice(0, 4000)
  if (/^\s*["']?zintel["']?\s*:/m.test(head)) return 'level'
  if (/^\s*["']?project["']?\s*:\s*\d/m.test(head)) return 'project'
  if (/^\s*["']?walkthrough["']?\s*:\s*\d/m.test(head)) return 'walkthrough'
  if (/^\s*["']?common["']?\s*:\s*\d/m.test(head)) return 'common'
  const [, kind] = /\.(level|project|walkthrough|common)\.(?:ya?ml|json)$/.exec(name) ?? []
  return (kind as FileKind | undefined) ?? 'other'
}

/** The folder of a file, with a slash at its end; empty where it is in none. */
export function folderOf(name: string): string {
  return name.slice(0, name.lastIndexOf('/') + 1)
}

/** A file name without its folder. */
export function shortName(name: string): string {
  return name.slice(name.lastIndexOf('/') + 1)
}

/** A file that another one names, seen from it: dots are followed. */
export function besides(name: string, wanted: string): string {
  const parts: string[] = []
  for (const part of (folderOf(name) + wanted).split('/')) {
    if (part === '..') parts.pop()
    else if (part !== '.' && part !== '') parts.push(part)
  }
  return parts.join('/')
}

/** The levels first, by name; then what belongs to them. */
export function inOrder(files: Files): { readonly name: string; readonly kind: FileKind }[] {
  const rank: Readonly<Record<FileKind, number>> = { project: 0, level: 1, common: 2, walkthrough: 3, other: 4 }
  return Object.entries(files)
    .map(([name, text]) => ({ name, kind: kindOf(name, text) }))
    .sort((a, b) => rank[a.kind] - rank[b.kind] || (a.name < b.name ? -1 : 1))
}

/** A file name that is not on the desk yet. */
export function freeFile(files: Files, wanted: string): string {
  if (!Object.hasOwn(files, wanted)) return wanted
  const [, stem = wanted, ending = ''] =
    /^(.*?)((?:\.(?:level|project|walkthrough|common))?\.[a-z]+)$/.exec(wanted) ?? []
  for (let count = 2; ; count++) {
    const name = `${stem}-${String(count)}${ending}`
    if (!Object.hasOwn(files, name)) return name
  }
}

/** The texts of the files that a level has in common with others, by the names that it has for them. */
export function commonOf(files: Files, file: string): Record<string, string> {
  const texts: Record<string, string> = {}
  for (const [, list = ''] of (files[file] ?? '').matchAll(/^common\s*:\s*\[([^\]]*)\]/gm)) {
    for (const name of list.split(',').map((one) => one.trim().replaceAll(/^["']|["']$/g, ''))) {
      const text = files[besides(file, name)]
      if (text !== undefined) texts[name] = text
    }
  }
  return texts
}

/** A level of a project on the desk: what the project calls it, and its file. */
export interface Member {
  readonly name: string
  readonly file: string
}

/** The levels that a project file names. */
export function membersOf(
  project: string,
  levels: Readonly<Record<string, { readonly file: string }>>,
): readonly Member[] {
  return Object.entries(levels).map(([name, one]) => ({ name, file: besides(project, one.file) }))
}

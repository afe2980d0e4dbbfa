import { basename, dirname, join } from 'node:path/posix'
import { readSource } from '../model/index.ts'
import { filesFor } from './files.ts'
import { type FileKind, kindOf } from './kind.ts'
import { Unusable, type World } from './world.ts'

/** A walkthrough, and the level or project file that it is played in. */
export interface Pair {
  readonly walkthrough: string
  readonly level: string
}

/**
 * Which walkthrough is played in which level. A level that is given first is that of all. Else each is played in the one that it names; or
 * in the one of its folder whose name its own begins with, as `mill.wrong-way.walkthrough.yaml` does with `mill.level.yaml`; or in
 * the only one. Throws where that leaves one without a level.
 */
export async function pairsOf(args: readonly string[], world: World): Promise<Pair[]> {
  const [first = '', ...rest] = args
  const isAlone = (await world.find(first)) === null
  const isGiven = isAlone && isPlayable(kindOf(await world.readText(first)))
  // What is given after a level is a walkthrough; if it is not, its reader says so.
  const files = await filesFor(isGiven ? rest : args, ['level', 'project', 'walkthrough'], world)
  const levels: string[] = []
  const walkthroughs: { readonly file: string; readonly named: string | null }[] = []
  for (const file of files) {
    const text = await world.readText(file)
    if (!isGiven && isPlayable(kindOf(text))) levels.push(file)
    else walkthroughs.push({ file, named: levelNamedIn(text) })
  }
  if (walkthroughs.length === 0) {
    throw new Unusable(
      'there is no walkthrough among these files: zintel play LEVEL WALKTHROUGH…, or a folder with both.',
    )
  }
  const pairs: Pair[] = []
  for (const { file, named } of walkthroughs) {
    const level = isGiven ? first : await levelFor(file, named, levels, world)
    if (level !== null) pairs.push({ walkthrough: file, level })
    else {
      throw new Unusable(
        `${file}: there is no level for it. Give the level too, say level: FILE in it, or call it as the level is called.`,
      )
    }
  }
  return pairs
}

async function levelFor(
  file: string,
  named: string | null,
  levels: readonly string[],
  world: World,
): Promise<string | null> {
  if (named !== null) return join(dirname(file), named)
  const beside = besideOf(file, levels) ?? (levels.length === 1 ? levels[0] : undefined)
  if (beside !== undefined) return beside
  // A walkthrough alone finds the level of its name: mill.wrong-way.walkthrough.yaml that of mill.level.yaml.
  const parts = basename(file).split('.')
  for (let count = parts.length - 1; count > 0; count--) {
    for (const kind of ['level', 'project']) {
      const level = join(dirname(file), `${parts.slice(0, count).join('.')}.${kind}.yaml`)
      if (await world.exists(level)) return level
    }
  }
  return null
}

function isPlayable(kind: FileKind | null): boolean {
  return kind === 'level' || kind === 'project'
}

function levelNamedIn(text: string): string | null {
  const { value } = readSource(text, null)
  if (typeof value !== 'object' || value === null || !('level' in value)) return null
  return typeof value.level === 'string' ? value.level : null
}

/** The level in the same folder with the longest name that a walkthrough's begins with. */
function besideOf(walkthrough: string, levels: readonly string[]): string | undefined {
  const beside = levels.filter((level) => {
    const stem = basename(level).replace(/(\.(level|project))?\.(ya?ml|json)$/, '')
    return dirname(level) === dirname(walkthrough) && basename(walkthrough).startsWith(`${stem}.`)
  })
  return beside.sort((a, b) => b.length - a.length)[0]
}

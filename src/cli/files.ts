import { type FileKind, kindOf } from './kind.ts'
import { levelFiles } from './project.ts'
import { Unusable, type World } from './world.ts'

/**
 * The files that arguments stand for, each once: files as they are, and of folders and patterns those that are of some kinds.
 * Levels that belong to a project among them are left to the project. Throws where a folder or a pattern stands for none.
 */
export async function filesFor(args: readonly string[], kinds: readonly FileKind[], world: World): Promise<string[]> {
  const files = new Set<string>()
  const found = new Set<string>()
  for (const arg of args) {
    const inside = await world.find(arg)
    if (inside === null) {
      files.add(arg)
      continue
    }
    let count = 0
    for (const file of inside) {
      const kind = kindOf(await textOf(file, world))
      if (kind === null || !kinds.includes(kind)) continue
      count++
      if (!files.has(file)) found.add(file)
      files.add(file)
    }
    if (count === 0) throw new Unusable(`${arg}: there is no ${kinds.join(' or ')} in it.`)
  }
  for (const file of found.size === 0 ? [] : files) {
    const text = await textOf(file, world)
    if (kindOf(text) !== 'project') continue
    for (const member of Object.values(levelFiles(text, file, quiet(world)) ?? {})) {
      if (found.has(member)) files.delete(member)
    }
  }
  return [...files]
}

/** What cannot be read is told by the code that uses the file. */
async function textOf(file: string, world: World): Promise<string> {
  return world.readText(file).catch((error: unknown) => {
    if (error instanceof Unusable) return ''
    throw error
  })
}

function quiet(world: World): World {
  return { ...world, err: () => undefined }
}

import { type Listed, listInstances } from '../interactables/index.ts'
import { printable } from '../model/index.ts'
import { type Paint, paint } from './paint.ts'
import { readLevelFile } from './read.ts'
import { exit, type World } from './world.ts'

/** Prints all instances of a level, with what each changes from its type and from its siblings. */
export async function listCommand(levelFile: string, json: boolean, world: World): Promise<number> {
  const read = await readLevelFile(levelFile, world)
  if (!read) return exit.unusable
  const all = listInstances(read.level)
  if (json) {
    world.out(`${JSON.stringify(all, null, 2)}\n`)
    return exit.clean
  }
  const colour = paint(world.colours)
  for (const type of [...new Set(all.map((one) => one.type))]) {
    const instances = all.filter((one) => one.type === type)
    world.out(
      `${colour.bold(printable(type))}  ${String(instances.length)} ${instances.length === 1 ? 'instance' : 'instances'}\n`,
    )
    for (const instance of instances) world.out(copyText(instance, colour))
    world.out('\n')
  }
  if (all.length === 0) world.out('There are no interactables in this level.\n')
  return exit.clean
}

function copyText({ name, place, tags, changes, lacks }: Listed, colour: Paint): string {
  const tagged = tags.length > 0 ? `  tagged ${tags.join(', ')}` : ''
  const lines = [`  ${printable(name)}  ${colour.faint(place + tagged)}`]
  if (changes.length === 0) lines.push(colour.faint('      as its type has it'))
  const width = Math.min(36, Math.max(0, ...changes.map(({ path }) => path.length)))
  for (const { path, value, siblings, alike } of changes) {
    const how =
      siblings === 0
        ? ''
        : alike === siblings
          ? 'as all siblings'
          : alike === 0
            ? 'only here'
            : `as ${String(alike)} of ${String(siblings)} siblings`
    const text = `      ${path.padEnd(width)}  ${printable(value)}`
    lines.push(how === '' ? text : `${text}  ${how === 'only here' ? colour.warning(how) : colour.faint(how)}`)
  }
  for (const { path, siblings, have } of lacks) {
    lines.push(colour.warning(`      lacks ${path}, which ${String(have)} of ${String(siblings)} siblings have`))
  }
  return `${lines.join('\n')}\n`
}

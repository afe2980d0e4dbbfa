import { builtInTypes, exampleInstance, typeSheet } from '../interactables/index.ts'
import { didYouMean } from './nearest.ts'
import { paint, wrapped } from './paint.ts'
import { exit, Unusable, type World } from './world.ts'

/** Lists the built-in types, or tells all about one, with an example. */
export function typesCommand(name: string | null, world: World): number {
  const colour = paint(world.colours)
  if (name === null) {
    for (const [known, type] of Object.entries(builtInTypes)) {
      const { about, states } = typeSheet(known, type)
      world.out(`${colour.bold(known)}\n${wrapped(about, world.columns, '  ')}\n`)
      world.out(`${wrapped(`States: ${states.join(', ')}.`, world.columns, '  ')}\n\n`)
    }
    world.out('Try zintel types door for its settings and an example.\n')
    return exit.clean
  }
  const type = Object.hasOwn(builtInTypes, name) ? builtInTypes[name] : undefined
  if (!type) {
    const known = Object.keys(builtInTypes)
    const help = didYouMean(name, known, `There are ${known.join(', ')}.`)
    throw new Unusable(`there is no built-in type "${name}". ${help}`)
  }
  const sheet = typeSheet(name, type)
  world.out(`${colour.bold(name)}\n${wrapped(sheet.about, world.columns, '')}\n\n`)
  world.out(`${wrapped(`States: ${sheet.states.join(', ')}.`, world.columns, '')}\n`)
  if (sheet.zones.length > 0) world.out(`Zones: ${sheet.zones.join(', ')}.\n`)
  world.out(`\n${colour.bold('Settings')}\n`)
  for (const { path, takes, default: usual, needed, about } of sheet.settings) {
    const rest = needed ? 'needed' : usual === null ? 'none unless given' : `${usual} unless given`
    world.out(`  ${colour.place(path)}  ${takes}; ${rest}\n${wrapped(about, world.columns, '      ')}\n`)
  }
  world.out(`\n${colour.bold('An example')}\ninteractables:\n${exampleInstance(name, type, 'at: [2, 3]')}\n`)
  return exit.clean
}

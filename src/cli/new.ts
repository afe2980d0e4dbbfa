import { didYouMean } from './nearest.ts'
import { starterFiles, starterTypes } from '../library/index.ts'
import { exit, Unusable, type World } from './world.ts'

/** Writes a small level that works at once into a new folder. Never overwrites anything. */
export async function newCommand(name: string, type: string, world: World): Promise<number> {
  if (!/^[a-z][a-z0-9-]{0,60}$/.test(name)) {
    throw new Unusable(`"${name}" cannot be the name of a level: use lower-case letters, digits and dashes.`)
  }
  if (!starterTypes.includes(type)) {
    const help = didYouMean(type, starterTypes, `There are ${starterTypes.join(', ')}.`)
    throw new Unusable(`--type: there is no built-in type "${type}". ${help}`)
  }
  if (await world.exists(name)) throw new Unusable(`${name}: there is something of that name already.`)
  const files = starterFiles(name, type)
  for (const [file, text] of Object.entries(files)) await world.writeText(`${name}/${file}`, schemaLine(file) + text)
  world.out(`Wrote ${Object.keys(files).join(', ')} into ${name}/.\n\nNext:\n`)
  world.out(`  cd ${name}\n`)
  world.out(`  zintel play ${name}.level.yaml ${name}.wrong-way.walkthrough.yaml\n  zintel check ${name}.level.yaml\n`)
  return exit.clean
}

/** The comment by which editors find the schema of a file, where the package is installed beside the new folder. */
function schemaLine(file: string): string {
  const kind = /\.(level|walkthrough)\.yaml$/.exec(file)?.[1]
  return kind ? `# yaml-language-server: $schema=../node_modules/zintel/schemas/${kind}.schema.json\n` : ''
}

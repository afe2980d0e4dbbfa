import { drawPlan } from '../draw/index.ts'
import { expandLevel } from '../interactables/index.ts'
import { makeStage } from '../play/index.ts'
import { readLevelFile } from './read.ts'
import { exit, type World } from './world.ts'

/** Draws a level, to a file or to standard output. */
export async function drawCommand(levelFile: string, out: string | null, world: World): Promise<number> {
  const read = await readLevelFile(levelFile, world)
  if (!read) return exit.unusable
  const svg = drawPlan(makeStage(expandLevel(read.level, read.source)))
  if (out === null) world.out(svg)
  else {
    await world.writeText(out, svg)
    world.err(`Wrote the plan of ${read.level.title} to ${out}.\n`)
  }
  return exit.clean
}

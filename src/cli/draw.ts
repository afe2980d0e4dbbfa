import { drawMachine, drawNeeds, drawPlan } from '../draw/index.ts'
import { type GoalPlans, planGoals } from '../explore/index.ts'
import { type Expanded, expandLevel, type Placed } from '../interactables/index.ts'
import { goalsNamed } from './goals.ts'
import { driven, layOut } from './laying-out.ts'
import { didYouMean } from './nearest.ts'
import { readLevelFile } from './read.ts'
import { exit, Unusable, type World } from './world.ts'

/** Draws a level, the machine of one of its instances or types, or what a goal needs, to a file or to standard output. */
export async function drawCommand(
  levelFile: string,
  view: string,
  of: string | null,
  out: string | null,
  world: World,
): Promise<number> {
  const read = await readLevelFile(levelFile, world)
  if (!read) return exit.unusable
  const expanded = expandLevel(read.level, read.source)
  if (view === 'machine' && of === null) {
    throw new Unusable(`--view machine needs --of and the name of an interactable or a type. ${knownText(expanded)}`)
  }
  const svg =
    view === 'machine'
      ? drawMachine(expanded, copyOf(expanded, of ?? ''))
      : view === 'dependencies'
        ? await dependenciesOf(expanded, of, world)
        : await planOf(expanded, world)
  if (svg === null) return exit.interrupted
  if (out === null) world.out(svg)
  else {
    await world.writeText(out, svg)
    world.err(`Wrote the ${view} of ${of ?? read.level.title} to ${out}.\n`)
  }
  return exit.clean
}

async function planOf(expanded: Expanded, world: World): Promise<string | null> {
  const stage = await layOut(expanded, world)
  return stage && drawPlan(stage)
}

/** What a goal needs; the first goal where none is named. */
async function dependenciesOf(expanded: Expanded, of: string | null, world: World): Promise<string | null> {
  const [goal] = goalsNamed(expanded, of === null ? [] : [of])
  const stage = await layOut(expanded, world)
  const plans = stage && (await driven(planGoals(stage, [goal!]), expanded.level.title, world))
  if (!plans) return null
  const [{ needs, why, goal: name }] = plans as [GoalPlans]
  if (!needs) throw new Unusable(`there is no way to ${name} to be drawn: ${why ?? ''}.`)
  return drawNeeds(name, needs)
}

/** The instance of that name, or the first instance of the type of that name. */
function copyOf({ interactables }: Expanded, name: string): Placed {
  const found = interactables.find((one) => one.name === name) ?? interactables.find((one) => one.type === name)
  if (found) return found
  const names = interactables.flatMap((one) => [one.name, one.type])
  const help = didYouMean(name, names, 'zintel list shows them all.')
  throw new Unusable(`--of: there is no interactable, and no type in use, called "${name}". ${help}`)
}

function knownText({ interactables }: Expanded): string {
  const names = interactables.map(({ name }) => name)
  return names.length === 0 ? 'The level has none.' : `There are ${names.join(', ')}.`
}

import { drawMachine, drawNeeds, drawPlan, type PlanMark } from '../draw/index.ts'
import { type GoalPlans, planGoals, tracksOf, usualBudget } from '../explore/index.ts'
import type { Finding } from '../findings/index.ts'
import { type Expanded, expandLevel, type Placed } from '../interactables/index.ts'
import { laidOut } from '../space/index.ts'
import { checkFiles } from './checking.ts'
import { goalsNamed } from './goals.ts'
import { driven, layOut } from './laying-out.ts'
import { didYouMean } from './nearest.ts'
import { readLevelFile } from './read.ts'
import { exit, Unusable, type World } from './world.ts'

/** What to draw of a level, and where to. */
export interface DrawOptions {
  readonly view: string
  readonly of?: string
  readonly highlight?: string
  readonly route?: string
  readonly storey?: string
  readonly out?: string
}

/** Draws a level, the machine of one of its instances or types, or what a goal needs, to a file or to standard output. */
export async function drawCommand(levelFile: string, options: DrawOptions, world: World): Promise<number> {
  const { view, of = null, out = null } = options
  if (view !== 'plan' && [options.highlight, options.route, options.storey].some((one) => one !== undefined)) {
    throw new Unusable('--highlight, --route and --storey go with --view plan.')
  }
  if (options.highlight !== undefined && options.route !== undefined) {
    throw new Unusable('--highlight and --route cannot be given together.')
  }
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
        : await planOf(levelFile, expanded, options, world)
  if (svg === null) return exit.interrupted
  if (out === null) world.out(svg)
  else {
    await world.writeText(out, svg)
    world.err(`Wrote the ${view} of ${of ?? read.level.title} to ${out}.\n`)
  }
  return exit.clean
}

async function planOf(
  file: string,
  expanded: Expanded,
  { highlight, route, storey }: DrawOptions,
  world: World,
): Promise<string | null> {
  const storeys = Object.keys(expanded.level.storeys ?? {})
  if (storey !== undefined && !storeys.includes(storey)) {
    const help =
      storeys.length === 0 ? 'The level has none.' : didYouMean(storey, storeys, `There are ${storeys.join(', ')}.`)
    throw new Unusable(`--storey: there is no storey "${storey}". ${help}`)
  }
  const goals = route === undefined ? [] : goalsNamed(expanded, [route])
  if (highlight === undefined && goals.length === 0) return drawPlan(laidOut(expanded), { storey })
  const found = highlight === undefined ? null : await findingNamed(file, highlight, world)
  const stage = await layOut(expanded, world)
  if (!stage) return null
  if (goals.length > 0) {
    const plans = await driven(planGoals(stage, goals), expanded.level.title, world)
    if (!plans) return null
    const [{ quickest, fewest, why, goal }] = plans as [GoalPlans]
    const plan = quickest ?? fewest
    if (!plan) throw new Unusable(`there is no way to ${goal} to be drawn: ${why ?? ''}.`)
    return drawPlan(stage, { storey, tracks: tracksOf(stage, plan.steps) })
  }
  const finding = found!
  const about = expanded.interactables.find(({ name }) => name === finding.about)?.name ?? null
  const marks: PlanMark[] = [
    ...finding.spots,
    ...(about !== null && finding.spots.length === 0 ? [{ at: about, text: `${finding.rule}: ${about}` }] : []),
  ]
  const whoOf = (name: string): number => expanded.characters.findIndex((one) => one.name === name)
  const steps = finding.steps.map((step) => ({ ...step, who: whoOf(step.who) }))
  return drawPlan(stage, { storey, tracks: tracksOf(stage, steps), marks })
}

/** The finding that is meant: by its number in the report, by its rule, or by its rule and its subject. */
async function findingNamed(file: string, named: string, world: World): Promise<Finding> {
  const limits = { budget: usualBudget, quick: false, margins: false }
  for await (const { report } of checkFiles([file], limits, world)) {
    if (report.outcome === 'unusable') break
    const { findings } = report
    const number = /^[0-9]+$/.test(named) ? findings[Number(named) - 1] : undefined
    const found = number ?? findings.find(({ rule, subject }) => rule === named || `${rule}/${subject}` === named)
    if (found) return found
    const known = [...new Set(findings.map(({ rule }) => rule))]
    const help = known.length === 0 ? 'Nothing is found in it.' : `Found are: ${known.join(', ')}.`
    throw new Unusable(`--highlight: there is no finding "${named}" in ${file}. ${help}`)
  }
  throw new Unusable(`--highlight: ${file} was not checked.`)
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

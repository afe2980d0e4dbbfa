import { stringify } from 'yaml'
import { asWalkthrough, type GoalPlans, type Need, type Plan, planGoals } from '../explore/index.ts'
import { secondsText, toldSteps } from '../findings/index.ts'
import { expandLevel } from '../interactables/index.ts'
import { printable } from '../model/index.ts'
import type { Stage } from '../play/index.ts'
import { goalsNamed } from './goals.ts'
import { driven, layOut } from './laying-out.ts'
import { paint, wrapped } from './paint.ts'
import { readLevelFile } from './read.ts'
import { plural } from './report.ts'
import { exit, type World } from './world.ts'

/** Prints plans for goals of a level, each played, and what they need. */
export async function routeCommand(
  levelFile: string,
  names: readonly string[],
  how: { readonly format: string; readonly budget: number | undefined },
  world: World,
): Promise<number> {
  const read = await readLevelFile(levelFile, world)
  if (!read) return exit.unusable
  const expanded = expandLevel(read.level, read.source)
  const goals = goalsNamed(expanded, names)
  const stage = await layOut(expanded, world)
  const plans = stage && (await driven(planGoals(stage, goals, how), read.level.title, world))
  if (!plans) return exit.interrupted
  if (how.format === 'json')
    world.out(
      `${JSON.stringify(
        plans.map((one) => inJson(stage, one)),
        null,
        2,
      )}\n`,
    )
  else if (how.format === 'walkthrough') writeWalkthroughs(stage, plans, world)
  else world.out(plans.map((one) => plansText(stage, one, world)).join('\n'))
  return plans.every(({ fewest }) => fewest) ? exit.clean : exit.findings
}

function inJson(stage: Stage, { fewest, quickest, ...rest }: GoalPlans): unknown {
  const told = (plan: Plan | null): unknown => plan && { ...plan, steps: toldSteps(stage, plan.steps) }
  return { ...rest, fewest: told(fewest), quickest: told(quickest) }
}

/** The plans with the fewest steps as walkthroughs, one YAML document each. */
function writeWalkthroughs(stage: Stage, plans: readonly GoalPlans[], world: World): void {
  const documents = plans.flatMap(({ goal, fewest, why }) => {
    if (!fewest) world.err(`zintel: no way to ${goal}: ${why ?? ''}.\n`)
    return fewest ? [stringify(asWalkthrough(stage, `The way to ${goal}`, fewest.steps, [{ expect: { goal } }]))] : []
  })
  world.out(documents.join('---\n'))
}

function plansText(stage: Stage, { goal, fewest, quickest, needs, why }: GoalPlans, world: World): string {
  const colour = paint(world.colours)
  const { title } = stage.expanded.goals.find(({ name }) => name === goal)!
  const head = colour.bold(printable(goal)) + (title === null ? '' : `  ${printable(title)}`)
  if (!fewest || !quickest) return `${head}\n${wrapped(`No way there: ${why ?? ''}.`, world.columns, '  ')}\n`
  const lines = [head, ...planLines(stage, fewest, fewest.isFewest ? 'Fewest steps' : 'Few steps (fewer might do)')]
  if (fewest.steps.length === 0) lines.push('  It is met at the start.')
  if (quickest !== fewest) lines.push(...planLines(stage, quickest, 'Quickest found'))
  else if (fewest.steps.length > 0) lines.push('  No quicker plan was found.')
  if (needs && needs.length > 1) {
    lines.push('  What needs what:')
    lines.push(...needs.flatMap((need) => needLines(need, needs, world.columns)))
  } else if (why !== null) lines.push(wrapped(`What it needs is not known: ${why}.`, world.columns, '  '))
  return `${lines.join('\n')}\n`
}

function planLines(stage: Stage, { steps, ms }: Plan, what: string): string[] {
  if (steps.length === 0) return []
  return [
    `  ${what}: ${plural(steps.length, 'step')} in ${secondsText(ms)}.`,
    ...toldSteps(stage, steps).map(({ text }, i) => `    ${String(i + 1).padStart(2)}. ${printable(text)}`),
  ]
}

function needLines(
  { interactable, needs, items, isInevitable }: Need,
  all: readonly Need[],
  columns: number,
): string[] {
  const asked = items.map(({ item, count, from }) => {
    const what = count > 1 ? `${String(count)} × ${item}` : item
    return from.length === 0 ? what : `${what} (from ${from.join(', ')})`
  })
  const others = needs.filter((need) => !items.some(({ from }) => from.includes(need)))
  const isGoal = all.at(-1)!.interactable === interactable
  const also = isInevitable || isGoal ? '' : '  - there are ways without it'
  const wants = [...others, ...asked]
  const text = wants.length === 0 ? `${interactable} needs nothing` : `${interactable} ← ${wants.join(', ')}`
  return [wrapped(printable(text + also), columns, '    ')]
}

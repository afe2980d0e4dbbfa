import { escaped } from '../model/index.ts'
import { type EdgeLabel, Graph, type GraphLabel, layout, type NodeLabel } from '@dagrejs/dagre'
import type { Need } from '../explore/index.ts'
import { arrow, textLine } from './arrows.ts'
import { element, ink, sheet } from './svg.ts'

const colours = { always: '#e6eeda', sometimes: '#fffdf7', goal: '#f3dfc8', item: '#a65232' }

/** Pixels a character of names and of items. */
const letter = { name: 8.4, item: 6.6 }
const head = 54

interface Box {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** A graph that is laid out, and its size in pixels. */
interface Laid {
  readonly graph: Graph<GraphLabel, NodeLabel, EdgeLabel>
  readonly wide: number
  readonly high: number
}

/**
 * What the way to a goal needs, as SVG: an arrow leads from each interactable to those that cannot do without it, and at last
 * to the goal. Under its name stand the items that it asks for. It runs from the left or from the top, whichever can be read
 * better at 1280 x 800.
 */
export function drawNeeds(goal: string, needs: readonly Need[]): string {
  const drawn = (['LR', 'TB'] as const).map((direction) => laidOut(needs, direction))
  const fit = ({ wide, high }: Laid): number => Math.min(1240 / wide, 700 / high)
  const best = drawn.reduce((one, other) => (fit(other) > fit(one) ? other : one))
  return drawing(goal, needs, best)
}

function laidOut(needs: readonly Need[], direction: 'LR' | 'TB'): Laid {
  const graph = new Graph<GraphLabel, NodeLabel, EdgeLabel>()
  graph.setGraph({ rankdir: direction, nodesep: 22, ranksep: direction === 'LR' ? 44 : 24, marginx: 12, marginy: 12 })
  graph.setDefaultEdgeLabel(() => ({}))
  for (const [i, need] of needs.entries()) {
    const lines = itemLines(need)
    const longest = Math.max(need.interactable.length * letter.name, ...lines.map((line) => line.length * letter.item))
    graph.setNode(String(i), { width: longest + 26, height: 32 + lines.length * 14 })
  }
  const numberOf = new Map(needs.slice(0, -1).map(({ interactable }, i) => [interactable, i]))
  for (const [i, need] of needs.entries()) {
    for (const other of need.needs) graph.setEdge(String(numberOf.get(other)!), String(i), {})
  }
  layout(graph)
  const { width: wide = 0, height: high = 0 } = graph.graph() as { width?: number; height?: number }
  return { graph, wide, high }
}

function drawing(goal: string, needs: readonly Need[], { graph, wide, high }: Laid): string {
  const width = Math.max(wide + 40, 620)
  const height = high + head + 50
  const heading = `What ${goal} needs`
  return sheet(
    { title: heading, heading, below: 'on the way with the fewest steps', width, height },
    element(
      'g',
      { transform: `translate(20 ${String(head)})` },
      ...graph.edges().map((edge) => arrow((graph.edge(edge) as unknown as { points: Box[] }).points)),
      ...needs.map((need, i) => needBox(need, i === needs.length - 1, graph.node(String(i)) as unknown as Box)),
    ),
    legend(high + head + 30),
  )
}

function itemLines({ items }: Need): string[] {
  return items.map(({ item, count, from }) => {
    const what = count > 1 ? `${String(count)} × ${item}` : item
    return from.length === 0 ? `${what} (nobody gives it)` : `${what} from ${from.join(', ')}`
  })
}

function needBox(need: Need, isGoal: boolean, { x, y, width, height }: Box): string {
  const fill = isGoal ? colours.goal : need.isInevitable ? colours.always : colours.sometimes
  const top = y - height / 2
  return element(
    'g',
    {},
    element('rect', {
      x: x - width / 2,
      y: top,
      width,
      height,
      rx: isGoal ? 14 : 5,
      fill,
      stroke: ink,
      'stroke-width': 1.3,
    }),
    textLine(x, top + 20, need.interactable, { 'font-size': 14, 'font-weight': 700, fill: ink }),
    ...itemLines(need).map((line, i) => textLine(x, top + 36 + i * 14, line, { 'font-size': 11, fill: colours.item })),
  )
}

function legend(y: number): string {
  const parts = [
    ['every way to the goal needs it', colours.always],
    ['there are ways without it', colours.sometimes],
    ['the goal', colours.goal],
  ] as const
  return element(
    'g',
    {},
    ...parts.flatMap(([text, fill], i) => [
      element('rect', { x: 20 + i * 235, y: y - 11, width: 14, height: 14, rx: 3, fill, stroke: ink }),
      element('text', { x: 40 + i * 235, y, 'font-size': 12, fill: ink }, escaped(text)),
    ]),
  )
}

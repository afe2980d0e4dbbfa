import { type EdgeLabel, Graph, type GraphLabel, layout, type NodeLabel } from '@dagrejs/dagre'
import {
  changeText,
  checkText,
  type Expanded,
  type Placed,
  type PlacedState,
  triggerText,
} from '../interactables/index.ts'
import { channelOf, type Feedback, escaped } from '../model/index.ts'
import { arrow, type Spot, textLine } from './arrows.ts'
import { element, ink, paper, sheet } from './svg.ts'

const colours = {
  state: '#fffdf7',
  lasting: '#e6eeda',
  moving: '#e3edf2',
  lit: '#f6dc8b',
  trigger: '#2c6e8f',
  guard: '#a65232',
  effect: '#5c7a3f',
  feedback: '#8a5a9e',
}

/** Pixels a character, by size of the text. */
const letter = { state: 8, small: 6.3 }
const lineHeight = 15
const head = 54

/** A line of a label, with its colour. */
interface Line {
  readonly text: string
  readonly fill: string
}

/**
 * The states and transitions of one instance as SVG: each transition with what sets it off, what it waits for, what it
 * changes and what is perceived. It runs from the left or from the top, whichever can be read better at 1280 x 800.
 * `lit`: the state to show as the one that it is in.
 */
export function drawMachine(expanded: Expanded, placed: Placed, lit: string | null = null): string {
  // What leads back to the same state goes out to the side: there is room for that where all else runs down.
  const isLoop = placed.transitions.some(({ from, to }) => to === null || from.includes(to))
  const directions = isLoop ? (['TB'] as const) : (['LR', 'TB'] as const)
  const drawn = directions.map((direction) => laidOut(expanded, placed, direction, lit))
  const fit = ({ width, height }: Laid): number => Math.min(1240 / width, 740 / height)
  const best = drawn.reduce((one, other) => (fit(other) > fit(one) ? other : one))
  const width = Math.max(best.width + 40, 560)
  const height = best.height + head + 50
  return sheet(
    { title: `The machine of ${placed.name}`, heading: placed.name, below: `a ${placed.type}`, width, height },
    element('g', { transform: `translate(20 ${String(head)})` }, ...best.parts),
    legend(best.height + head + 30),
  )
}

interface Laid {
  readonly width: number
  readonly height: number
  readonly parts: readonly string[]
}

function laidOut(expanded: Expanded, placed: Placed, direction: 'LR' | 'TB', lit: string | null): Laid {
  const graph = new Graph<GraphLabel, NodeLabel, EdgeLabel>({ multigraph: true })
  graph.setGraph({ rankdir: direction, nodesep: 34, edgesep: 16, ranksep: 46, marginx: 12, marginy: 12 })
  graph.setDefaultEdgeLabel(() => ({}))
  for (const [index, state] of placed.states.entries()) {
    const lines = stateLines(state, index === placed.initial)
    const longest = Math.max(state.name.length * letter.state, ...lines.map((line) => line.length * letter.small))
    graph.setNode(state.name, { width: longest + 26, height: 30 + lines.length * 14 })
  }
  const labels = new Map<string, readonly Line[]>()
  for (const [row, transition] of placed.transitions.entries()) {
    for (const from of transition.from) {
      const key = `${String(row)} ${String(from)}`
      const lines = transitionLines(expanded, placed, row)
      labels.set(key, lines)
      const width = Math.max(...lines.map(({ text }) => text.length * letter.small)) + 10
      const to = placed.states[transition.to ?? from]!.name
      const size = { width, height: lines.length * lineHeight + 6, labelpos: 'c' as const }
      graph.setEdge(placed.states[from]!.name, to, size, key)
    }
  }
  layout(graph)
  const { width = 0, height = 0 } = graph.graph() as { width?: number; height?: number }
  const edges = graph.edges().map((edge) => {
    // What the layout has put there: the corners of the way, and the middle of the label.
    const { points, x, y, width: wide } = graph.edge(edge) as unknown as Spot & { points: Spot[]; width: number }
    const lines = labels.get(edge.name ?? '') ?? []
    if (edge.v !== edge.w) return { way: points, at: { x, y }, lines }
    // Back to the same state: out to its label on one side, and back again.
    const node = graph.node(edge.v) as unknown as Spot & { width: number }
    const side = x > node.x ? 1 : -1
    const [near, far] = [node.x + (side * node.width) / 2, x - side * (wide / 2 - 6)]
    const out = { from: { x: near, y: y - 8 }, to: { x: far, y: y - 8 } }
    const back = { from: { x: far, y: y + 8 }, to: { x: near, y: y + 8 } }
    return { way: [out.from, out.to, back.from, back.to], at: { x, y }, lines }
  })
  const parts = [
    ...edges.map(({ way }) => arrow(way)),
    ...placed.states.map((state, index) => {
      const node = graph.node(state.name) as unknown as Spot & { width: number; height: number }
      return stateBox(state, { isInitial: index === placed.initial, isLit: state.name === lit }, node)
    }),
    ...edges.map(({ at, lines }) => label(at, lines)),
  ]
  return { width, height, parts }
}

/** What there is to a state, beside its name. */
function stateLines(state: PlacedState, isInitial: boolean): string[] {
  const blocks = [
    ...(state.blocksWalk ? ['walking'] : []),
    ...(state.blocksSight ? ['sight'] : []),
    ...(state.blocksCamera ? ['the camera'] : []),
  ]
  return [
    ...(isInitial ? ['initial'] : []),
    ...(state.look === null ? [] : [`looks: ${state.look}`]),
    ...(blocks.length > 0 ? [`blocks ${blocks.join(blocks.length > 2 ? ', ' : ' and ')}`] : []),
    ...(state.motion
      ? [`moves ${state.motion.to === 1 ? 'open' : 'shut'} in ${String(state.motion.over / 1000)} s`]
      : []),
    ...(state.ignoresPress ? ['ignores a press'] : []),
    ...(state.dials ? ['its wheels can be set'] : []),
  ]
}

/** What sets a transition off, what it waits for, what it changes, and what is perceived. */
function transitionLines(expanded: Expanded, placed: Placed, row: number): Line[] {
  const { when, guard, changes, feedback, isRefusal, refused, roles } = placed.transitions[row]!
  if (isRefusal) return [{ text: 'press: always refused', fill: colours.guard }]
  const waits = checkText(expanded, guard)
  const perceived = [...feedback, ...(when.kind === 'press' ? (placed.feedback.accepted ?? []) : [])]
  const refusals = when.kind === 'press' && waits !== '' ? (refused ?? general(placed)) : []
  const who = roles.join() === 'player' ? [] : [{ text: `by a ${roles.join(' or ')}`, fill: colours.trigger }]
  const lines: Line[] = [
    { text: triggerText(expanded, when), fill: colours.trigger },
    ...who,
    ...(waits === '' ? [] : [{ text: `if ${waits}`, fill: colours.guard }]),
    ...changes.map((change) => ({ text: changeText(expanded, change), fill: colours.effect })),
    ...perceived.flatMap((one) => perceivedLine('', one)),
    ...refusals.flatMap((one) => perceivedLine('else ', one)),
  ]
  return lines.flatMap(({ text, fill }) => broken(text).map((part) => ({ text: part, fill })))
}

/** What is perceived of a refusal, for whatever reason. */
function general({ feedback: { missing = [], 'too-full': tooFull = [], refused = [] } }: Placed): readonly Feedback[] {
  return [...missing, ...tooFull, ...refused]
}

function perceivedLine(when: string, entry: Feedback): Line[] {
  const channel = channelOf(entry)
  if (channel === 'prompt') return []
  const said = String(entry[channel])
  const text = channel === 'message' || channel === 'popup' ? `"${said}"` : `${channel} ${said}`
  return [{ text: `${when}${text}`, fill: colours.feedback }]
}

/** A text in lines of about 34 characters. */
function broken(text: string): string[] {
  const lines: string[] = ['']
  for (const word of text.split(' ')) {
    const last = lines[lines.length - 1]!
    if (last !== '' && last.length + word.length > 33) lines.push(`  ${word}`)
    else lines[lines.length - 1] = last === '' ? word : `${last} ${word}`
  }
  return lines
}

function stateBox(
  state: PlacedState,
  { isInitial, isLit }: { readonly isInitial: boolean; readonly isLit: boolean },
  { x, y, width, height }: Spot & { width: number; height: number },
): string {
  const fill = isLit ? colours.lit : state.motion ? colours.moving : state.lasting ? colours.lasting : colours.state
  const frame = { x: x - width / 2, y: y - height / 2, width, height, rx: 5, fill, stroke: ink }
  const around = { x: frame.x - 4, y: frame.y - 4, width: width + 8, height: height + 8 }
  const lines = stateLines(state, isInitial)
  return element(
    'g',
    { 'data-state': state.name, 'data-now': isLit ? 'true' : null },
    // Told apart without colour, too: a second line round it.
    ...(isLit ? [element('rect', { ...around, fill: 'none', stroke: ink, rx: 8 })] : []),
    element('rect', { ...frame, 'stroke-width': isInitial ? 2.6 : 1.2 }),
    textLine(x, y - height / 2 + 20, state.name, { 'font-size': 14, 'font-weight': 700, fill: ink }),
    ...lines.map((line, i) => textLine(x, y - height / 2 + 35 + i * 14, line, { 'font-size': 11, fill: ink })),
  )
}

function label({ x, y }: Spot, lines: readonly Line[]): string {
  const width = Math.max(...lines.map(({ text }) => text.length * letter.small)) + 6
  const height = lines.length * lineHeight
  const top = y - height / 2
  return element(
    'g',
    {},
    element('rect', { x: x - width / 2, y: top, width, height, fill: paper }),
    ...lines.map(({ text, fill }, i) => textLine(x, top + 11.5 + i * lineHeight, text, { 'font-size': 12, fill })),
  )
}

function legend(y: number): string {
  const words = [
    ['trigger', colours.trigger],
    ['guard', colours.guard],
    ['effects', colours.effect],
    ['feedback', colours.feedback],
  ] as const
  const texts = words.map(([text, fill], i) =>
    element('text', { x: 20 + i * 130, y, 'font-size': 12, fill }, escaped(text)),
  )
  return element('g', {}, ...texts)
}

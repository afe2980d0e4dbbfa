import { escaped } from '../model/index.ts'
import type { LaidOut } from '../space/index.ts'
import { margin, type PlanFrame } from './plan-frame.ts'
import { colours, dashes, hatch, placeMark } from './plan-things.ts'
import { element, ink, round } from './svg.ts'

/** The scale, where north is, and what the marks mean: of what there is on the plan, as much as there is room for. */
export function key(
  stage: LaidOut,
  frame: PlanFrame,
  shown: { readonly isTracked: boolean; readonly isElsewhere: boolean },
): string[] {
  const y = frame.height - 22
  const end = frame.width - margin
  const bar = barLength(frame)
  const start = end - bar * frame.scale
  const room = start - 60
  return [...legend(stage, frame, { ...shown, room }), ...scaleBar(start, end, y, bar), northArrow(end - 6, margin + 6)]
}

/** A round number of metres that is a fitting part of the plan. */
function barLength(frame: PlanFrame): number {
  const most = (frame.width - 2 * margin) / frame.scale / 6
  const fitting = [100, 50, 20, 10, 5, 2, 1, 0.5].find((metres) => metres <= Math.max(0.5, most))
  return fitting ?? 0.5
}

function scaleBar(start: number, end: number, y: number, bar: number): string[] {
  return [
    element('path', {
      d: `M${round(start)} ${round(y - 4)}v8M${round(start)} ${round(y)}H${round(end)}M${round(end)} ${round(y - 4)}v8`,
      stroke: ink,
      fill: 'none',
      'stroke-width': 1.5,
    }),
    element(
      'text',
      { x: start - 8, y, 'font-size': 12, fill: ink, 'text-anchor': 'end', 'dominant-baseline': 'central' },
      `${round(bar)} m`,
    ),
  ]
}

function northArrow(x: number, y: number): string {
  return element(
    'g',
    { transform: `translate(${round(x)} ${round(y)})` },
    element('path', { d: 'M0 -10L5 6L0 3L-5 6z', fill: ink }),
    element(
      'text',
      { x: 0, y: 16, 'font-size': 11, fill: ink, 'text-anchor': 'middle', 'dominant-baseline': 'central' },
      'N',
    ),
  )
}

function legend(
  { expanded, space }: LaidOut,
  frame: PlanFrame,
  { isTracked, isElsewhere, room }: { isTracked: boolean; isElsewhere: boolean; room: number },
): string[] {
  const y = frame.height - 22
  const text = (x: number, words: string): string =>
    element('text', { x, y, 'font-size': 12, fill: ink, 'dominant-baseline': 'central' }, escaped(words))
  const square = (more: Record<string, string | number>): string =>
    element('rect', { x: 0, y: y - 6, width: 14, height: 12, ...more })
  const circle = (r: number, more: Record<string, string | number>): string =>
    element('circle', { cx: 7, cy: y, r, ...more })
  const line = (more: Record<string, string | number>): string => element('path', { d: `M0 ${round(y)}h14`, ...more })
  const withBodies = expanded.interactables.filter(({ index }) => space.layout.figures[index]?.body)
  const states = withBodies.flatMap((one) => one.states)
  const swings = states.some(({ motion }) => motion?.kind === 'turn' || motion?.kind === 'slide')
  const pressable = space.layout.figures.some((one) => one.pressable)
  const all: [isThere: boolean, mark: string, words: string][] = [
    [states.some(({ blocksWalk }) => blocksWalk), square({ fill: hatch, stroke: ink }), 'blocks'],
    [
      states.some(({ blocksWalk }) => !blocksWalk),
      square({ fill: 'none', stroke: colours.open, 'stroke-dasharray': dashes.open }),
      'open',
    ],
    [
      swings,
      square({ fill: colours.open, 'fill-opacity': 0.12, stroke: colours.open, 'stroke-dasharray': dashes.swing }),
      'swing',
    ],
    [pressable, square({ fill: colours.range, 'fill-opacity': 0.25, stroke: colours.range }), 'a press is answered'],
    [pressable, circle(7, { fill: 'none', stroke: colours.range, 'stroke-dasharray': dashes.range }), 'range'],
    [
      expanded.interactables.some(({ radius, until }) => until > radius),
      circle(7, { fill: 'none', stroke: colours.range, 'stroke-dasharray': dashes.until }),
      'end of a range',
    ],
    [
      expanded.zones.length > 0,
      circle(7, { fill: colours.zone, 'fill-opacity': 0.15, stroke: colours.zone, 'stroke-dasharray': dashes.zone }),
      'zone',
    ],
    [pressable, circle(4, { fill: colours.range }), 'handle'],
    [isElsewhere, circle(4, { fill: '#fff', stroke: colours.range, 'stroke-width': 1.6 }), 'handle on another storey'],
    [
      expanded.places.length > 0,
      element('path', {
        d: placeMark,
        transform: `translate(7 ${round(y)})`,
        stroke: colours.person,
        'stroke-width': 1.6,
        fill: 'none',
      }),
      'place',
    ],
    [true, circle(7, { fill: colours.person, stroke: ink }), 'start'],
    [isTracked, line({ stroke: colours.track, 'stroke-width': 2.2 }), 'way'],
  ]
  const parts: string[] = []
  let x = margin
  for (const [, mark, words] of all.filter(([isThere]) => isThere)) {
    const width = 22 + words.length * 6.6
    if (x + width > room) break
    parts.push(element('g', { transform: `translate(${round(x)} 0)` }, mark, text(22, words)))
    x += width + 20
  }
  return parts
}

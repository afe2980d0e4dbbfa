import { type Inspection, notAskedText } from '../play/index.ts'
import { printable } from '../model/index.ts'
import { type Paint, wrapped } from './paint.ts'

/** How things stand after a step, and what has changed since the one before. */
export function standingText(now: Inspection, before: Inspection | null, colour: Paint, columns: number): string[] {
  const rows: [string, string[]][] = [
    ['changed', before === null ? [] : changes(before, now)],
    [
      'press',
      now.presses.map(
        ({ way, interactable, answer }) =>
          `${way === 'use' ? '' : `${way}: `}${interactable} ${answer}${answer === 'ignores' ? ' it' : ''}`,
      ),
    ],
    ['popup', now.popup === null ? [] : [`"${now.popup}", to be dismissed first`]],
    ['prompts', now.prompts.map(({ text, key }) => `${key === null ? '' : `[${key}] `}"${text}"`)],
    ['options', now.options.map((text) => `"${text}"`)],
    ['showing', now.showing.map(({ channel, text, interactable }) => `${channel} "${text}" of ${interactable}`)],
    ['icons', now.icons.map(({ icon, count }) => `${icon}${count === null ? '' : ` ${String(count)}`}`)],
    ['not', now.others.map(notAskedText)],
    ['carries', Object.entries(now.carries).map(([item, count]) => `${String(count)} ${item}`)],
    ['flags', now.flags.map(({ flag, is }) => `${flag} ${is ? 'set' : 'not set'}`)],
    ['counters', now.counters.map(({ counter, is }) => `${counter} ${String(is)}`)],
    ['states', now.states.map(({ interactable, state }) => `${interactable} ${state}`)],
    [
      'ranges',
      now.ranges.map(
        ({ interactable, distance, radius }) => `${interactable} ${distance.toFixed(2)} of ${radius.toFixed(2)} m`,
      ),
    ],
  ]
  const told = rows.filter(([name, parts]) => parts.length > 0 || name === 'press')
  return told.map(([name, parts]) => {
    const text = parts.length === 0 ? 'nothing would answer' : parts.join(', ')
    const [first, ...rest] = wrapped(printable(text), columns - 9, '').split('\n')
    const head = `       ${colour.faint(name.padEnd(9))}${first ?? ''}`
    return [head, ...rest.map((line) => `${' '.repeat(16)}${line}`)].join('\n')
  })
}

/** What differs between two moments. */
function changes(before: Inspection, now: Inspection): string[] {
  const states = now.states.flatMap(({ interactable, state }, i) =>
    before.states[i]!.state === state ? [] : [`${interactable} ${before.states[i]!.state} -> ${state}`],
  )
  const flags = now.flags.flatMap(({ flag, is }, i) =>
    before.flags[i]!.is === is ? [] : [`${flag} ${is ? 'is set' : 'is cleared'}`],
  )
  const counters = now.counters.flatMap(({ counter, is }, i) =>
    before.counters[i]!.is === is ? [] : [`${counter} ${String(before.counters[i]!.is)} -> ${String(is)}`],
  )
  const items = [...new Set([...Object.keys(before.carries), ...Object.keys(now.carries)])].flatMap((item) => {
    const [old, count] = [before.carries[item] ?? 0, now.carries[item] ?? 0]
    return old === count ? [] : [`${item} ${String(old)} -> ${String(count)}`]
  })
  return [...states, ...items, ...flags, ...counters]
}

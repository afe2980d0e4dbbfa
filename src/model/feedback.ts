import * as z from 'zod'
import { length, name, seconds, text } from './parts.ts'
import { type Context, exactlyOne, tell, together } from './rules.ts'
import { type Channel, channels, reasons } from './vocabulary.ts'

/** Channels that go on for a time. */
const lasting = ['message', 'highlight', 'light', 'shake', 'burst', 'icon', 'rumble'] as const

/** One thing that is perceived. Exactly one channel is given. */
export const feedback = z
  .strictObject({
    sound: name.optional().describe('A sound is heard.'),
    pitch: z.number().min(0.1).max(10).optional().describe('With sound: how high; 1, as it is, if left out.'),
    varies: z
      .number()
      .min(0)
      .max(1)
      .optional()
      .describe('With sound: by what share the pitch may differ each time; not at all if left out.'),
    message: text.optional().describe('A message is read; {item} and {count} stand for what it is about.'),
    prompt: text.optional().describe('Words that are shown while a press would go to it.'),
    key: text.max(20).optional().describe('With prompt: what is pressed for it, such as E.'),
    shown: z
      .enum(['in-range', 'if-accepted'])
      .optional()
      .describe('With prompt: always, or only while a press would be accepted; in range if left out.'),
    popup: text.optional().describe('Words that must be dismissed before anything else can be done.'),
    highlight: name.optional().describe('It stands out, in this manner.'),
    light: name.optional().describe('A light shines, of this colour.'),
    shake: name.optional().describe('Its body moves on its spot, in this manner: shakes, sinks.'),
    burst: name.optional().describe('Sparks, dust or the like, which end.'),
    icon: name.optional().describe('A picture is kept on the screen.'),
    counts: name.optional().describe('With icon: how many are carried of this item; it is there while some are.'),
    hide: name.optional().describe('An icon is taken off the screen.'),
    rumble: z.number().min(0).max(1).optional().describe('What is held in the hands shakes: 0 hardly, 1 hard.'),
    for: seconds.optional().describe(`How many seconds it lasts, with ${lasting.join(', ')}.`),
    because: z.enum(reasons).optional().describe('Where a press is refused: only for this reason.'),
    to: z
      .union([z.enum(['actor', 'all']), z.strictObject({ within: length })])
      .optional()
      .describe(
        'Who perceives it: the character that acted, all, or those within so many metres. If left out, all for what is heard or seen on the spot, the character that acted for the rest.',
      ),
    once: z.boolean().optional().describe('Only the first time.'),
    pause: seconds.optional().describe('Not again for so many seconds.'),
  })
  .superRefine((value, context) => {
    exactlyOne(value, channels, context)
    together(value, 'pitch', ['sound'], context)
    together(value, 'varies', ['sound'], context)
    together(value, 'key', ['prompt'], context)
    together(value, 'shown', ['prompt'], context)
    together(value, 'counts', ['icon'], context)
    together(value, 'for', lasting, context)
    if (value.once && value.pause !== undefined) tell(context, ['pause'], 'not beside once')
    if (value.counts !== undefined && value.for !== undefined) tell(context, ['for'], 'not beside counts')
  })

/** One thing that is perceived. */
export type Feedback = z.infer<typeof feedback>

/** What can be perceived for as long as a press would go to something. */
const whileFocused: readonly Channel[] = ['prompt', 'highlight', 'light', 'icon']

const list = z.array(feedback)

/** What is perceived of something that happens: a prompt is not, it is there before. */
export const told = list.superRefine((entries, context) => {
  entries.forEach((entry, i) => {
    if (entry.prompt !== undefined) tell(context, [String(i), 'prompt'], 'focused, for a prompt')
  })
})

/** Feedback by moment. */
export const feedbackByMoment = z.strictObject({
  focused: list
    .superRefine(checkFocused)
    .optional()
    .describe(`A press would go to it: ${whileFocused.join(', ')}, for as long as that is so.`),
  accepted: told.optional().describe('A press, or walking into or out of a zone, was accepted.'),
  refused: told.optional().describe('A press was refused.'),
  missing: told.optional().describe('A press was refused because an item is missing; used instead of refused.'),
  'too-full': told
    .optional()
    .describe('There was no room for all that was given; or a press was refused for that: then instead of refused.'),
  started: told.optional().describe('A motion begins.'),
  finished: told.optional().describe('A motion ends.'),
  gained: told.optional().describe('The character that acted got an item.'),
  consumed: told.optional().describe('The character that acted used an item up, or lost it.'),
})

function checkFocused(entries: readonly Feedback[], context: Context): void {
  entries.forEach((entry, i) => {
    const channel = channels.find((one) => entry[one] !== undefined)
    if (channel && !whileFocused.includes(channel)) {
      tell(context, [String(i), channel], `one of ${whileFocused.join(', ')}`)
    }
    for (const key of ['for', 'once', 'pause', 'because'] as const) {
      if (entry[key] !== undefined) tell(context, [String(i), key], 'nothing: it lasts while a press would go to it')
    }
  })
}

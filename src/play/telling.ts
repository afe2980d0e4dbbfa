import type { Check, Placed, PlacedTransition } from '../interactables/index.ts'
import { type Channel, channelOf, type Feedback, type Moment, type Reason } from '../model/index.ts'
import { metresTo, type Point } from '../space/index.ts'
import type { Happening } from './log.ts'
import type { Stage } from './stage.ts'

/** What `{item}` and `{count}` stand for. */
export interface About {
  /** The name of an item. */
  readonly item: string
  readonly count: number
}

/** Something that goes on being perceived for a time. */
export interface Showing {
  readonly channel: Channel
  readonly text: string
  readonly interactable: string
  /** In ms of the play. */
  readonly until: number
  /** The characters that perceive it, by index. */
  readonly to: readonly number[]
}

/** A picture on the screen of a character. */
export interface Icon {
  readonly icon: string
  /** The item whose number is shown with it, by name; null: none. */
  readonly counts: string | null
  /** In ms of the play; `Infinity`: until it is taken off. */
  readonly until: number
}

/** How long, in ms, things last where an entry does not say. */
const usual: Readonly<Partial<Record<Channel, number>>> = {
  message: 4000,
  highlight: 1000,
  light: 1000,
  shake: 400,
  burst: 800,
  rumble: 300,
}

/** What everybody perceives where an entry does not say: what is heard or seen on the spot. */
const forAll: readonly Channel[] = ['sound', 'highlight', 'light', 'shake', 'burst']

/** Who perceives an entry: what it says, or else all what is heard or seen on the spot, and the character that acted the rest. */
export function toldTo(entry: Feedback): NonNullable<Feedback['to']> {
  return entry.to ?? (forAll.includes(channelOf(entry)) ? 'all' : 'actor')
}

interface Perceived {
  /** When entries that do not come again at once were perceived last, in ms of the play, by interactable. */
  readonly told: ReadonlyMap<number, ReadonlyMap<Feedback, number>>
  readonly showing: readonly Showing[]
  readonly popups: readonly (readonly Popup[])[]
  readonly icons: readonly (readonly Icon[])[]
}

/** What is perceived, as plain values: entries by their number among all of an interactable, `null` for what stays. */
export interface TellingSave {
  readonly told: readonly (readonly [machine: number, entry: number, at: number])[]
  readonly showing: readonly Showing[]
  readonly popups: readonly (readonly Popup[])[]
  readonly icons: readonly (readonly (Omit<Icon, 'until'> & { readonly until: number | null })[])[]
}

/** A notice that is to be dismissed. */
export interface Popup {
  readonly interactable: string
  readonly text: string
}

/** What is perceived in a play: who perceives what, for how long, what comes only once, what waits to be dismissed. */
export class Telling {
  readonly #stage: Stage
  readonly #now: () => number
  readonly #spotOf: (character: number) => Point
  readonly #note: (entry: Happening) => void
  #memory: Perceived

  constructor(stage: Stage, now: () => number, spotOf: (character: number) => Point, note: (entry: Happening) => void) {
    this.#stage = stage
    this.#now = now
    this.#spotOf = spotOf
    this.#note = note
    const nobody = stage.expanded.characters.map(() => [])
    this.#memory = { told: new Map(), showing: [], popups: nobody, icons: nobody }
  }

  /** All that is so at this moment, to go back to. */
  get memory(): Perceived {
    return this.#memory
  }

  set memory(memory: Perceived) {
    this.#memory = memory
  }

  save(): TellingSave {
    const { told, showing, popups, icons } = this.#memory
    return {
      told: [...told].flatMap(([machine, own]) =>
        [...own].map(([entry, at]) => [machine, this.#entriesOf(machine).indexOf(entry), at] as const),
      ),
      showing,
      popups,
      icons: icons.map((own) => own.map((icon) => ({ ...icon, until: icon.until === Infinity ? null : icon.until }))),
    }
  }

  restore({ told, showing, popups, icons }: TellingSave): void {
    const all = new Map<number, Map<Feedback, number>>()
    for (const [machine, entry, at] of told) {
      const own = all.get(machine) ?? new Map<Feedback, number>()
      all.set(machine, own.set(this.#entriesOf(machine)[entry]!, at))
    }
    const pinned = icons.map((own) => own.map((icon) => ({ ...icon, until: icon.until ?? Infinity })))
    this.#memory = { told: all, showing, popups, icons: pinned }
  }

  /** All feedback of an interactable, each entry once, in an order that is always the same. */
  #entriesOf(machine: number): Feedback[] {
    const { feedback, transitions } = this.#stage.expanded.interactables[machine]!
    const own = transitions.flatMap((one) => [...one.feedback, ...(one.refused ?? [])])
    return [...new Set([...Object.values(feedback).flatMap((entries) => entries ?? []), ...own])]
  }

  /** What a character has to dismiss before anything else; null: nothing. */
  popupOf(character: number): Popup | null {
    return this.#memory.popups[character]![0] ?? null
  }

  /** All popups of a character, in the order in which they come up. */
  popupsOf(character: number): readonly Popup[] {
    return this.#memory.popups[character]!
  }

  /** A character dismisses its popup. */
  dismiss(character: number): void {
    const popups = this.#memory.popups.map((own, who) => (who === character ? own.slice(1) : own))
    this.#memory = { ...this.#memory, popups }
  }

  /** What a character perceives that goes on for a time. */
  showing(character: number): Showing[] {
    return this.#memory.showing.filter(({ until, to }) => until > this.#now() && to.includes(character))
  }

  /** The pictures on the screen of a character. */
  icons(character: number): Icon[] {
    return this.#memory.icons[character]!.filter(({ until }) => until > this.#now())
  }

  /** Tells what there is to perceive of a moment of an interactable, to those who perceive it. */
  tell(
    machine: number,
    moment: Moment | 'transition',
    entries: readonly Feedback[] | undefined,
    actor: number,
    about: About | null = null,
  ): void {
    for (const entry of entries ?? []) {
      const to = this.#perceivers(entry, machine, actor)
      if (to.length > 0 && this.#isDue(entry, machine)) this.#perceive(machine, moment, entry, to, about)
    }
  }

  /** Whether an entry may be perceived again; that it is, is kept in mind. */
  #isDue(entry: Feedback, machine: number): boolean {
    if (!entry.once && entry.pause === undefined) return true
    const { told } = this.#memory
    const own = told.get(machine)
    const before = own?.get(entry)
    const isDue = before === undefined || (!entry.once && this.#now() - before >= Math.round((entry.pause ?? 0) * 1000))
    if (!isDue) return false
    const now = new Map(own).set(entry, this.#now())
    this.#memory = { ...this.#memory, told: new Map(told).set(machine, now) }
    return true
  }

  #perceivers(entry: Feedback, machine: number, actor: number): number[] {
    const { characters } = this.#stage.expanded
    const all = characters.map((_, who) => who)
    const said = toldTo(entry)
    if (said === 'all') return all
    if (said === 'actor') return actor >= 0 ? [actor] : all.filter((who) => characters[who]!.role === 'player')
    const { layout } = this.#stage.space
    return all.filter((who) => metresTo(layout, machine, this.#spotOf(who)) <= said.within)
  }

  #perceive(
    machine: number,
    moment: Moment | 'transition',
    entry: Feedback,
    to: readonly number[],
    about: About | null,
  ): void {
    const { interactables, characters } = this.#stage.expanded
    const channel = channelOf(entry)
    const said = String(entry[channel])
    const text = channel === 'message' || channel === 'popup' ? filledText(this.#stage, said, machine, about) : said
    const { name } = interactables[machine]!
    const lasts = entry.for === undefined ? (usual[channel] ?? null) : Math.round(entry.for * 1000)
    const names = to.map((who) => characters[who]!.name)
    const { pitch = null, varies = null } = entry
    this.#note({ what: 'feedback', interactable: name, moment, channel, text, to: names, lasts, pitch, varies })
    if (channel === 'popup') this.#show(name, text, to)
    else if (channel === 'icon') this.#pin(to, text, entry.counts ?? null, lasts)
    else if (channel === 'hide') this.#pin(to, text, null, 0)
    else if (lasts !== null) {
      const now = this.#now()
      const running = this.#memory.showing.filter(({ until }) => until > now)
      const more = { channel, text, interactable: name, until: now + lasts, to }
      this.#memory = { ...this.#memory, showing: [...running, more] }
    }
  }

  /** The same popup asked for twice does not stack; another one waits its turn. */
  #show(interactable: string, text: string, to: readonly number[]): void {
    const popups = this.#memory.popups.map((own, who) => {
      const isUp = own.some((one) => one.interactable === interactable && one.text === text)
      return to.includes(who) && !isUp ? [...own, { interactable, text }] : own
    })
    this.#memory = { ...this.#memory, popups }
  }

  #pin(to: readonly number[], icon: string, counts: string | null, lasts: number | null): void {
    const until = lasts === null ? Infinity : this.#now() + lasts
    const icons = this.#memory.icons.map((own, who) => {
      if (!to.includes(who)) return own
      const others = own.filter((one) => one.icon !== icon)
      return lasts === 0 ? others : [...others, { icon, counts, until }]
    })
    this.#memory = { ...this.#memory, icons }
  }
}

/** What is perceived of a refusal for some reasons: of the transition, of the reason, or in general. */
export function refusalFeedback(
  placed: Placed,
  { refused }: Pick<PlacedTransition, 'refused'>,
  why: readonly Reason[],
): { readonly moment: Moment; readonly entries: readonly Feedback[] } {
  const { missing, 'too-full': tooFull, refused: general } = placed.feedback
  const fits = ({ because }: Feedback): boolean => because === undefined || why.includes(because)
  const [moment, entries] =
    refused !== null
      ? (['refused', refused] as const)
      : missing && why.includes('carries')
        ? (['missing', missing] as const)
        : tooFull && (why.includes('room-for') || why.includes('something-fits'))
          ? (['too-full', tooFull] as const)
          : (['refused', general ?? []] as const)
  return { moment, entries: entries.filter(fits) }
}

/** Why a press on a transition was refused, by what did not hold. */
export function reasonsFor({ isRefusal }: Pick<PlacedTransition, 'isRefusal'>, unmet: readonly Check[]): Reason[] {
  return isRefusal ? ['always'] : unmet.map(reasonOf)
}

function reasonOf(check: Check): Reason {
  switch (check.kind) {
    case 'room':
      return 'room-for'
    case 'fits':
      return 'something-fits'
    case 'role':
      return 'acts'
    case 'state':
      return 'interactable'
    case 'never':
    case 'all':
    case 'any':
      return 'always'
    default:
      return check.kind
  }
}

/** A text with `{item}` and `{count}` filled in: by what it is about, or by what the interactable asks for. */
export function filledText({ expanded }: Stage, text: string, machine: number, about: About | null): string {
  const { interactables, items } = expanded
  const pressKinds = about ?? interactables[machine]?.asksFor
  if (!pressKinds) return text
  const title = items.find(({ name }) => name === pressKinds.item)?.title ?? pressKinds.item
  return text.replaceAll('{item}', title).replaceAll('{count}', String(pressKinds.count))
}

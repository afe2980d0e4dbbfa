import { readFileSync, renameSync, writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import { isMap, isScalar, isSeq, parseDocument } from 'yaml'

// Turns levels, walkthroughs and projects in the words of before into those of docs/words.md. Comments, order and layout stay
// as they are, but for what has to move. What is in the new words already is left alone.
//   node scripts/convert.mjs FILE…

/** A text in the new words; the same text where nothing has to change. Throws where it cannot be read. */
export function converted(text) {
  return regrouped(renamed(text))
}

// Keys and values that just have another name.

/** Finds keys and values that have another name, by where they stand, and puts it there. */
function renamed(text) {
  const document = parsed(text)
  const kind = kindOf(document)
  if (!kind) return text
  const edits = []
  const rename = (node, name) => edits.push({ start: node.range[0], end: node.range[1], text: name })
  visit(document.contents, [], (pair, path) => {
    const { key, value } = pair
    const name = String(key.value)
    const said = isScalar(value) ? value.value : undefined
    const toKey = keysFor(kind, path, name, said, document)
    if (toKey) rename(key, toKey)
    const toValue = valueFor(kind, path, name, said, document)
    if (toValue !== undefined) rename(value, toValue)
  })
  visitScalars(document.contents, [], (node, path) => {
    const to = itemFor(kind, path, node.value)
    if (to !== undefined) rename(node, to)
  })
  return spliced(text, edits)
}

const inFeedback = (path) => path.includes('feedback') || path.includes('refused')
/** Where conditions stand: whatever is inside one has the same keys. */
const conditions = ['guard', 'becomes', 'offered', 'goals', 'needs', 'while', 'all', 'any', 'not']
const inCondition = (path) => path.some((key) => conditions.includes(key))

function keysFor(kind, path, name, said, document) {
  const last = path.at(-1)
  if (kind === 'project') return path.length === 0 && name === 'starts' ? 'start' : null
  if (kind === 'walkthrough') {
    const step = path.length === 2 && path[0] === 'steps'
    if (step && name === 'take') return 'remove'
    if (!path.includes('expect')) return null
    return { notice: 'popup', motion: 'shake' }[name] ?? null
  }
  if (path.length === 0 && name === 'accepted') return 'accepted-findings'
  if (path[0] === 'types' && path.length === 2 && name === 'holds') return 'contains'
  if (path[0] === 'characters' && path.length === 2 && name === 'girth') return 'radius'
  if (name === 'aid') return 'test-only'
  if (name === 'starts' && ['flags', 'counters', 'interactables'].includes(path[0]) && path.length === 2)
    return 'initial'
  if (name === 'starts' && (last === 'set' || last === 'dial')) return 'initial'
  if (name === 'noticed' && last === 'feedback') return 'focused'
  if (name === 'spent' && last === 'feedback') return 'consumed'
  if (inFeedback(path) && name === 'notice') return 'popup'
  if (inFeedback(path) && name === 'motion') return 'shake'
  if (name === 'then' && (last === 'lock' || (last === 'set' && ['keep', 'spend'].includes(said)))) return 'item-use'
  if (last === 'lock' && name === 'opens') return 'unlocking'
  if (last === 'lock' && name === 'takes') return 'consumes'
  if (path.includes('effects')) {
    const effect = { take: 'remove', spend: 'consume', move: 'move-to', leave: 'exit-to' }[name]
    if (effect && isEffect(path)) return effect
  }
  if (name === 'there' && path[0] === 'types' && last === 'states' && baseOf(document, path[1]) === 'pickup')
    return 'available'
  if (path[0] === 'types' && last === 'zones' && oldZones.includes(name) && baseOf(document, path[1]) !== null)
    return 'near'
  if (path[0] === 'interactables' && last === 'zones' && oldZones.includes(name)) return 'near'
  if (inCondition(path) && !isEffect(path) && (name === 'holds' || name === 'dialled')) {
    return name === 'holds' ? 'contains' : 'dial'
  }
  if (last === 'motion' && path.includes('states'))
    return { turn: 'degrees', slide: 'offset', way: 'direction' }[name] ?? null
  return null
}

const oldZones = ['area', 'top', 'way']
const isEffect = (path) => path.at(-2) === 'effects'

function valueFor(kind, path, name, said, document) {
  if (name === 'girth' && typeof said === 'number') return String(Math.round((said / 2) * 1e6) / 1e6)
  if (kind === 'walkthrough') {
    if (name === 'walk-to' && typeof said === 'string') return said.replace(/\/(area|top|way)$/, '/near')
    if (name === 'is' && said === 'there') return 'available'
    if (name === 'into' && said === 'there') return 'available'
    return undefined
  }
  if (kind !== 'level') return undefined
  if (name === 'type' && said === 'plate') return 'pressure-plate'
  if (name === 'extends' && said === 'plate') return 'pressure-plate'
  if (name === 'then' && said === 'spend') return 'consume'
  if (name === 'opens' && path.at(-1) === 'lock') return { 'at-once': 'opens', 'next-press': 'unlocks-only' }[said]
  if (name === 'trigger' && said === 'moved') return 'motion-end'
  if (name === 'is' && said === 'there')
    return isPickup(document, beside(document, path, 'interactable')) ? 'available' : undefined
  if ((name === 'from' || name === 'to') && said === 'there' && path.includes('transitions')) {
    return baseOf(document, path[1]) === 'pickup' ? 'available' : undefined
  }
  if (['enter', 'leave', 'inside'].includes(name) && oldZones.includes(said)) {
    const isOwn = path[0] === 'types' && ownZones(document, path[1]).includes(said)
    return isOwn ? undefined : 'near'
  }
  if (name === 'rule' && rules[said]) return rules[said]
  if (name === 'of' && typeof said === 'string' && path[0]?.startsWith('accepted')) {
    return said
      .replace(/\/there$/, '/available')
      .replace(/\/noticed$/, '/focused')
      .replace(/\/spent$/, '/consumed')
  }
  if (name === 'because' && reasons[said]) return reasons[said]
  if ((name === 'if' || name === 'setting') && settings[said]) return settings[said]
  return undefined
}

/** Entries of lists that have another name: settings by their path, in what is joined by all, any or not. */
function itemFor(kind, path, said) {
  if (kind !== 'level' || !path.includes('if')) return undefined
  return settings[said]
}

const reasons = { holds: 'contains', dialled: 'dial' }

const rules = {
  'item-for-nothing': 'unused-item',
  'lock-without-item': 'unobtainable-item',
  'never-heard': 'unused-feedback',
  stuck: 'stuck-state',
  'idle-acceptance': 'stale-acceptance',
  'met-at-once': 'goal-already-met',
  'answers-nothing': 'inert-interactable',
  'wrong-item-told': 'wrong-item-named',
  'odd-copy': 'inconsistent-instance',
  'copied-reference': 'stale-reference',
  'leftover-aid': 'leftover-test-only',
}

/** Settings of built-in types by their paths, where types that extend them ask for them. */
const settings = {
  'lock.then': 'lock.item-use',
  'lock.opens': 'lock.unlocking',
  'lock.takes': 'lock.consumes',
  'opens.by-press': 'opened-by.press',
  'opens.by-area': 'opened-by.enter',
  'opens.by-touch': 'opened-by.touch',
  'opens.by-signal': 'opened-by.signal',
  'closes.by-press': 'closed-by.press',
  'closes.when-left': 'closed-by.leave',
  'closes.by-signal': 'closed-by.signal',
  'closes.asked': 'closes.when-asked-again',
  moves: 'motion.kind',
  slides: 'motion.offset',
  'lid.over': 'motion.over',
  'swing.degrees': 'motion.degrees',
  'swing.over': 'motion.over',
  'swing.speed': 'motion.speed',
  'swing.way': 'motion.direction',
  'swing.ease': 'motion.ease',
  'swing.pressed-again': 'motion.press-while-moving',
  'leads.to': 'exit-to.place',
  'leads.level': 'exit-to.level',
  'leads.drops': 'exit-to.drops',
  leads: 'exit-to',
}

// Settings that stand in another group, and expectations that are written with other keys.

function regrouped(text) {
  let now = text
  for (;;) {
    const document = parsed(now)
    const kind = kindOf(document)
    let edit = null
    visit(document.contents, [], (pair, path) => {
      edit ??= regrouping(kind, pair, path, now, document)
    })
    if (!edit) return now
    now = spliced(now, [edit])
  }
}

/** The first thing in a pair that has to stand otherwise; null where there is none. */
function regrouping(kind, { key, value }, path, text, document) {
  const name = String(key.value)
  if (kind === 'level' && name === 'set' && isMap(value) && path[0] === 'interactables') {
    return regroupedSettings(value, baseOf(document, typeOf(document, path[1])), text)
  }
  if (kind === 'level' && name === 'motion' && isMap(value) && path.includes('states') && !value.has('kind')) {
    const kindOfMotion = value.has('degrees') ? 'turn' : value.has('offset') ? 'slide' : null
    if (kindOfMotion) return insertedFirst(value, `kind: ${kindOfMotion}`, text)
  }
  if (kind === 'walkthrough' && (name === 'expect' || name === 'not') && isMap(value)) {
    return regroupedExpectation(value, text)
  }
  return null
}

function regroupedExpectation(map, text) {
  const source = (name) => sourceOf(map.get(name, true), text)
  const others = (...names) =>
    map.items.filter(({ key }) => !names.includes(key.value)).map((pair) => pairText(pair, text))
  if (map.has('left')) {
    return whole(map, [`contains: ${source('left')}`, ...others('left')])
  }
  if (map.has('in')) {
    const [of, zone] = String(map.get('in')).split('/')
    const inside =
      zone === undefined ? [`inside: ${of}`] : [`inside: ${oldZones.includes(zone) ? 'near' : zone}`, `of: ${of}`]
    return whole(map, [...inside, ...others('in')])
  }
  if (map.has('shows')) {
    return whole(map, [`dial: ${source('shows')}`, `of: ${source('dial')}`, ...others('shows', 'dial')])
  }
  return null
}

/** A map in braces, with other entries. */
function whole(map, entries) {
  return { start: map.range[0], end: map.range[1], text: `{ ${entries.join(', ')} }` }
}

/** Settings of one instance: each group that changed, in place of the old ones. */
function regroupedSettings(map, base, text) {
  return (
    toMotion(map, base, text) ??
    toList(map, 'opens', 'opened-by', openers, text) ??
    toList(map, 'closes', 'closed-by', closers, text, base) ??
    toExit(map) ??
    asked(map, text) ??
    takenBy(map, text)
  )
}

const moving = {
  moves: 'kind',
  slides: 'offset',
  degrees: 'degrees',
  over: 'over',
  way: 'direction',
  'pressed-again': 'press-while-moving',
}

function toMotion(map, base, text) {
  const parts =
    base === 'drawer'
      ? ['moves', 'slides', 'degrees', 'over']
      : base === 'chest'
        ? ['lid']
        : ['moves', 'slides', 'swing']
  if (!['door', 'drawer', 'chest'].includes(base)) return null
  const old = map.items.filter(({ key }) => parts.includes(key.value))
  if (old.length === 0) return null
  const entries = old.flatMap((pair) => {
    const name = pair.key.value
    if (name === 'swing' || name === 'lid') {
      return pair.value.items.map((inner, i) => {
        const own = commentAfter(inner.value, text)
        const comment = own !== '' || map.flow || i > 0 || !pair.value.flow ? own : commentAfter(pair.value, text)
        return { text: `${moving[inner.key.value] ?? inner.key.value}: ${sourceOf(inner.value, text)}`, comment }
      })
    }
    return [{ text: `${moving[name]}: ${sourceOf(pair.value, text)}`, comment: commentAfter(pair.value, text) }]
  })
  const isInLine =
    old.every(({ value }) => !isMap(value) || value.flow) && entries.filter(({ comment }) => comment !== '').length < 2
  if (!isInLine) {
    const comment = joined(...old.map((pair) => headComment(pair, text)))
    return replacedPairs(map, old, [{ name: 'motion', entries, comment }], text)
  }
  const line = `motion: { ${entries.map((one) => one.text).join(', ')} }`
  return replacedPairs(map, old, [{ line, comment: entries.map(({ comment }) => comment).join('') }], text)
}

const openers = { 'by-press': 'press', 'by-area': 'enter', 'by-touch': 'touch', 'by-signal': 'signal' }
const closers = { 'by-press': 'press', 'when-left': 'leave', 'by-signal': 'signal' }

/** Says in a list what opens or closes something. */
function toList(map, group, list, names, text, base = null) {
  const pair = map.items.find(({ key }) => key.value === group)
  if (!pair || map.has(list)) return null
  if (group === 'closes' && base === 'drawer') {
    const entry = `${list}: ${pair.value.value === false ? '[]' : '[press]'}`
    return replacedPairs(map, [pair], [{ line: entry, comment: commentAfter(pair.value, text) }], text)
  }
  if (!isMap(pair.value)) return null
  const said = pair.value.items.filter(({ key }) => Object.hasOwn(names, key.value))
  if (said.length === 0) return null
  const rest = pair.value.items.filter((inner) => !said.includes(inner))
  const value = (name) => said.find(({ key }) => key.value === name)?.value
  const entries = Object.entries(names).flatMap(([name, entry]) => {
    if (entry === 'signal') return value(name) ? [`{ signal: ${sourceOf(value(name), text)} }`] : []
    const isOn = value(name)?.value ?? name === 'by-press'
    return isOn ? [entry] : []
  })
  const comment = said
    .map((inner) => commentAfter(inner.value, text))
    .filter((one) => one !== '')
    .join(' #')
    .replaceAll('# #', '#')
  const own = pair.value.flow ? commentAfter(pair.value, text) : ''
  const listed = { line: `${list}: [${entries.join(', ')}]`, comment: joined(comment, rest.length === 0 ? own : '') }
  if (rest.length === 0) return replacedPairs(map, [pair], [listed], text)
  const kept =
    pair.value.flow && !map.flow
      ? { line: `${group}: { ${rest.map((inner) => pairText(inner, text)).join(', ')} }`, comment: own }
      : {
          name: group,
          comment: headComment(pair, text),
          entries: rest.map((inner) => ({ text: pairText(inner, text), comment: commentAfter(inner.value, text) })),
        }
  return replacedPairs(map, [pair], [kept, listed], text)
}

/** The comment behind a key whose value begins on the next line; empty where there is none. */
function headComment({ key }, text) {
  return /^:[ \t]*(#.*)$/.exec(text.slice(key.range[1], endOfLine(key, text)))?.[1] ?? ''
}

function joined(...comments) {
  const all = comments.filter((one) => one !== '').map((one) => one.replace(/^#\s*/, ''))
  return all.length > 0 ? `# ${all.join(' ')}` : ''
}

function toExit(map) {
  const pair = map.items.find(({ key }) => key.value === 'leads')
  if (!pair || !isMap(pair.value)) return null
  const to = pair.value.items.find(({ key }) => key.value === 'to')
  if (to) return { start: to.key.range[0], end: to.key.range[1], text: 'place' }
  return { start: pair.key.range[0], end: pair.key.range[1], text: 'exit-to' }
}

function asked(map, text) {
  const closes = map.get('closes', true)
  const pair = isMap(closes) ? closes.items.find(({ key }) => key.value === 'asked') : null
  if (!pair) return null
  const value =
    { 'goes-on': 'keep-timer', 'starts-over': 'restart-timer' }[pair.value.value] ?? sourceOf(pair.value, text)
  return { start: pair.key.range[0], end: pair.value.range[1], text: `when-asked-again: ${value}` }
}

function takenBy(map) {
  const value = map.get('taken-by', true)
  return isScalar(value) ? { start: value.range[0], end: value.range[1], text: `[${String(value.value)}]` } : null
}

/** Puts other entries in place of some pairs of a map: where the first of them was. */
function replacedPairs(map, old, entries, text) {
  if (map.flow) {
    const made = entries.map(
      ({ line, name, entries: inner }) => line ?? `${name}: { ${inner.map((one) => one.text).join(', ')} }`,
    )
    const all = map.items.flatMap((pair) => (pair === old[0] ? made : old.includes(pair) ? [] : [pairText(pair, text)]))
    return whole(map, all)
  }
  const lineStart = (at) => text.lastIndexOf('\n', at - 1) + 1
  const column = old[0].key.range[0] - lineStart(old[0].key.range[0])
  const indent = ' '.repeat(column)
  const made = entries.flatMap(({ line, comment, name, entries: inner }) =>
    line === undefined
      ? [
          `${name}:${comment ? ` ${comment}` : ''}`,
          ...inner.map((one) => `  ${one.text}${one.comment === '' ? '' : ` ${one.comment}`}`),
        ]
      : [`${line}${comment === '' ? '' : ` ${comment}`}`],
  )
  const blocks = map.items.map((pair, i) => {
    const end = map.items[i + 1] ? lineStart(map.items[i + 1].key.range[0]) : endOfLine(pair.value, text)
    return { pair, text: text.slice(pair.key.range[0], end).trimEnd() }
  })
  const all = blocks.flatMap(({ pair, text: block }) => (pair === old[0] ? made : old.includes(pair) ? [] : [block]))
  const end = endOfLine(map.items.at(-1).value, text)
  return { start: map.items[0].key.range[0], end, text: all.join(`\n${indent}`) }
}

function endOfLine(node, text) {
  const end = text.indexOf('\n', Math.max(node.range[1] - 1, 0))
  return end < 0 ? text.length : end
}

function insertedFirst(map, entry, text) {
  const at = map.items[0].key.range[0]
  if (map.flow) return { start: at, end: at, text: `${entry}, ` }
  const column = at - (text.lastIndexOf('\n', at - 1) + 1)
  return { start: at, end: at, text: `${entry}\n${' '.repeat(column)}` }
}

// What documents are made of.

function parsed(text) {
  const document = parseDocument(text, { uniqueKeys: false })
  if (document.errors.length > 0) throw new Error(document.errors[0].message)
  return document
}

function kindOf({ contents }) {
  if (!isMap(contents)) return null
  return contents.has('zintel')
    ? 'level'
    : contents.has('walkthrough')
      ? 'walkthrough'
      : contents.has('project')
        ? 'project'
        : null
}

/** The built-in type that a type of a level is, or extends; null where there is none. */
function baseOf(document, type, seen = []) {
  const own = document.getIn(['types', type])
  if (!own) return type ?? null
  const other = document.getIn(['types', type, 'extends'])
  return typeof other === 'string' && !seen.includes(other) ? baseOf(document, other, [...seen, type]) : null
}

function typeOf(document, instance) {
  return document.getIn(['interactables', instance, 'type'])
}

/** The zones that a type has by itself and does not take from a built-in one. */
function ownZones(document, type) {
  const zones = document.getIn(['types', type, 'zones'])
  return baseOf(document, type) === null && isMap(zones) ? zones.items.map(({ key }) => String(key.value)) : []
}

function isPickup(document, instance) {
  return baseOf(document, typeOf(document, instance)) === 'pickup'
}

/** The value of a key beside another, by the path of the map that both are in. */
function beside(document, path, key) {
  return document.getIn([...path.map((part) => (/^\d+$/.test(part) ? Number(part) : part)), key])
}

function visit(node, path, tell) {
  if (isMap(node)) {
    for (const pair of node.items) {
      if (!isScalar(pair.key)) continue
      tell(pair, path)
      visit(pair.value, [...path, String(pair.key.value)], tell)
    }
  }
  if (isSeq(node)) for (const [i, item] of node.items.entries()) visit(item, [...path, String(i)], tell)
}

function visitScalars(node, path, tell) {
  if (isMap(node)) for (const { key, value } of node.items) visitScalars(value, [...path, String(key.value)], tell)
  if (!isSeq(node)) return
  for (const [i, item] of node.items.entries()) {
    if (isScalar(item)) tell(item, path)
    else visitScalars(item, [...path, String(i)], tell)
  }
}

function sourceOf(node, text) {
  return text.slice(node.range[0], node.range[1]).trimEnd()
}

function pairText({ key, value }, text) {
  return value?.range ? text.slice(key.range[0], value.range[1]).trimEnd() : text.slice(key.range[0], key.range[1])
}

/** The comment at the end of the line on which a value ends; empty where there is none. */
function commentAfter(node, text) {
  const rest = text.slice(node.range[1], endOfLine(node, text))
  return /^[ \t,]*(#.*)$/.exec(rest)?.[1] ?? ''
}

function spliced(text, edits) {
  let now = text
  for (const { start, end, text: made } of [...edits].sort((a, b) => b.start - a.start)) {
    now = now.slice(0, start) + made + now.slice(end)
  }
  return now
}

function main(files) {
  if (files.length === 0) {
    console.error(
      'node scripts/convert.mjs FILE…: puts levels, walkthroughs and projects into the words of docs/words.md',
    )
    return 2
  }
  let code = 0
  for (const file of files) {
    try {
      const text = readFileSync(file, 'utf8')
      const now = converted(text)
      if (now === text) console.log(`${file}: nothing to change`)
      else {
        writeFileSync(`${file}.part`, now)
        renameSync(`${file}.part`, file)
        console.log(`${file}: converted`)
      }
    } catch (error) {
      console.error(`${file}: ${error instanceof Error ? error.message : String(error)}`)
      code = 2
    }
  }
  return code
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) process.exitCode = main(process.argv.slice(2))

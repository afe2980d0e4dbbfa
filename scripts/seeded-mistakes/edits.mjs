/** The path of what an edit changes. */
export function pathOf(edit) {
  return edit.do === 'add' ? `${edit.path}.${edit.key}` : edit.path
}

/** The words that an edit takes out or puts in: the other places where they stand are its counterparts. */
export function wordsOf(value, edit) {
  const keys = edit.path.split('.')
  const words = new Set(keys.length === 2 || keys.at(-2) === 'states' ? [keys.at(-1)] : [])
  const collect = (_key, part) => {
    if (typeof part === 'string') words.add(part)
    return part
  }
  JSON.stringify(partAt(value, edit.path) ?? null, collect)
  JSON.stringify(edit.value ?? null, collect)
  return [...words]
}

export function partAt(value, path) {
  return path.split('.').reduce((part, key) => part?.[key], value)
}

/** What can be done wrong in one place of a level. */
export function mistakes(level) {
  const all = []
  const add = (kind, does, edit) => all.push({ kind, does, edit })
  const items = Object.keys(level.items ?? {})
  const names = Object.keys(level.interactables ?? {})
  walk(level, '', (path, key, value) => {
    const at = path.split('.')
    const isInside = at[0] === 'interactables' || at[0] === 'types'
    if (isInside && at.length >= 4 && !['at', 'turn'].includes(key) && typeof value !== 'number') {
      add('drop', `drop ${path}`, { do: 'remove', path })
    }
    if (key !== 'title' && typeof value === 'string' && isName(value) && isReference(at, key, value, items, names)) {
      add('misspell', `${path}: ${value} -> ${misspelt(value)}`, { do: 'replace', path, value: misspelt(value) })
      const kin = items.includes(value) ? items : names.includes(value) ? names : []
      const other = kin[(kin.indexOf(value) + 1) % Math.max(1, kin.length)]
      if (other !== undefined && other !== value) {
        add('swap', `${path}: ${value} -> ${other}`, { do: 'replace', path, value: other })
      }
    }
    if (value === 'keep') add('consume', `${path}: keep -> consume`, { do: 'replace', path, value: 'consume' })
    if (key === 'count' && typeof value === 'number') {
      add('count', `${path}: ${value} -> ${value + 1}`, { do: 'replace', path, value: value + 1 })
    }
    if (key === 'is' && typeof value === 'string') {
      const other = { open: 'closed', closed: 'open', on: 'off', off: 'on', turned: 'empty', taken: 'available' }[value]
      if (other) add('other-way-round', `${path}: ${value} -> ${other}`, { do: 'replace', path, value: other })
    }
    if (key === 'at-least')
      add('other-way-round', `${path}: at-least -> at-most`, { do: 'rename', path, name: 'at-most' })
    if (key === 'feedback' || /\.feedback\.\w+$/.test(path)) {
      add('feedback', `drop ${path}`, { do: 'remove', path })
    }
    if (key === 'message' && items.length > 1) {
      const last = items.at(-1)
      const title = level.items[last].title ?? last
      add('message', `${path}: speaks of the ${title}`, { do: 'replace', path, value: `No ${title}.` })
    }
    if (key === 'blocks' && at[0] === 'types') add('blocks', `${path}: nothing`, { do: 'replace', path, value: [] })
    if (key === 'after' && typeof value === 'number') {
      add('time', `${path}: ${value} -> 0.05`, { do: 'replace', path, value: 0.05 })
    }
  })
  for (const [name, instance] of Object.entries(level.interactables ?? {})) {
    const path = `interactables.${name}`
    if (instance.range === undefined && instance.at) {
      add('range', `${path}: a range of 0.2 m`, { do: 'add', path, key: 'range', value: { radius: 0.2 } })
    }
    if (instance.at) {
      const moved = [instance.at[0] + 40, instance.at[1], ...instance.at.slice(2)]
      add('move', `${path}: 40 m to the east`, { do: 'replace', path: `${path}.at`, value: moved })
    }
    if (instance.in) add('initial', `${path}: initial open`, { do: 'add', path, key: 'initial', value: 'open' })
    add('instance', `drop ${path}`, { do: 'remove', path })
  }
  return all
}

/** What can be done wrong with where things stand, how far they reach, how they move, and how long they last. */
export function mistakesInSpace(level) {
  const all = []
  const add = (kind, does, edit, about) => all.push({ kind, does, edit, about })
  const entries = Object.entries(level.interactables ?? {})
  const pressed = entries.filter(([, { at, range }]) => at !== undefined && range === undefined)
  for (const [i, [name, instance]] of pressed.entries()) {
    const path = `interactables.${name}`
    const [x, y, z] = instance.at
    const [other, { at: place }] = pressed[(i + 1) % pressed.length]
    if (other !== name) {
      const beside = [place[0], place[1], (place[2] ?? 1) + 0.3].map(rounded)
      add('neighbour', `${path}: to where ${other} is`, { do: 'replace', path: `${path}.at`, value: beside }, [
        name,
        other,
      ])
    }
    if (z !== undefined) {
      add('height', `${path}: 2 m higher`, { do: 'replace', path: `${path}.at`, value: [x, y, rounded(z + 2)] }, [name])
    }
    const range = (kind, does, value) => add(kind, `${path}: ${does}`, { do: 'add', path, key: 'range', value }, [name])
    range('through', 'through walls', { sight: false })
    range('stands', 'only from behind', { 'stands-in': { sector: { radius: 0.4, degrees: 20, facing: 90 } } })
    range('from', 'measured from 3 m off', { radius: 0.6, from: [3, 0, 1] })
  }
  for (const [name, instance] of entries.filter(([, one]) => one.in !== undefined && one.type === 'door')) {
    const path = `interactables.${name}`
    const set = instance.set ?? {}
    if (set.motion === undefined) {
      const motion = { degrees: 8 }
      const edit =
        instance.set === undefined
          ? { do: 'add', path, key: 'set', value: { motion } }
          : { do: 'add', path: `${path}.set`, key: 'motion', value: motion }
      add('leaf', `${path}: opens by 8 degrees`, edit, [name])
    }
    if (set.closes?.after !== undefined) {
      const edit = { do: 'replace', path: `${path}.set.closes.after`, value: 0.1 }
      add('time', `${path}: shuts after 0.1 s`, edit, [name])
    }
    const doorway = level.doorways?.[instance.in]
    if (!doorway) continue
    const own = `doorways.${instance.in}`
    add('narrow', `${own}: 0.4 m wide`, { do: 'replace', path: `${own}.width`, value: 0.4 }, [name, instance.in])
    const [x, y] = doorway.at
    const crate = { outline: around(x + 0.7, y + 0.7, 0.35) }
    const edit =
      level.obstacles === undefined
        ? { do: 'add', path: '', key: 'obstacles', value: { crate } }
        : { do: 'add', path: 'obstacles', key: 'crate', value: crate }
    add('crate', `a crate beside ${instance.in}`, edit, ['crate', name, instance.in])
  }
  return all
}

function rounded(metres) {
  return Math.round(metres * 100) / 100
}

/** The corners of a square round a spot. */
function around(x, y, half) {
  const corner = (dx, dy) => [rounded(x + dx * half), rounded(y + dy * half)]
  return [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)]
}

/** Calls for every entry of maps and lists, outer before inner. */
function walk(value, path, visit) {
  if (typeof value !== 'object' || value === null) return
  for (const [key, inner] of Object.entries(value)) {
    const at = path === '' ? key : `${path}.${key}`
    visit(at, key, inner)
    walk(inner, at, visit)
  }
}

function isName(value) {
  return /^[a-z][a-z0-9-]*$/.test(value)
}

/** Whether a text is a name that is looked up: of an item, an interactable, a signal, a state. */
function isReference(at, key, value, items, names) {
  if (items.includes(value) || names.includes(value)) return true
  return ['signal', 'send', 'sends', 'from', 'to', 'set', 'flag', 'counter', 'enter', 'leave'].includes(key)
}

function misspelt(name) {
  const turned = name.slice(0, 2) + name[3] + name[2] + name.slice(4)
  return name.length > 3 && turned !== name ? turned : `${name}x`
}

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

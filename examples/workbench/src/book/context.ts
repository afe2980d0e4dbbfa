/** Where in a YAML text a position is: the keys round it, and whether a key or a value is written there. */
export interface Context {
  readonly path: readonly string[]
  /** What is written of the word so far, and where it begins. */
  readonly word: string
  readonly from: number
  readonly isValue: boolean
}

interface Level {
  readonly indent: number
  readonly key: string
}

/**
 * The keys round a position, told by how lines are indented and by brackets on its own line: good enough to complete and to explain, also
 * while a text is half written and cannot be read.
 */
export function contextAt(text: string, at: number): Context {
  const start = text.lastIndexOf('\n', at - 1) + 1
  const line = text.slice(start, at)
  const above = text.slice(0, start).split('\n').slice(0, -1)
  const indent = /^[ ]*/.exec(line)![0].length
  const dash = /^[ ]*(?:- +)*/.exec(line)![0]
  const inLine = keysIn(line.slice(dash.length))
  const around = keysAbove(above, indent, dash.includes('-'))
  const [word] = /[\w-]*$/.exec(line)!
  return { path: [...around, ...inLine.path], word, from: at - word.length, isValue: inLine.isValue }
}

/** The keys of the lines that a line stands under. */
function keysAbove(lines: readonly string[], indent: number, isEntry: boolean): string[] {
  const levels: Level[] = []
  let least = isEntry ? indent + 0.5 : indent
  // A key behind a dash stands as far in as the keys under it.
  if (isEntry) levels.push({ indent, key: '0' })
  for (let i = lines.length - 1; i >= 0 && least > 0; i--) {
    const line = lines[i]!
    if (/^\s*(?:#|$)/.test(line)) continue
    const own = /^[ ]*/.exec(line)![0].length
    const [, dashes = '', key] = /^[ ]*((?:- +)*)(?:["']?([\w-]+)["']?\s*:(?:\s|$))?/.exec(line) ?? []
    const keyAt = own + dashes.length
    if (dashes !== '' && keyAt <= least && own < least && keyAt >= least && levels[0]?.key !== '0') {
      levels.unshift({ indent: own, key: '0' })
      least = own + 0.5
      continue
    }
    if (dashes !== '' && own < least && keyAt < least) {
      if (key !== undefined) levels.unshift({ indent: own, key })
      levels.unshift({ indent: own, key: '0' })
      least = own + 0.5
      continue
    }
    if (key === undefined || own >= least) continue
    if (dashes === '') {
      levels.unshift({ indent: own, key })
      least = own
    }
  }
  return levels.map(({ key }) => key)
}

/** The keys that are open at the end of a piece of a line, such as `set: { lock: { item: `. */
function keysIn(line: string): { readonly path: string[]; readonly isValue: boolean } {
  const stack: { readonly is: '{' | '[' | 'block'; key: string | null; count: number }[] = [
    { is: 'block', key: null, count: 0 },
  ]
  let word = ''
  let quote = ''
  for (let i = 0; i < line.length; i++) {
    const char = line[i]!
    const here = stack.at(-1)!
    if (quote !== '') {
      if (char === quote) quote = ''
      continue
    }
    if (char === '"' || char === "'") quote = char
    else if (char === '#' && /\s/.test(line[i - 1] ?? ' ')) return { path: [], isValue: false }
    else if (char === '{' || char === '[') {
      stack.push({ is: char, key: char === '[' ? '0' : null, count: 0 })
      word = ''
    } else if (char === '}' || char === ']') {
      if (stack.length > 1) stack.pop()
      word = ''
    } else if (char === ',') {
      if (here.is === '{') here.key = null
      else if (here.is === '[') here.key = String(++here.count)
      word = ''
    } else if (char === ':' && /\s|^$/.test(line[i + 1] ?? '')) {
      here.key = word.trim()
      word = ''
    } else word += char
  }
  const path = stack.flatMap(({ key }) => (key === null ? [] : [key]))
  return { path, isValue: stack.at(-1)!.key !== null }
}

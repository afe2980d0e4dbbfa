import type { Edit } from './edit.ts'

/** A plain value with one part changed, as `edited` changes a text; undefined where the part is not there. The value itself stays as it is. */
export function changedValue(value: unknown, edit: Edit): unknown {
  return changedAt(value, edit.path === '' ? [] : edit.path.split('.'), edit)
}

function changedAt(value: unknown, keys: readonly string[], edit: Edit): unknown {
  const [key, ...rest] = keys
  if (key === undefined) return changedHere(value, edit)
  if (typeof value !== 'object' || value === null || !(key in value)) return undefined
  const isLast = rest.length === 0
  if (isLast && edit.do === 'remove') return without(value, key)
  if (isLast && edit.do === 'rename') return renamed(value as Record<string, unknown>, key, edit.name)
  const inner = changedAt((value as Record<string, unknown>)[key], rest, edit)
  if (inner === undefined) return undefined
  if (Array.isArray(value)) return (value as unknown[]).map((entry, i) => (String(i) === key ? inner : entry))
  return { ...value, [key]: inner }
}

function changedHere(value: unknown, edit: Edit): unknown {
  switch (edit.do) {
    case 'replace':
      return edit.value
    case 'append':
      return Array.isArray(value) ? [...(value as unknown[]), edit.value] : undefined
    case 'add':
      return typeof value === 'object' && value !== null ? { ...value, [edit.key]: edit.value } : undefined
    case 'remove':
    case 'rename':
      return undefined
  }
}

function without(value: object, key: string): unknown {
  if (Array.isArray(value)) return (value as unknown[]).filter((_, i) => String(i) !== key)
  return Object.fromEntries(Object.entries(value).filter(([name]) => name !== key))
}

function renamed(value: Record<string, unknown>, key: string, name: string): unknown {
  return Object.fromEntries(Object.entries(value).map(([one, inner]) => [one === key ? name : one, inner]))
}

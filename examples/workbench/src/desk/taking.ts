/** The most that a file may be, in characters: what is larger is no level. */
const largest = 10_000_000

/** Files that were dropped or chosen: those that can be used by name, and why others cannot. */
export interface Taken {
  readonly files: Record<string, string>
  readonly refused: readonly string[]
}

/** Reads what was chosen; folders keep their names. */
export async function takeFiles(list: readonly { readonly name: string; readonly file: File }[]): Promise<Taken> {
  const files: Record<string, string> = {}
  const refused: string[] = []
  for (const { name, file } of list) {
    if (!/\.(?:ya?ml|json)$/i.test(name)) {
      // Of a folder only what Zintel reads is wanted.
      if (list.length === 1) refused.push(`${name} is no YAML or JSON file.`)
      continue
    }
    if (file.size > largest) {
      refused.push(`${name} has ${(file.size / 1e6).toFixed(1)} MB: at most ${String(largest / 1e6)} MB can be opened.`)
      continue
    }
    const bytes = await file.arrayBuffer()
    try {
      files[name] = new TextDecoder('utf-8', { fatal: true }).decode(bytes)
    } catch {
      refused.push(`${name} is not text in UTF-8.`)
    }
  }
  return { files, refused }
}

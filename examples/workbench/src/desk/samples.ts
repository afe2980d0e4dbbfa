const modules = import.meta.glob<string>(
  '../../../levels/{*,round-the-mill/*,cottages/*,gallery/*,idioms/*}.{level,project,walkthrough}.yaml',
  { query: '?raw', import: 'default' },
)

const folder = '../../../levels/'
const names = Object.keys(modules).map((path) => path.replace(folder, ''))

/** Files that come with Zintel, to begin with. */
export interface Sample {
  readonly title: string
  readonly about: string
  readonly files: readonly string[]
}

/** What one can begin with, the first of them with mistakes to find. */
export const samples: readonly Sample[] = [
  {
    title: 'The tide mill, a draft',
    about: 'A small level with mistakes that everybody makes. Find them, play them, fix them.',
    files: ['tide-mill-draft.level.yaml'],
  },
  {
    title: 'The tide mill',
    about: 'The same level as it should be, with two walkthroughs.',
    files: names.filter((name) => name.startsWith('tide-mill.')),
  },
  {
    title: 'Round the tide mill',
    about: 'A project: three levels that lead to one another.',
    files: names.filter((name) => name.startsWith('round-the-mill/') && !name.includes('draft')),
  },
]

/** Single levels that show one thing each. */
export const singles: readonly string[] = names.filter((name) => /^(?:gallery|idioms)\/.*\.level\.yaml$/.test(name))

/** The texts of files that come with Zintel. */
export async function textsOf(files: readonly string[]): Promise<Record<string, string>> {
  const entries = files.map(async (name) => [name, (await modules[folder + name]?.()) ?? ''] as const)
  return Object.fromEntries(await Promise.all(entries))
}

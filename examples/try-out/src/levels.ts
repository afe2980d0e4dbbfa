const modules: Readonly<Record<string, string>> = import.meta.glob('../../levels/**/*.{level,project}.yaml', {
  query: '?raw',
  import: 'default',
  eager: true,
})

const folder = '../../levels/'
const texts = Object.entries(modules).map(([path, text]) => [path.replace(folder, ''), text] as const)
const isDemo = ([file]: readonly [string, string]): boolean => !file.includes('/')

/** The levels and projects that can be tried out, by their files seen from the levels' folder; the demo first. */
export const levels: Readonly<Record<string, string>> = Object.fromEntries([
  ...texts.filter(isDemo).sort(([a], [b]) => Number(a.includes('draft')) - Number(b.includes('draft'))),
  ...texts.filter((entry) => !isDemo(entry)),
])

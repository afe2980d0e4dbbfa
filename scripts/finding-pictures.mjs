import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import { build } from './build.mjs'
import { root } from './run.mjs'

const folder = `${root}docs/findings/`

/** Rules about space and time: their pages have a picture of the smallest level, with what is found. */
export const pictured = [
  'closes-on-character',
  'contested-range',
  'cut-off-room',
  'hidden-by-neighbour',
  'narrow-doorway',
  'one-sided',
  'out-of-reach',
  'reach-through',
  'stray-pose',
  'swing-blocked',
  'too-late',
  'way-round',
]

/** The picture of a page: the plan of its smallest level, with the finding pointed at. */
export async function pictureOf(rule) {
  const library = (file) => import(pathToFileURL(`${root}dist/${file}`).href)
  const { checkNow } = await library('index.js')
  const { readLevel } = await library('yaml.js')
  const { drawPlan } = await library('draw.js')
  const page = readFileSync(`${folder}${rule}.md`, 'utf8')
  const [, text] = /```yaml\n([\s\S]*?)```/.exec(page)
  const reading = readLevel(text)
  const finding = checkNow(reading, { quick: true }).findings.find((one) =>
    [one, ...one.follows].some((each) => each.rule === rule),
  )
  const isThere = finding.about !== null && reading.value.interactables?.[finding.about] !== undefined
  const own = isThere && finding.spots.length === 0 ? [{ at: finding.about, text: rule }] : []
  return drawPlan(reading, { marks: [...finding.spots, ...own] })
}

async function main() {
  await build()
  mkdirSync(`${folder}pictures`, { recursive: true })
  for (const rule of pictured) writeFileSync(`${folder}pictures/${rule}.svg`, await pictureOf(rule))
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) await main()

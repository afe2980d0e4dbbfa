import { ruleGroups, rules } from '../findings/index.ts'
import { didYouMean } from './nearest.ts'
import { paint, type Paint, wrapped } from './paint.ts'
import { exit, Unusable, type World } from './world.ts'

/** Prints the page of a rule; without a name, what rules there are. */
export async function explainCommand(name: string | null, world: World): Promise<number> {
  const colour = paint(world.colours)
  const known = rules.map((rule) => String(rule.name))
  if (name === null) {
    for (const [group, own] of Object.entries(ruleGroups)) {
      world.out(`${colour.bold(group)}\n`)
      for (const rule of own) world.out(`  ${rule.name.padEnd(20)} ${rule.severity}\n`)
      world.out('\n')
    }
    world.out('Try zintel explain soft-lock.\n')
    return exit.clean
  }
  if (!known.includes(name)) {
    throw new Unusable(`there is no rule "${name}". ${didYouMean(name, known, 'zintel explain lists them.')}`)
  }
  world.out(pageText(await world.page(name), colour, world.columns))
  return exit.clean
}

/** A page in Markdown as a terminal shows it: headings stand out, paragraphs are wrapped, code is left as it is. */
function pageText(page: string, colour: Paint, columns: number): string {
  const lines: string[] = []
  let paragraph: string[] = []
  let isCode = false
  const flush = (): void => {
    if (paragraph.length > 0) lines.push(wrapped(paragraph.join(' '), columns, ''))
    paragraph = []
  }
  // Pictures are for those who read the page in a browser.
  const shown = page.trimEnd().replaceAll(/^!\[.*\]\(.*\)\n\n?/gm, '')
  for (const line of shown.split('\n')) {
    if (line.startsWith('```')) {
      flush()
      isCode = !isCode
    } else if (isCode) lines.push(colour.place(`    ${line}`).trimEnd())
    else if (line.startsWith('#')) {
      flush()
      lines.push(colour.bold(line.replace(/^#+ /, '')))
    } else if (line === '') {
      flush()
      lines.push('')
    } else if (line.startsWith('- ')) {
      flush()
      paragraph.push(plain(line))
    } else paragraph.push(plain(line.trim()))
  }
  flush()
  return `${lines.join('\n')}\n`
}

/** Without what is only for pages: links and the marks of code. */
function plain(line: string): string {
  return line.replaceAll(/\[([^\]]+)\]\([^)]+\)/g, '$1').replaceAll('`', '')
}

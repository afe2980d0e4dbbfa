import { expect, test } from '@jest/globals'
import { readLevel } from '../../src/interactables/index.ts'
import { startProject } from '../../src/library/index.ts'
import { readProject } from '../../src/play/index.ts'
import { textOf } from '../levels.ts'

/** The level, the project and the other level of a page; before the fix, or after. */
function partsOf(page: string): { level: string; project: string; other: string }[] {
  const [broken = '', fixed = ''] = textOf(`docs/findings/${page}.md`).split('## The fix')
  const blocks = (text: string): Record<string, string> =>
    Object.fromEntries(
      [...text.matchAll(/```yaml ?(\w*)\n([\s\S]*?)```/g)].map(([, kind = '', yaml = '']) => [kind || 'level', yaml]),
    )
  const before = blocks(broken)
  return [before, { ...before, ...blocks(fixed) }] as { level: string; project: string; other: string }[]
}

test('whoever bounces is sent back by Play, too, and stays where the place was moved', () => {
  const levels = partsOf('bounce').map(({ level, project, other }) => {
    const play = startProject(readProject(project.replace('start: island', 'start: harbour')), {
      island: readLevel(level),
      harbour: readLevel(other),
    })
    expect(play.levelName).toBe('harbour')
    expect(play.walkTo('sam', 'ferry')).toBe(true)
    play.advance(3000)
    play.press('sam')
    play.advance(1)
    return [play.levelName, play.log.filter(({ what }) => what === 'arrives').length]
  })
  expect(levels).toEqual([
    ['harbour', 2],
    ['island', 1],
  ])
})

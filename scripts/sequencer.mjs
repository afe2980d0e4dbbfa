import Sequencer from '@jest/test-sequencer'

/** The longest tests: they begin first, so that none is left alone at the end. */
const longest = [
  'examples/workbench',
  'cli/running',
  'examples/gallery',
  'findings/demo',
  'oracle/oracle',
  'explore/sets',
  'findings/random',
  'seeded-mistakes/table',
  'findings/requirements',
  'explore/drive',
  'cli/cli',
  'examples/round-the-mill',
  'formats/formats',
]

export default class LongestFirst extends Sequencer {
  sort(tests) {
    const rank = ({ path }) => {
      const at = longest.findIndex((part) => path.includes(part))
      return at < 0 ? longest.length : at
    }
    return super.sort(tests).sort((a, b) => rank(a) - rank(b))
  }
}

import Sequencer from '@jest/test-sequencer'

/** The longest tests: they begin first, so that none is left alone at the end. */
const longest = [
  'oracle/oracle',
  'findings/demo',
  'examples/gallery',
  'cli/running',
  'findings/random',
  'seeded-mistakes/table',
  'oracle/ticks',
  'explore/sets',
]

export default class LongestFirst extends Sequencer {
  sort(tests) {
    const isLong = ({ path }) => longest.some((part) => path.includes(part))
    const sorted = super.sort(tests)
    return [...sorted.filter(isLong), ...sorted.filter((test) => !isLong(test))]
  }
}

import { build } from './build.mjs'
import { root, status } from './run.mjs'

await build()

const levels = 'examples/levels'
const zintel = (...args) => {
  console.log(`\n$ zintel ${args.join(' ')}\n`)
  return status(process.execPath, [`${root}dist/bin/zintel.js`, ...args])
}
const wanted = (what, code, right) => {
  if (code === right) return
  console.error(`\n${what} ended with exit code ${String(code)}, not ${String(right)}.`)
  process.exit(1)
}

console.log('First the tide mill as it should be: the wrong way, then the right way.')
wanted(
  'Playing',
  zintel(
    'play',
    `${levels}/tide-mill.level.yaml`,
    `${levels}/tide-mill.wrong-way.walkthrough.yaml`,
    `${levels}/tide-mill.right-way.walkthrough.yaml`,
  ),
  0,
)
console.log('Can anybody get stuck in it?')
wanted('Checking the clean level', zintel('check', `${levels}/tide-mill.level.yaml`), 0)
console.log('The same level before it was checked, with the mistakes that everybody makes:')
wanted('Checking the draft', zintel('check', `${levels}/tide-mill-draft.level.yaml`), 1)
console.log('Round the mill: three levels that lead to one another, with sixty interactables.')
wanted('Checking the project', zintel('check', `${levels}/round-the-mill/round-the-mill.project.yaml`), 0)
console.log(
  'And a draft of one of them. The mistake takes a certain order of steps; the report says until when all is well:',
)
wanted('Checking the draft', zintel('check', `${levels}/round-the-mill/malt-house-draft.level.yaml`), 1)
console.log('What they look like from above:')
wanted('Drawing', zintel('draw', `${levels}/tide-mill.level.yaml`, '--view', 'plan', '--out', 'out/tide-mill.svg'), 0)
wanted(
  'Drawing',
  zintel('draw', `${levels}/tide-mill-draft.level.yaml`, '--view', 'plan', '--out', 'out/tide-mill-draft.svg'),
  0,
)

console.log(`
What to look at next:
  out/tide-mill.svg                          the plan; open it in a browser
  npm run workbench                          see levels, play them, check and fix them in a browser
  ${levels}/tide-mill-draft.level.yaml       fix a mistake, and check again:
  node dist/bin/zintel.js check ${levels}/tide-mill-draft.level.yaml
  README.md                                  a tour of five minutes`)

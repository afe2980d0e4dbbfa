import { build } from './build.mjs'
import { root, run, tool } from './run.mjs'

// Random plays of random levels, looked up among what is possible; sure moves and safe goals played; levels transformed;
// answers compared with those of the plain explorer.
// `npm run soak [situations] [seed] [transformed levels] [compared levels]`; without numbers, what is called complete.
const [situations = '1000000', seed = '1', transformed = '500', compared = '2000'] = process.argv.slice(2)
await build()
const nodeOptions = `${process.env.NODE_OPTIONS ?? ''} --experimental-vm-modules --no-warnings`.trim()
run(tool('jest'), [`${root}tests/soak`, `${root}tests/oracle/oracle.test.ts`], {
  env: {
    ...process.env,
    NODE_OPTIONS: nodeOptions,
    ZINTEL_SOAK: situations,
    ZINTEL_SOAK_SEED: seed,
    ZINTEL_TRANSFORMED: transformed,
    ZINTEL_ORACLE_RUNS: compared,
    ZINTEL_ORACLE_SEED: seed,
  },
})

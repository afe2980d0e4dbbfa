import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import ts from 'typescript'
import { build } from './build.mjs'
import { root } from './run.mjs'

// Speed and memory: medians of five. Read them as ratios; machines are noisy.
await build()
const main = `${root}dist/bin/zintel.js`
const folder = mkdtempSync(join(tmpdir(), 'zintel-bench-'))
try {
  processes()
  await situations()
} finally {
  rmSync(folder, { recursive: true, force: true })
}

function processes() {
  const bare = []
  const help = []
  const check = []
  for (let i = 0; i < 5; i++) {
    bare.push(timed(['-e', '0']))
    help.push(timed([main, '--help']))
    check.push(timed([main, 'check', `${root}examples/levels/tide-mill.level.yaml`]))
  }
  line('node -e 0', `${median(bare).toFixed(0)} ms`)
  line('zintel --help', `${median(help).toFixed(0)} ms, ${(median(help) / median(bare)).toFixed(2)} times a bare node`)
  line('zintel check, clean demo', `${median(check).toFixed(0)} ms`)
}

async function situations() {
  const source = readFileSync(`${root}bench/level.ts`, 'utf8')
  const compiled = ts.transpileModule(source, {
    compilerOptions: { module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ES2022 },
  })
  const module = join(folder, 'level.mjs')
  writeFileSync(module, compiled.outputText)
  const { manySituations } = await import(pathToFileURL(module).href)
  const level = join(folder, 'many.level.yaml')
  writeFileSync(level, manySituations(Number(process.argv[2] ?? 12)))
  const runs = Array.from({ length: 5 }, () =>
    JSON.parse(
      spawnSync(process.execPath, ['--max-old-space-size=8000', `${root}bench/many.mjs`, level], { encoding: 'utf8' })
        .stdout,
    ),
  )
  const first = runs[0]
  line(
    'situations',
    `${String(first.situations)}, ${String(first.moves)} moves; soft locks: ${first.softLocks.join(', ')}`,
  )
  line(
    'exploring and judging',
    `${median(runs.map((run) => run.milliseconds)).toFixed(0)} ms, ${((first.situations / median(runs.map((run) => run.milliseconds))) * 1000).toFixed(0)} situations a second`,
  )
  line('memory', `${(first.bytes / first.situations).toFixed(1)} bytes a situation, moves both ways included`)
}

function timed(args) {
  const since = performance.now()
  spawnSync(process.execPath, args, { stdio: 'ignore' })
  return performance.now() - since
}

function median(numbers) {
  return [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)]
}

function line(what, figure) {
  console.log(`${what.padEnd(28)} ${figure}`)
}

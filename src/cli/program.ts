import { Command, CommanderError, Option } from 'commander'
import type { Severity } from '../findings/index.ts'
import { nearestName, printable } from '../model/index.ts'
import type { DrawOptions } from './draw.ts'
import { exit, Unusable, version, type World } from './world.ts'

const examples = {
  check: `
Example:
  $ zintel check examples/levels/tide-mill-draft.level.yaml
  $ zintel check --severity error my.level.yaml
  $ zintel check --rule soft-lock --rule wasted-item my.level.yaml
  $ zintel check --watch my.level.yaml                     # again on each save
  $ zintel check --feedback my.level.yaml                  # what a player perceives, moment by moment
  $ zintel check --fix my.level.yaml                       # the automatic fixes
  $ zintel check levels                                    # all levels and projects of a folder
  $ zintel check --format html --out report.html levels    # a page to hand over, with the plans
  $ zintel check --format sarif --out zintel.sarif levels  # for code hosts; junit for build servers
  $ zintel check --fail-on error --baseline known.json levels

There is no file of settings: a project file says how bad findings are (severities), a level file what is accepted.`,
  explain: `
Example:
  $ zintel explain silent-refusal`,
  play: `
Example:
  $ zintel play examples/levels/tide-mill.level.yaml examples/levels/tide-mill.wrong-way.walkthrough.yaml
  $ zintel play --step level.yaml right-way.yaml   # and how everything stands after each step
  $ zintel play my.project.yaml there-and-back.yaml
  $ zintel play levels                             # all walkthroughs of a folder, each in its level
  $ zintel play --watch level.yaml way.walkthrough.yaml  # again on each save
  $ zintel play --format junit --out play.xml levels`,
  draw: `
Example:
  $ zintel draw examples/levels/tide-mill.level.yaml --view plan --out plan.svg
  $ zintel draw examples/levels/tide-mill.level.yaml --route beacon-lit --out route.svg
  $ zintel draw examples/levels/tide-mill-draft.level.yaml --highlight 1 --out finding.svg
  $ zintel draw examples/levels/tide-mill.level.yaml --view machine --of mill-door --out mill-door.svg`,
  route: `
Example:
  $ zintel route examples/levels/tide-mill.level.yaml --to beacon-lit
  $ zintel route my.level.yaml --to open --format walkthrough > to-open.walkthrough.yaml`,
  cover: `
Example:
  $ zintel cover examples/levels/tide-mill.level.yaml examples/levels/tide-mill.right-way.walkthrough.yaml
  $ zintel cover my.level.yaml walkthroughs/*.yaml --write more   # walkthroughs for what is not exercised yet
  $ zintel cover my.level.yaml --write walkthroughs               # for everything`,
  types: `
Example:
  $ zintel types door`,
  new: `
Example:
  $ zintel new boat-house
  $ zintel new boat-house --type dial-lock`,
  list: `
Example:
  $ zintel list examples/levels/tide-mill.level.yaml`,
  completion: `
Example:
  $ zintel completion bash >> ~/.bashrc
  $ zintel completion fish > ~/.config/fish/completions/zintel.fish`,
  all: `
Examples:
  $ zintel check level.yaml                       what is broken, with steps that show it
  $ zintel explain soft-lock                      what a rule means, by an example, and the fix
  $ zintel play level.yaml right-way.yaml         play a written walkthrough
  $ zintel route level.yaml --to my-goal          the shortest ways to a goal, and what they need
  $ zintel cover level.yaml right-way.yaml        what walkthroughs leave out of all that can happen
  $ zintel draw level.yaml --view plan --out plan.svg

Exit codes: 0 nothing wrong (advice alone too), 1 findings, 2 the input or the command line could not be used,
3 nothing found, but something undecided, 70 an internal error, 130 interrupted.`,
}

/** Runs a command line in a world, and gives its exit code. Never throws: an error of our own is told, too. */
export async function run(args: readonly string[], world: World): Promise<number> {
  try {
    return await runCommand(args, world)
  } catch (error) {
    const { message, stack = message } = error instanceof Error ? error : new Error(String(error))
    if (args.includes('--debug')) world.err(`${stack}\n`)
    world.err(
      `zintel: internal error: ${message}. Please report it, with the level${args.includes('--debug') ? '' : ' and what --debug adds'}.\n`,
    )
    return exit.internal
  }
}

async function runCommand(args: readonly string[], world: World): Promise<number> {
  let code: number = exit.clean
  const program = makeProgram(world, async (command) => {
    code = await command
  })
  try {
    await program.parseAsync([...args], { from: 'user' })
    return code
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? exit.clean : exit.unusable
    if (!(error instanceof Unusable)) throw error
    world.err(`zintel: ${error.message}\n`)
    return exit.unusable
  }
}

function makeProgram(world: World, finish: (code: Promise<number>) => Promise<void>): Command {
  const program = new Command('zintel')
    .description('Plays players against the doors, chests and keyholes of a level, and proves what is broken.')
    .addHelpText('after', examples.all)
    .version(version, '--version', 'print the version')
    .helpOption('-h, --help', 'print this')
    .helpCommand(false)
    .option('--debug', 'where an internal error occurs, print its trace')
    .exitOverride()
    .configureOutput({
      writeOut: (text) => {
        world.out(text)
      },
      writeErr: (text) => {
        world.err(text)
      },
      outputError: (text, write) => {
        write(text.replace(/^error: /, 'zintel: '))
      },
    })
    .showHelpAfterError('Try zintel --help.')
    .allowExcessArguments()
    .action(() => {
      const [name] = program.args
      if (name === undefined) {
        program.outputHelp()
        return
      }
      const nearest = nearestName(
        name,
        program.commands.map((command) => command.name()),
      )
      const help = nearest === null ? 'zintel --help lists them all.' : `Did you mean ${nearest}?`
      throw new Unusable(`There is no command ${printable(name)}. ${help}`)
    })
  program
    .command('check')
    .description('find what is broken in levels, with steps that show it')
    .argument('<file...>', 'level or project files, folders, patterns, or - for standard input')
    .option(
      '--format <format>',
      'text, json, html, sarif or junit',
      oneOf('--format', ['text', 'json', 'html', 'sarif', 'junit']),
      'text',
    )
    .option(
      '--out <file>',
      'where to write the report; standard output if left out. Of several files, a line for each goes there all the same',
    )
    .option(
      '--fail-on <least>',
      'error, warning or advice: what ends with exit code 1',
      severityFor('--fail-on'),
      'warning',
    )
    .option('--baseline <file>', 'findings that are known: written where the file is not there; else only others count')
    .option('--budget <situations>', 'the most situations to look at', wholeNumber('--budget'), 2_000_000)
    .option('--quick', 'do not try changes with which goals could be met: about half the time where one cannot')
    .addOption(
      new Option('--rule <rule>', 'only what this rule finds; may be given several times')
        .argParser<readonly string[]>(several)
        .default([], 'all rules'),
    )
    .option(
      '--severity <least>',
      'error, warning or advice: only what is at least so bad',
      severityFor('--severity'),
      'advice',
    )
    .option('--feedback', 'instead: what is perceived of every moment that can happen')
    .option('--margins', 'also: how much time there is to spare on the way to each goal')
    .option('--reserve <seconds>', 'the same, and exit code 1 where there is less to spare', seconds('--reserve'))
    .option('--all', 'print long lists whole: what follows, what is undecided, the steps that would still meet a goal')
    .option('--explain-search', 'also: how each level was explored, and what was merged or left out')
    .option('--watch', 'check again on each save, and show what came and what went')
    .option('--fix', 'show the automatic fixes, and make them once you agree')
    .option('--yes', 'with --fix: make them without asking')
    .option('--undo-fix', 'put back what was there before the last fix')
    .addHelpText('after', examples.check)
    .action(async (files: string[], options: CheckFlags) => {
      const { checkCommand } = await import('./check.ts')
      const { format, rule, feedback = false, watch = false, fix = false, yes = false, undoFix = false } = options
      const { explainSearch = false, all = false, quick = false, margins = false, reserve = null } = options
      const how = {
        ...options,
        format: format as 'text' | 'json' | 'html' | 'sarif' | 'junit',
        out: options.out ?? null,
        baseline: options.baseline ?? null,
        rules: rule,
        feedback,
        explainSearch,
        all,
        quick,
        margins,
        reserve,
        watch,
        fix,
        yes,
        undoFix,
      }
      await finish(checkCommand(files, how, world))
    })
  program
    .command('explain')
    .description('print the page about a rule: what it finds, the smallest level that shows it, and the fix')
    .argument('[rule]', 'a rule, such as soft-lock; without one, all of them are listed')
    .addHelpText('after', examples.explain)
    .action(async (rule: string | undefined) => {
      const { explainCommand } = await import('./explain.ts')
      await finish(explainCommand(rule ?? null, world))
    })
  program
    .command('play')
    .description('play walkthroughs in their levels, and print the log')
    .argument(
      '<file...>',
      'a level or project and walkthroughs; or folders and patterns, in which they find each other',
    )
    .option(
      '--format <format>',
      'text, json for JSON Lines, or junit',
      oneOf('--format', ['text', 'json', 'junit']),
      'text',
    )
    .option('--out <file>', 'where to write the output; standard output if left out')
    .option('--only <text>', 'only walkthroughs with this in their file name or title')
    .option('--watch', 'play again on each save; what goes as before is only named')
    .option('--step', 'after each step, what changed, what could be pressed and why not the rest, and every state')
    .addHelpText('after', examples.play)
    .action(async (files: string[], options: PlayFlags) => {
      const { playCommand } = await import('./play.ts')
      const format = options.format as 'text' | 'json' | 'junit'
      const { step = false, out = null, only = null, watch = false } = options
      await finish(playCommand(files, { format, out, stepwise: step, only, watch }, world))
    })
  program
    .command('route')
    .description('find the shortest ways to a goal, in steps and in time, play them, and say what they need')
    .argument('<level>', 'a level file')
    .addOption(
      new Option('--to <goal>', 'the goal; may be given several times')
        .argParser<readonly string[]>(several)
        .default([], 'all goals'),
    )
    .option(
      '--format <format>',
      'text, json, or walkthrough: the way with the fewest steps as a walkthrough file',
      oneOf('--format', ['text', 'json', 'walkthrough']),
      'text',
    )
    .option('--budget <situations>', 'the most situations to look at (default: 300000)', wholeNumber('--budget'))
    .addHelpText('after', examples.route)
    .action(async (level: string, options: { to: string[]; format: string; budget?: number }) => {
      const { routeCommand } = await import('./route.ts')
      await finish(routeCommand(level, options.to, { format: options.format, budget: options.budget }, world))
    })
  program
    .command('cover')
    .description('tell what walkthroughs exercise of all that can happen, and write walkthroughs for the rest')
    .argument('<level>', 'a level file')
    .argument('[walkthrough...]', 'walkthrough files')
    .option('--write <folder>', 'write few walkthroughs for what is not exercised, with expectations, into a folder')
    .option('--format <format>', 'text or json', oneOf('--format', ['text', 'json']), 'text')
    .option('--budget <situations>', 'the most situations to look at (default: 2000000)', wholeNumber('--budget'))
    .addHelpText('after', examples.cover)
    .action(
      async (level: string, walkthroughs: string[], options: { format: string; write?: string; budget?: number }) => {
        const { coverCommand } = await import('./cover.ts')
        const { format, write = null, budget } = options
        await finish(coverCommand(level, walkthroughs, { json: format === 'json', write, budget }, world))
      },
    )
  program
    .command('draw')
    .description('draw a level as SVG')
    .argument('<level>', 'a level file')
    .option(
      '--view <view>',
      'plan, machine: states and transitions, or dependencies: what a goal needs',
      oneOf('--view', ['plan', 'machine', 'dependencies']),
      'plan',
    )
    .option('--of <name>', 'with --view machine: an interactable, or a type that is in use; with dependencies: a goal')
    .option(
      '--highlight <finding>',
      'with --view plan: a finding by its number in zintel check, its rule, or rule/subject',
    )
    .option('--storey <storey>', 'with --view plan: only the rooms of this storey')
    .option('--route <goal>', 'with --view plan: the quickest way to a goal')
    .option('--out <file>', 'where to write it; standard output if left out')
    .addHelpText('after', examples.draw)
    .action(async (level: string, options: DrawOptions) => {
      const { drawCommand } = await import('./draw.ts')
      await finish(drawCommand(level, options, world))
    })
  program
    .command('new')
    .description('write a small commented level that works at once, with walkthroughs, into a new folder')
    .argument('<name>', 'its name')
    .option('--type <type>', 'the type that it starts from', 'door')
    .addHelpText('after', examples.new)
    .action(async (name: string, options: { type: string }) => {
      const { newCommand } = await import('./new.ts')
      await finish(newCommand(name, options.type, world))
    })
  program
    .command('types')
    .description('list the built-in types, or tell all about one, with an example')
    .argument('[name]', 'a type')
    .addHelpText('after', examples.types)
    .action(async (name: string | undefined) => {
      const { typesCommand } = await import('./types.ts')
      await finish(Promise.resolve().then(() => typesCommand(name ?? null, world)))
    })
  program
    .command('list')
    .description('list all instances in a level, with what each changes from its type and its siblings')
    .argument('<level>', 'a level file')
    .option('--format <format>', 'text or json', oneOf('--format', ['text', 'json']), 'text')
    .addHelpText('after', examples.list)
    .action(async (level: string, options: { format: string }) => {
      const { listCommand } = await import('./list.ts')
      await finish(listCommand(level, options.format === 'json', world))
    })
  program
    .command('completion')
    .description('print a script that completes commands, options and files in a shell')
    .argument('<shell>', 'bash, zsh or fish')
    .addHelpText('after', examples.completion)
    .action(async (shell: string) => {
      const { completionScript, shells } = await import('./completion.ts')
      const known = shells.find((one) => one === shell)
      if (!known) throw new Unusable(`completion takes ${shells.join(', ')}, not "${printable(shell)}".`)
      world.out(completionScript(program, known))
      await finish(Promise.resolve(exit.clean))
    })
  return program
}

/** The options of a play, as they come from the command line. */
interface PlayFlags {
  readonly format: string
  readonly step?: boolean
  readonly out?: string
  readonly only?: string
  readonly watch?: boolean
}

/** The options of a check, as they come from the command line. */
interface CheckFlags {
  readonly format: string
  readonly budget: number
  readonly quick?: boolean
  readonly margins?: boolean
  readonly reserve?: number
  readonly rule: readonly string[]
  readonly severity: Severity
  readonly failOn: Severity
  readonly out?: string
  readonly baseline?: string
  readonly feedback?: boolean
  readonly explainSearch?: boolean
  readonly all?: boolean
  readonly watch?: boolean
  readonly fix?: boolean
  readonly yes?: boolean
  readonly undoFix?: boolean
}

function several(value: string, before: readonly string[]): string[] {
  return [...before, ...value.split(',')]
}

function severityFor(option: string): (value: string) => Severity {
  return (value) => {
    const all: readonly Severity[] = ['error', 'warning', 'advice']
    const found = all.find((one) => one === value)
    if (found) return found
    throw new Unusable(`${option} takes error, warning or advice, not "${value}".`)
  }
}

function oneOf(option: string, choices: readonly string[]): (value: string) => string {
  return (value) => {
    if (choices.includes(value)) return value
    throw new Unusable(`${option} takes ${choices.join(' or ')}, not "${value}".`)
  }
}

function seconds(option: string): (value: string) => number {
  return (value) => {
    const number = Number(value)
    if (/^[0-9]+(\.[0-9]+)?$/.test(value) && number > 0 && number <= 3600) return number
    throw new Unusable(`${option} takes seconds, more than 0 and up to 3600, not "${value}".`)
  }
}

function wholeNumber(option: string): (value: string) => number {
  return (value) => {
    const number = Number(value)
    if (/^[0-9]+$/.test(value) && number >= 1 && number <= 500_000_000) return number
    throw new Unusable(`${option} takes a whole number from 1 to 500000000, not "${value}".`)
  }
}

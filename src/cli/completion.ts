import type { Command } from 'commander'

/** Shells for which there is a script. */
export const shells = ['bash', 'zsh', 'fish'] as const

export type Shell = (typeof shells)[number]

/** A script that completes the commands and options of a program in a shell, and files for the rest. */
export function completionScript(program: Command, shell: Shell): string {
  const commands = program.commands.map((command) => ({
    name: command.name(),
    about: command.description(),
    options: command.options.flatMap(({ long, description }) => (long == null ? [] : [{ long, about: description }])),
  }))
  if (shell === 'fish') {
    const isFirst = '__fish_use_subcommand'
    return [
      ...commands.map(({ name, about }) => `complete -c zintel -n ${isFirst} -a ${name} -d ${quoted(about)}`),
      ...commands.flatMap(({ name, options }) =>
        options.map(
          ({ long, about }) =>
            `complete -c zintel -n '__fish_seen_subcommand_from ${name}' -l ${long.slice(2)} -d ${quoted(about)}`,
        ),
      ),
      '',
    ].join('\n')
  }
  const cases = commands.map(
    ({ name, options }) => `    ${name}) words=${quoted(options.map(({ long }) => long).join(' '))} ;;`,
  )
  // zsh reads the same script as bash does, once it is told to.
  const head = shell === 'zsh' ? ['autoload -U +X bashcompinit && bashcompinit'] : []
  return [
    ...head,
    '_zintel() {',
    '  local current="${COMP_WORDS[COMP_CWORD]}" words=""',
    '  if [ "$COMP_CWORD" -eq 1 ]; then',
    `    COMPREPLY=($(compgen -W ${quoted(commands.map(({ name }) => name).join(' '))} -- "$current"))`,
    '    return',
    '  fi',
    '  case "${COMP_WORDS[1]}" in',
    ...cases,
    '  esac',
    '  case "$current" in',
    '    -*) COMPREPLY=($(compgen -W "$words" -- "$current")) ;;',
    '    *) COMPREPLY=($(compgen -f -- "$current")) ;;',
    '  esac',
    '}',
    'complete -o filenames -F _zintel zintel',
    '',
  ].join('\n')
}

function quoted(text: string): string {
  return `'${text.replaceAll("'", String.raw`'\''`)}'`
}

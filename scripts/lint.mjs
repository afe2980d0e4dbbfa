import { ESLint } from 'eslint'
import ts from 'typescript'
import { root } from './run.mjs'

// The compiler reads what is written in TypeScript once: for what it says itself, and for the lint rules that ask about types.
const programs = ['tsconfig.json', 'examples/workbench/tsconfig.json'].map(programOf)
const told = programs.flatMap((program) => ts.getPreEmitDiagnostics(program))
const host = { getCurrentDirectory: () => root, getCanonicalFileName: (name) => name, getNewLine: () => '\n' }
process.stderr.write(ts.formatDiagnostics(told, host))

const eslint = new ESLint({
  cwd: root,
  overrideConfig: {
    files: ['**/*.ts', '**/*.tsx'],
    languageOptions: { parserOptions: { project: null, programs } },
  },
})
const results = await eslint.lintFiles(['.'])
const { format } = await eslint.loadFormatter('stylish')
process.stderr.write(await format(results))
const isWrong = told.length > 0 || results.some(({ errorCount, warningCount }) => errorCount + warningCount > 0)
process.exitCode = isWrong ? 1 : 0

function programOf(config) {
  const { options, fileNames, errors } = ts.getParsedCommandLineOfConfigFile(
    root + config,
    {},
    {
      ...ts.sys,
      onUnRecoverableConfigFileDiagnostic: (problem) => {
        throw new Error(ts.flattenDiagnosticMessageText(problem.messageText, '\n'))
      },
    },
  )
  return ts.createProgram({ rootNames: fileNames, options, configFileParsingDiagnostics: errors })
}

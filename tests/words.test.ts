import { expect, test } from '@jest/globals'
import { readdirSync, readFileSync } from 'node:fs'
import ts from 'typescript'
import { plainLevelSchema } from '../src/model/index.ts'
import { projectJsonSchema, walkthroughJsonSchema } from '../src/play/index.ts'
import { project } from './levels.ts'

/** Words that stand for something under another name now, where they would mean that: see docs/words.md. */
const retired: readonly RegExp[] = [
  /\bgirth\b/i,
  /\b(un)?mend(s|ed|ing)?\b/i,
  /\bspoil(t|ings?)\b/i,
  /\babsent\b/i,
  /\bnothing( else)? open\b|\bleft open\b|\bsomething (is )?open\b/i,
  /\b(a|the|each|all|one|two|both|several|other|three) (copy|copies)\b/i,
  /\bAID\b|\baids?\b/,
  /\bnoticed\b|\b(a|the|this|no) notice\b|\bnotices (come|that must|stack)/i,
  /\bfolded\b/i,
  /\bcome(s)? to hold\b/i,
  /\bstarts-over\b|\bgoes-on\b|\bpressed-again\b|(?<![\w-])by-(press|area|touch|signal)\b|\bwhen-left\b/,
  /\b(item-for-nothing|lock-without-item|never-heard|idle-acceptance|met-at-once|answers-nothing)\b/,
  /\b(wrong-item-told|odd-copy|copied-reference|leftover-aid)\b/,
  /\bdialled\b/i,
]

/** Files below a folder of the project that end so. */
function filesIn(folder: string, end: string): string[] {
  return readdirSync(project + folder, { recursive: true })
    .map((name) => `${folder}/${String(name)}`)
    .filter((name) => name.endsWith(end))
}

/** All texts in a program: what stands in quotes or templates, and between tags. */
function textsIn(file: string): string[] {
  const source = ts.createSourceFile(file, readFileSync(project + file, 'utf8'), ts.ScriptTarget.Latest, false)
  const texts: string[] = []
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) return
    const isText =
      ts.isStringLiteralLike(node) ||
      node.kind === ts.SyntaxKind.JsxText ||
      [ts.SyntaxKind.TemplateHead, ts.SyntaxKind.TemplateMiddle, ts.SyntaxKind.TemplateTail].includes(node.kind)
    if (isText) texts.push((node as ts.LiteralLikeNode).text)
    ts.forEachChild(node, visit)
  }
  visit(source)
  return texts
}

function retiredIn(file: string, texts: readonly string[]): string[] {
  return texts.flatMap((text) => retired.flatMap((word) => (word.test(text) ? [`${file}: ${text.trim()}`] : [])))
}

test('no text that the program can print uses a word that has another name now', () => {
  const files = [...filesIn('src', '.ts'), ...filesIn('examples/workbench/src', '.tsx')]
  expect(files.flatMap(textsIn).length).toBeGreaterThan(3000)
  expect(files.flatMap((file) => retiredIn(file, textsIn(file)))).toEqual([])
})

test('nor do the pages, the schemas and the examples', () => {
  const pages = [...filesIn('docs', '.md'), 'README.md', 'CONTRIBUTING.md']
  const files = [...pages, ...filesIn('schemas', '.json'), ...filesIn('examples/levels', '.yaml')]
  const lines = (file: string): string[] => readFileSync(project + file, 'utf8').split('\n')
  expect(files.flatMap((file) => retiredIn(file, lines(file)))).toEqual([])
})

test('the page of the level format has every key that a level, a walkthrough or a project can have', () => {
  const page = readFileSync(`${project}docs/level-format.md`, 'utf8')
  const keys = new Set<string>()
  const collect = (schema: unknown): void => {
    if (typeof schema !== 'object' || schema === null) return
    const { properties } = schema as { properties?: object }
    for (const key of Object.keys(properties ?? {})) keys.add(key)
    for (const inner of Object.values(schema)) collect(inner)
  }
  for (const schema of [plainLevelSchema(), walkthroughJsonSchema(), projectJsonSchema()]) collect(schema)
  expect(keys.size).toBeGreaterThan(150)
  const words = new Set(page.match(/[a-z][a-z0-9-]*/g))
  expect([...keys].filter((key) => !words.has(key))).toEqual([])
})

import { autocompletion, type CompletionContext, type CompletionResult } from '@codemirror/autocomplete'
import { yaml } from '@codemirror/lang-yaml'
import { type Diagnostic, lintGutter, setDiagnostics } from '@codemirror/lint'
import { HighlightStyle, syntaxHighlighting, indentOnInput, bracketMatching, foldGutter } from '@codemirror/language'
import { defaultKeymap, indentWithTab } from '@codemirror/commands'
import { highlightSelectionMatches, searchKeymap } from '@codemirror/search'
import { Annotation, EditorState, StateEffect, StateField } from '@codemirror/state'
import {
  Decoration,
  type DecorationSet,
  drawSelection,
  EditorView,
  highlightActiveLine,
  hoverTooltip,
  keymap,
  lineNumbers,
} from '@codemirror/view'
import { tags } from '@lezer/highlight'
import { useEffect, useRef } from 'react'
import type { FileKind } from '../desk/files.ts'
import type { LevelLook } from '../background/look.ts'
import { contextAt } from './context.ts'
import { aboutAt, keysAt, valuesAt } from './schema.ts'
import type { BookNote } from '../marking.ts'

interface BookProps {
  readonly file: string
  readonly kind: FileKind
  readonly text: string
  readonly level: LevelLook | null
  readonly notes: readonly BookNote[]
  /** The part of the text that belongs to what is selected; null: nothing is. */
  readonly shown: readonly [number, number] | null
  readonly onType: (text: string) => void
  /** The cursor was put somewhere by hand. */
  readonly onCursor: (at: number) => void
  readonly onUndo: () => void
  readonly onRedo: () => void
}

/** Marks changes that come from outside of the editor. */
const fromOutside = Annotation.define<boolean>()

const setShown = StateEffect.define<readonly [number, number] | null>()

const shownLines = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(marks, transaction) {
    let next = marks.map(transaction.changes)
    for (const effect of transaction.effects) {
      if (!effect.is(setShown)) continue
      next = Decoration.none
      if (!effect.value) continue
      const { doc } = transaction.state
      const [from, to] = effect.value.map((at) => Math.min(at, doc.length)) as [number, number]
      const lines = []
      for (let at = doc.lineAt(from).number; at <= doc.lineAt(Math.max(from, to - 1)).number; at++) {
        lines.push(Decoration.line({ class: 'cm-shown' }).range(doc.line(at).from))
        if (lines.length > 400) break
      }
      next = Decoration.set(lines)
    }
    return next
  },
  provide: (field) => EditorView.decorations.from(field),
})

const colours = HighlightStyle.define([
  { tag: tags.definition(tags.propertyName), color: 'var(--ink)', fontWeight: '600' },
  { tag: tags.propertyName, color: 'var(--ink)', fontWeight: '600' },
  { tag: tags.string, color: 'var(--sea)' },
  { tag: tags.content, color: 'var(--sea)' },
  { tag: tags.comment, color: 'var(--soft)', fontStyle: 'italic' },
  { tag: tags.number, color: 'var(--rust)' },
  { tag: tags.keyword, color: 'var(--rust)' },
  { tag: tags.separator, color: 'var(--soft)' },
  { tag: tags.punctuation, color: 'var(--soft)' },
])

/** The text of a file, with completion, explanations and marks; its changes go into the one history of the desk. */
export default function Book(props: BookProps) {
  const { file, text, notes, shown } = props
  const holder = useRef<HTMLDivElement>(null)
  const editor = useRef<EditorView | null>(null)
  const latest = useRef(props)
  latest.current = props
  const openFile = useRef(file)

  useEffect(() => {
    if (!holder.current) return
    const made = new EditorView({ parent: holder.current, state: stateOf(latest.current.text, latest) })
    editor.current = made
    return () => {
      made.destroy()
      editor.current = null
    }
  }, [])

  // What changed elsewhere comes in as the smallest change, so that the cursor stays where it was.
  useEffect(() => {
    const view = editor.current
    if (!view) return
    if (openFile.current !== file) {
      openFile.current = file
      view.setState(stateOf(text, latest))
      return
    }
    const now = view.state.doc.toString()
    if (now === text) return
    let start = 0
    while (start < now.length && start < text.length && now[start] === text[start]) start++
    let end = 0
    const most = Math.min(now.length, text.length) - start
    while (end < most && now[now.length - 1 - end] === text[text.length - 1 - end]) end++
    view.dispatch({
      changes: { from: start, to: now.length - end, insert: text.slice(start, text.length - end) },
      annotations: fromOutside.of(true),
    })
  }, [file, text])

  useEffect(() => {
    const view = editor.current
    if (!view) return
    const { length } = view.state.doc
    const all = notes.map(({ from, to, severity, message }): Diagnostic => {
      return { from: Math.min(from, length), to: Math.min(Math.max(from, to), length), severity, message }
    })
    view.dispatch(setDiagnostics(view.state, all))
  }, [notes, text, file])

  const [from, to] = shown ?? [-1, -1]
  useEffect(() => {
    const view = editor.current
    if (!view) return
    view.dispatch({ effects: setShown.of(from < 0 ? null : [from, to]) })
    if (from < 0 || view.hasFocus) return
    view.dispatch({
      effects: EditorView.scrollIntoView(Math.min(from, view.state.doc.length), { y: 'start', yMargin: 60 }),
    })
  }, [from, to, file])

  return <div className="book-text" ref={holder} data-testid="book" />
}

function stateOf(doc: string, latest: { readonly current: BookProps }): EditorState {
  return EditorState.create({
    doc,
    extensions: [
      lineNumbers(),
      foldGutter(),
      drawSelection(),
      indentOnInput(),
      bracketMatching(),
      highlightActiveLine(),
      highlightSelectionMatches(),
      yaml(),
      syntaxHighlighting(colours),
      lintGutter(),
      shownLines,
      EditorView.lineWrapping,
      EditorView.contentAttributes.of({ 'aria-label': 'The text of the file', tabindex: '0' }),
      autocompletion({ override: [(context) => completions(context, latest.current)], icons: false }),
      hoverTooltip((view, at) => explained(view, at, latest.current)),
      keymap.of([
        { key: 'Mod-z', run: () => (latest.current.onUndo(), true), preventDefault: true },
        { key: 'Mod-Shift-z', run: () => (latest.current.onRedo(), true), preventDefault: true },
        { key: 'Mod-y', run: () => (latest.current.onRedo(), true), preventDefault: true },
        ...searchKeymap,
        ...defaultKeymap,
        // Tab indents; Escape and then Tab leaves the text.
        indentWithTab,
      ]),
      EditorView.updateListener.of((update) => {
        const isOwn = !update.transactions.some((one) => one.annotation(fromOutside))
        if (update.docChanged && isOwn) latest.current.onType(update.state.doc.toString())
        if (update.selectionSet && !update.docChanged && update.view.hasFocus && isOwn)
          latest.current.onCursor(update.state.selection.main.head)
      }),
    ],
  })
}

/** What can be written at the cursor: keys by the schema of the file, values by it, and the names that the level has. */
function completions(context: CompletionContext, { kind, level }: BookProps): CompletionResult | null {
  const text = context.state.doc.toString()
  const { path, word, from, isValue } = contextAt(text, context.pos)
  if (word === '' && !context.explicit) return null
  if (!isValue) {
    const options = keysAt(kind, path).map(({ key, about }) => ({
      label: key,
      info: about === '' ? undefined : about,
      apply: `${key}: `,
    }))
    return options.length === 0 ? null : { from, options, validFor: /^[\w-]*$/ }
  }
  const options = [...valuesAt(kind, path), ...namesFor(path.at(-1) ?? '', path, level)].map((label) => ({ label }))
  return options.length === 0 ? null : { from, options, validFor: /^[\w-]*$/ }
}

/** The names of the level that may stand behind a key. */
function namesFor(key: string, path: readonly string[], level: LevelLook | null): string[] {
  if (!level) return []
  const { contents, types, doorways, shapes } = level
  const of = (kind: string): string[] => shapes.flatMap((one) => (one.kind === kind ? [one.name] : []))
  const named = (all: readonly { readonly name: string }[]): string[] => all.map(({ name }) => name)
  switch (/^\d+$/.test(key) ? (path.at(-2) ?? '') : key) {
    case 'type':
      return types.slice()
    case 'in':
      return doorways.slice()
    case 'item':
    case 'carries':
    case 'gives':
    case 'give':
    case 'consume':
      return named(contents.items)
    case 'interactable':
    case 'keyhole':
    case 'press':
    case 'hold':
    case 'face':
    case 'accepted':
    case 'refused':
    case 'of':
      return named(contents.interactables)
    case 'walk-to':
      return [...named(contents.interactables), ...of('room'), ...of('doorway')]
    case 'joins':
    case 'inside':
      return of('room')
    case 'flag':
      return contents.flags.slice()
    case 'counter':
      return contents.counters.slice()
    case 'goal':
      return named(contents.goals)
    case 'place':
    case 'move-to':
      return of('place')
    case 'as':
    case 'character':
      return named(contents.characters)
    case 'is':
    case 'initial':
    case 'from':
    case 'to':
      return [...new Set(contents.interactables.flatMap(({ states }) => states))]
    default:
      return []
  }
}

/** What the key under the pointer is for. */
function explained(view: EditorView, at: number, { kind }: BookProps) {
  const text = view.state.doc.toString()
  const word = view.state.wordAt(at)
  if (!word) return null
  let end = word.to
  while (/[\w-]/.test(text[end] ?? '')) end++
  let from = word.from
  while (from > 0 && /[\w-]/.test(text[from - 1] ?? '')) from--
  const { path, isValue } = contextAt(text, from)
  const about = aboutAt(kind, isValue ? path : [...path, text.slice(from, end)])
  if (about === '') return null
  return {
    pos: from,
    end,
    above: true,
    create: () => {
      const dom = document.createElement('div')
      dom.className = 'explained'
      dom.textContent = about
      return { dom }
    },
  }
}

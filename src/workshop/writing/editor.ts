import { baseKeymap, toggleMark } from 'prosemirror-commands'
import { keymap } from 'prosemirror-keymap'
import { type Command, EditorState } from 'prosemirror-state'
import { EditorView } from 'prosemirror-view'
import { shallowRef, type ShallowRef } from 'vue'
import type { Placeholder, RichText } from '#core/text'
import {
  insertBreak,
  isInList,
  leaveEmptyItem,
  leaveItemAtStart,
  linkAt,
  putPlaceholder,
  setLink,
  takeLinkOff,
  toggleList,
} from './commands'
import { documentOf, plainTextOf, richTextOf, schema, type TextKind } from './schema'

/** What can be done with the stretch in hand. */
export const formats = {
  bold: toggleMark(schema.marks.bold!),
  italic: toggleMark(schema.marks.italic!),
  bullets: toggleList('bullets'),
  numbers: toggleList('numbers'),
  unlink: takeLinkOff,
} satisfies Record<string, Command>
export type Format = keyof typeof formats

export interface TextEditor {
  readonly kind: TextKind
  readonly element: HTMLElement
  /** Which formats the stretch in hand has. */
  readonly active: ShallowRef<ReadonlySet<Format>>
  format(format: Format): void
  /** Where the stretch in hand links to, or null. */
  link(): string | null
  setLink(href: string): void
  /** Puts a placeholder where the cursor is. */
  put(name: Placeholder, fallback: string): void
  /** Shows another text, as after an undo; nobody wrote it. */
  show(text: RichText | string): void
  close(): void
}

export interface TextEditorHooks {
  text: RichText | string
  /** Whether it is only looked at. */
  isReadOnly?: boolean
  /** Rich text from `rich` and `line`, a string from `plain`. */
  onWrite(text: RichText | string): void
  /** Enter where a text has one line. */
  onDone(): void
  /** Ctrl+K. */
  onLink(): void
}

/**
 * Makes an element writable where it stands, in whatever document it is: what stands in it is drawn anew by the editor.
 * Only what the kind of text knows can be typed, pasted or dropped into it.
 */
export function openEditor(element: HTMLElement, kind: TextKind, hooks: TextEditorHooks): TextEditor {
  const active = shallowRef<ReadonlySet<Format>>(new Set())
  const keys = keysOf(kind, hooks, element.tagName === 'BUTTON')
  const stateOf = (text: RichText | string) =>
    EditorState.create({ doc: documentOf(kind, text), plugins: [keymap(keys), keymap(baseKeymap)] })
  const textOf = (state: EditorState) => (kind === 'plain' ? plainTextOf(state.doc) : richTextOf(state.doc))

  /** What was written or shown last, so that a key elsewhere costs this editor next to nothing. */
  let known = JSON.stringify(hooks.text)

  const view = new EditorView(
    { mount: element },
    {
      state: stateOf(hooks.text),
      attributes: { spellcheck: 'true' },
      editable: () => hooks.isReadOnly !== true,
      dispatchTransaction(transaction) {
        view.updateState(view.state.apply(transaction))
        active.value = formatsAt(view.state)
        if (!transaction.docChanged) return
        const text = textOf(view.state)
        known = JSON.stringify(text)
        hooks.onWrite(text)
      },
      ...(kind === 'plain' && {
        handlePaste(view, event) {
          const text = (event.clipboardData?.getData('text/plain') ?? '').replaceAll('\0', '')
          view.dispatch(view.state.tr.replaceSelection(documentOf('plain', text).slice(0)))
          return true
        },
      }),
    },
  )
  const run = (command: Command) => {
    command(view.state, view.dispatch, view)
    view.focus()
  }
  return {
    kind,
    element,
    active,
    format: (format) => run(formats[format]),
    link: () => linkAt(view.state),
    setLink: (href) => run(setLink(href)),
    put: (name, fallback) => run(putPlaceholder(name, fallback)),
    show(text) {
      const wanted = JSON.stringify(text)
      if (wanted === known) return
      known = wanted
      const state = stateOf(text)
      if (JSON.stringify(textOf(view.state)) !== JSON.stringify(textOf(state))) view.updateState(state)
    },
    close: () => view.destroy(),
  }
}

/** @param isButton takes the space key for itself; in its words it is a letter like any other */
function keysOf(kind: TextKind, hooks: TextEditorHooks, isButton: boolean): Record<string, Command> {
  const told = (tell: () => void): Command => {
    return () => {
      tell()
      return true
    }
  }
  const space: Command = (state, dispatch) => {
    dispatch?.(state.tr.insertText(' ').scrollIntoView())
    return true
  }
  return {
    'Shift-Enter': insertBreak,
    Backspace: leaveItemAtStart,
    // Underlined text that is no link misleads.
    'Mod-u': () => true,
    ...(kind === 'plain'
      ? { Enter: told(hooks.onDone) }
      : {
          Enter: kind === 'line' ? insertBreak : leaveEmptyItem,
          'Mod-b': formats.bold,
          'Mod-i': formats.italic,
          'Mod-Shift-l': formats.bullets,
          'Mod-k': told(hooks.onLink),
        }),
    ...(isButton && { Space: space }),
  }
}

function formatsAt(state: EditorState): ReadonlySet<Format> {
  const { from, to, empty, $from } = state.selection
  const has = (name: 'bold' | 'italic') => {
    const mark = schema.marks[name]!
    return empty
      ? mark.isInSet(state.storedMarks ?? $from.marks()) !== undefined
      : state.doc.rangeHasMark(from, to, mark)
  }
  return new Set<Format>([
    ...(has('bold') ? (['bold'] as const) : []),
    ...(has('italic') ? (['italic'] as const) : []),
    ...(isInList(state, 'bullets') ? (['bullets'] as const) : []),
    ...(isInList(state, 'numbers') ? (['numbers'] as const) : []),
    ...(linkAt(state) !== null ? (['unlink'] as const) : []),
  ])
}

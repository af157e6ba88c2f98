import { onScopeDispose, type Ref, shallowRef, watch } from 'vue'
import { allBlocks, type LetterBlock, type LetterBody } from '#core/letter'
import type { RichText } from '#core/text'
import { undoByKeys, type UndoRedo } from '../document'
import { HELD_BY_EDITOR } from '../preview'
import { openEditor, type TextEditor, type TextKind } from '../writing'

export interface LetterHooks {
  body(): LetterBody
  change(name: string, part: string, recipe: (body: LetterBody) => void): void
  undo: UndoRedo
  onBlock(id: string): void
  /** Alt and an arrow key. */
  onMove(id: string, by: -1 | 1): void
  onLink(): void
}

/** One text of a block: where it lies, and what kind of text it is. */
interface Place {
  kind: TextKind
  read(block: LetterBlock): string | RichText
  write(block: LetterBlock, text: string | RichText): void
}

function placeOf(block: LetterBlock, name: string): Place | null {
  if (block.kind === 'words')
    return {
      kind: block.as === 'title' || block.as === 'heading' ? 'line' : 'rich',
      read: (one) => (one.kind === 'words' ? one.text : []),
      write: (one, text) => void (one.kind === 'words' && (one.text = text as RichText)),
    }
  if (block.kind === 'button')
    return {
      kind: 'plain',
      read: (one) => (one.kind === 'button' ? one.words : ''),
      write: (one, text) => void (one.kind === 'button' && (one.words = (text as string).slice(0, 500))),
    }
  if (block.kind !== 'offer') return null
  if (name === 'text')
    return {
      kind: 'rich',
      read: (one) => (one.kind === 'offer' ? one.text : []),
      write: (one, text) => void (one.kind === 'offer' && (one.text = text as RichText)),
    }
  const key = name === 'button' ? 'button' : 'heading'
  return {
    kind: 'plain',
    read: (one) => (one.kind === 'offer' ? one[key] : ''),
    write: (one, text) => void (one.kind === 'offer' && (one[key] = (text as string).slice(0, 500))),
  }
}

/**
 * Makes the texts of a letter's preview writable in place. The preview has no scripts of its own: everything is done from
 * outside, on the nodes that the one renderer made.
 */
export function useWritingInLetter(shown: Readonly<Ref<Document | null>>, hooks: LetterHooks) {
  const stop = new AbortController()
  const editors = new Map<HTMLElement, { editor: TextEditor; block: string; place: Place }>()
  const editor = shallowRef<TextEditor | null>(null)
  onScopeDispose(() => {
    stop.abort()
    for (const one of editors.values()) one.editor.close()
  })
  const find = (body: LetterBody, id: string) => allBlocks(body.blocks).find((block) => block.id === id)

  watch(shown, (page) => page && prepare(page), { immediate: true })
  // Undo, a mend or another browser changed the words: the editors show them as well.
  watch(
    hooks.body,
    (body) => {
      for (const { editor, block, place } of editors.values()) {
        const here = find(body, block)
        if (here !== undefined) editor.show(place.read(here))
      }
    },
    { flush: 'post' },
  )

  function prepare(page: Document): void {
    const on = <Type extends keyof DocumentEventMap>(type: Type, act: (event: DocumentEventMap[Type]) => void) =>
      page.addEventListener(type, act, { signal: stop.signal })
    const style = page.createElement('style')
    style.textContent = WRITING_STYLES
    page.documentElement.append(style)
    const openAll = () => {
      for (const [element, { editor }] of editors)
        if (!element.isConnected) {
          editors.delete(element)
          editor.close()
        }
      for (const element of page.querySelectorAll<HTMLElement>('[data-text]')) if (!editors.has(element)) open(element)
    }
    openAll()
    const isDrawnAnew = ({ target }: MutationRecord) => (target as Element).closest(`[${HELD_BY_EDITOR}]`) === null
    const observer = new MutationObserver((records) => records.some(isDrawnAnew) && openAll())
    observer.observe(page.body, { childList: true, subtree: true })
    stop.signal.addEventListener('abort', () => observer.disconnect())

    on('focusin', ({ target }) => {
      const one = editors.get(target as HTMLElement)
      if (one === undefined) return
      editor.value = one.editor
      hooks.onBlock(one.block)
    })
    on('focusout', () => (editor.value = null))
    on('click', (event) => {
      const target = event.target as Element
      if (target.closest('a')) event.preventDefault()
      const block = target.closest('[data-block]')?.getAttribute('data-block')
      if (block) hooks.onBlock(block)
    })
    on('submit', (event) => event.preventDefault())
    on('dragover', (event) => event.preventDefault())
    on('drop', (event) => event.preventDefault())
    on('keydown', (event) => {
      undoByKeys(event, hooks.undo)
      const target = event.target as HTMLElement
      const isUndo = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z'
      if (isUndo || event.key === 'Escape') target.blur()
      if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
        const block = target.closest('[data-block]')?.getAttribute('data-block')
        if (!block) return
        event.preventDefault()
        target.blur()
        hooks.onMove(block, event.key === 'ArrowUp' ? -1 : 1)
      }
    })
  }

  function open(element: HTMLElement): void {
    const id = element.closest('[data-block]')?.getAttribute('data-block') ?? ''
    const name = element.getAttribute('data-text') ?? ''
    const block = blockAround(element, id)
    const place = block === undefined ? null : placeOf(block, name)
    if (block === undefined || place === null) return
    element.setAttribute(HELD_BY_EDITOR, element.className)
    const opened = openEditor(element, place.kind, {
      text: place.read(block),
      onWrite: (text) =>
        hooks.change('Write in the letter', `${block.id} ${name}`, (body) => {
          const changed = find(body, block.id)
          if (changed !== undefined) place.write(changed, text)
        }),
      onDone: () => element.blur(),
      onLink: () => hooks.onLink(),
    })
    editors.set(element, { editor: opened, block: block.id, place })
  }

  /** The innermost block: columns hold others. */
  function blockAround(element: HTMLElement, id: string): LetterBlock | undefined {
    return find(hooks.body(), element.closest('tr[data-block]')?.getAttribute('data-block') ?? id)
  }

  return { editor }
}

const WRITING_STYLES = `
  body { min-height: 320px; }
  [data-block] { cursor: pointer; }
  [data-block]:hover { outline: 1px dashed color-mix(in srgb, currentcolor 45%, transparent); outline-offset: -2px; }
  .ProseMirror { min-height: 1em; cursor: text; white-space: pre-wrap; overflow-wrap: anywhere; }
  span.ProseMirror { display: inline-block; min-width: 2em; }
  .ProseMirror:focus { outline: 2px solid; outline-offset: 3px; }
  .ProseMirror p { margin: 0 0 16px; }
  .ProseMirror p:last-child, .ProseMirror ul:last-child, .ProseMirror ol:last-child { margin-bottom: 0; }
  .ProseMirror ul, .ProseMirror ol { margin: 0 0 16px; padding: 0 24px; }
  .ProseMirror:has(> p:only-child > br:only-child)::before,
  .ProseMirror:has(> br:only-child)::before { content: 'Write here'; opacity: .5; float: inline-start; height: 0; pointer-events: none; }
  .placeholder { padding: 0 6px; border-radius: 10px; outline: 1px solid; font-size: .85em; white-space: nowrap; }
`

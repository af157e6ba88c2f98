import { onScopeDispose, type Ref, shallowRef, watch } from 'vue'
import { type Field, type FieldKey, type FormContent, isBox, plainWordKeys, type WordKey } from '#core/form'
import type { RichText } from '#core/text'
import { openEditor, type TextEditor, type TextKind } from '../../writing'
import { HELD_BY_EDITOR } from '../../preview'
import { undoByKeys } from '../../document'
import type { Draft } from '../draft'

/** A place in the preview that is written in: where it is drawn, and where its words lie in the content. */
interface Place {
  selector: string
  step: string
  kind: TextKind
  read(content: FormContent): string | RichText
  write(content: FormContent, written: string | RichText): void
}

const words: [key: WordKey, selector: string, step: string][] = [
  ['heading', '.askbox-heading', 'Rewrite the heading'],
  ['introduction', '.askbox-introduction', 'Rewrite the introduction'],
  ['points', '.askbox-points', 'Rewrite the points'],
  ['note', '.askbox-note', 'Rewrite the note'],
  ['button', '.askbox-button', 'Rewrite the button'],
  ['small', '.askbox-small', 'Rewrite the small line'],
  ['quote', '.askbox-quote blockquote > div', 'Rewrite the quote'],
  ['quoteBy', '.askbox-quote figcaption', 'Rewrite who said it'],
  ['after', '.askbox-after', 'Rewrite the text after'],
]

/** A part of the form that was pressed. */
export type WritablePart = { kind: 'field'; key: FieldKey } | { kind: 'button' | 'words' | 'picture' | 'ground' }

export interface WritingHooks {
  /** Whether it is only looked at. */
  isReadOnly: boolean
  draft: Draft
  /** What the preview shows. */
  content(): FormContent
  /** Whether somebody types an example into a field, whose element must stay meanwhile. */
  onTyping(is: boolean): void
  onPart(part: WritablePart): void
  /** Ctrl+K in a rich text. */
  onLink(): void
}

/**
 * Makes the texts of a form's preview writable in place. The preview's document has no scripts of its own; everything
 * here is done from outside, on the nodes that the one renderer made.
 */
export function useWritingIn(
  shown: Readonly<Ref<Document | null>>,
  { isReadOnly, draft, content, onTyping, onPart, onLink }: WritingHooks,
) {
  const stop = new AbortController()
  const editors = new Map<HTMLElement, { editor: TextEditor; place: Place }>()
  /** The rich text in hand, for the bar that formats it. */
  const editor = shallowRef<TextEditor | null>(null)
  const isWriting = shallowRef(false)
  onScopeDispose(() => {
    stop.abort()
    for (const one of editors.values()) one.editor.close()
  })

  const inputAt = (target: EventTarget | null) => (isReadOnly ? null : inputOf(target))
  watch(shown, (page) => page && prepare(page), { immediate: true })
  watch(content, showAll, { flush: 'post' })

  /** Undo, a mend or another browser changed the words: the editors show them as well. */
  function showAll(now: FormContent): void {
    for (const { editor, place } of editors.values()) editor.show(place.read(now))
  }

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
      for (const place of places(content()))
        for (const element of page.querySelectorAll<HTMLElement>(place.selector))
          if (!editors.has(element)) editors.set(element, { editor: open(element, place), place })
      for (const input of page.querySelectorAll<HTMLInputElement>('input.askbox-input'))
        if (!isReadOnly && isExample(input)) input.title = 'Type here to change the example in this field'
    }
    openAll()
    // What editors draw themselves is no news.
    const isDrawnAnew = ({ target }: MutationRecord) => (target as Element).closest(`[${HELD_BY_EDITOR}]`) === null
    const observer = new MutationObserver((records) => records.some(isDrawnAnew) && openAll())
    observer.observe(page.body, { childList: true, subtree: true })
    stop.signal.addEventListener('abort', () => observer.disconnect())

    on('focusin', ({ target }) => {
      const one = editors.get(target as HTMLElement)?.editor ?? null
      if (one !== null) editor.value = one.kind === 'plain' ? null : one
      isWriting.value = one !== null || inputAt(target) !== null
      const input = inputAt(target)
      if (input === null) return
      onTyping(true)
      // What is typed here becomes the placeholder, so it is shown as text while it is being written.
      input.value = input.placeholder
      input.type = 'text'
      input.select()
    })
    on('focusout', ({ target }) => {
      editor.value = null
      isWriting.value = false
      const input = inputAt(target)
      if (input === null) return
      input.value = ''
      onTyping(false)
    })
    on('input', ({ target }) => {
      const input = inputAt(target)
      if (input !== null) changePlaceholder(input, input.value)
    })
    // A file dropped beside a text would take the workshop's place.
    on('dragover', (event) => event.preventDefault())
    on('drop', (event) => event.preventDefault())
    on('keydown', (event) => {
      undoByKeys(event, draft)
      const target = event.target as HTMLElement
      const isUndo = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z'
      if (isUndo || event.key === 'Escape') target.blur()
    })
    on('keyup', (event) => {
      if (event.key === ' ' && (event.target as HTMLElement).matches('.askbox-button')) event.preventDefault()
    })
    on('submit', (event) => event.preventDefault())
    on('click', (event) => {
      const { target } = event
      if (!(target instanceof page.defaultView!.Element)) return
      // A link in the preview is words to write in; following it would leave the workshop.
      // A label's words are for writing too, and must not hand the press on to their control.
      if (target.closest('a, [contenteditable]')) event.preventDefault()
      const part = partOf(target)
      if (part !== null) onPart(part)
    })
  }

  function open(element: HTMLElement, place: Place): TextEditor {
    element.setAttribute(HELD_BY_EDITOR, element.className)
    return openEditor(element, place.kind, {
      text: place.read(content()),
      isReadOnly,
      onWrite: (text) => draft.change(place.step, place.selector, (changed) => place.write(changed, text)),
      onDone: () => element.blur(),
      onLink,
    })
  }

  function changePlaceholder(input: HTMLInputElement, text: string): void {
    void draft.change('Rewrite an example', `placeholder ${input.name}`, (changed) => {
      const field = changed.fields.find((one) => one.key === input.name)
      if (field) field.placeholder = text
    })
  }

  return { editor, isWriting }
}

function partOf(target: Element): WritablePart | null {
  if (target.closest('.askbox-button')) return { kind: 'button' }
  const field = target.closest('.askbox-field')
  const name = [...(field?.classList ?? [])].find((one) => one.startsWith('askbox-field-'))
  if (name !== undefined) return { kind: 'field', key: name.slice('askbox-field-'.length) }
  if (target.closest('picture, img')) return { kind: 'picture' }
  if (target.closest('[contenteditable]')) return { kind: 'words' }
  return target.closest('form') ? { kind: 'ground' } : null
}

function places(content: FormContent): Place[] {
  const ofWords = words.map(([key, selector, step]): Place => ({
    selector,
    step,
    kind: (plainWordKeys as readonly WordKey[]).includes(key) ? 'plain' : 'rich',
    read: (content) => content.words[key],
    write: (content, written) => Object.assign(content.words, { [key]: written }),
  }))
  const ofFields = content.fields.map(({ key, kind }: Field): Place => {
    const find = ({ fields }: FormContent) => fields.find((one) => one.key === key)
    return kind === 'consent' || kind === 'join-box'
      ? {
          selector: `.askbox-field-${key} .askbox-option > span`,
          step: kind === 'consent' ? 'Reword the consent' : 'Reword the box',
          kind: 'line',
          read(content) {
            const target = find(content)
            return target && isBox(target) ? target.wording : []
          },
          write(content, written) {
            const target = find(content)
            if (target && isBox(target)) target.wording = written as RichText
          },
        }
      : {
          selector: `.askbox-field-${key} .askbox-words`,
          step: 'Rewrite a label',
          kind: 'plain',
          read: (content) => find(content)?.label ?? '',
          write(content, written) {
            const target = find(content)
            if (target) target.label = written as string
          },
        }
  })
  return [...ofWords, ...ofFields]
}

/** A control that shows an example while it is empty, which can be written in it. */
function isExample(input: HTMLInputElement): boolean {
  return (
    /^(email|text|tel|url|number)$/.test(input.type) && !/-(street|postal-code|city|country|day|year)$/.test(input.name)
  )
}

function inputOf(target: EventTarget | null): HTMLInputElement | null {
  const node = target as HTMLInputElement | null
  return node?.matches?.('input.askbox-input') && isExample(node) ? node : null
}

const WRITING_STYLES = `
  .ProseMirror { cursor: text; border-radius: 2px; white-space: pre-wrap !important; overflow-wrap: anywhere !important; }
  .ProseMirror:hover, input.askbox-input:hover { outline: 1px dashed; outline-offset: 3px; }
  .ProseMirror:focus { outline: 2px solid !important; outline-offset: 3px; }
  .ProseMirror-separator { display: none !important; }
  .askbox-optional { user-select: none; }
  .askbox-words:has(> br:only-child)::before, .askbox-button:has(> br:only-child)::before { content: '…' !important; opacity: .6; }
`

import { onScopeDispose, ref, watch, type Ref } from 'vue'
import { type Field, type FieldKey, type FormContent, plainWordKeys, type WordKey } from '#core/form'
import type { RichText } from '#core/text'
import type { Draft } from '../draft'
import { pasteRich, readRich } from './rich-writing'

interface Place {
  selector: string
  step: string
  isRich: boolean
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

/** Selector of a place where words stand in the rendering. */
export function wordPlace(key: WordKey): string {
  return words.find(([one]) => one === key)?.[1] ?? ''
}

export interface WritingHooks {
  draft: Draft
  onWriting(is: boolean): void
  onButton(): void
  onField(key: FieldKey): void
  /** Ctrl+K in a rich text. */
  onLink(): void
}

/**
 * Makes the texts of a form's picture writable in place. The picture's document has no scripts of its own;
 * everything here is done from outside, on the nodes that the one renderer made.
 */
export function useWritingIn(
  shown: Readonly<Ref<Document | null>>,
  { draft, onWriting, onButton, onField, onLink }: WritingHooks,
) {
  const stop = new AbortController()
  onScopeDispose(() => stop.abort())
  /** The rich text in hand, for the bar that formats it. */
  const richPlace = ref<HTMLElement | null>(null) as Ref<HTMLElement | null>

  watch(shown, (page) => page && prepare(page), { immediate: true })

  function prepare(page: Document): void {
    const on = <Type extends keyof DocumentEventMap>(type: Type, act: (event: DocumentEventMap[Type]) => void) =>
      page.addEventListener(type, act, { signal: stop.signal })
    const style = page.createElement('style')
    style.textContent = WRITING_STYLES
    page.documentElement.append(style)
    page.execCommand('defaultParagraphSeparator', false, 'p')
    const markAll = () => {
      for (const { selector, isRich } of places(draft.content.value))
        for (const node of page.querySelectorAll<HTMLElement>(selector)) mark(node, isRich)
      for (const input of page.querySelectorAll<HTMLInputElement>('input.askbox-input'))
        if (isExample(input)) input.title = 'Type here to change the example in this field'
    }
    markAll()
    const observer = new MutationObserver(markAll)
    observer.observe(page.body, { childList: true, subtree: true })
    stop.signal.addEventListener('abort', () => observer.disconnect())

    on('focusin', ({ target }) => {
      const place = placeOf(target)
      if (place !== null) {
        onWriting(true)
        richPlace.value = place.isRich ? (target as HTMLElement) : null
      }
      const input = inputOf(target)
      if (input === null) return
      onWriting(true)
      // What is typed here becomes the placeholder, so it is shown as text while it is being written.
      input.value = input.placeholder
      input.type = 'text'
      input.select()
    })
    on('focusout', ({ target }) => {
      const input = inputOf(target)
      if (input !== null) input.value = ''
      richPlace.value = null
      onWriting(false)
    })
    on('input', ({ target }) => {
      const input = inputOf(target)
      if (input !== null) return changePlaceholder(input, input.value)
      const node = target as HTMLElement
      const place = placeOf(target)
      if (place !== null)
        draft.change(place.step, place.selector, (content) =>
          place.write(content, place.isRich ? readRich(node) : textOf(node)),
        )
    })
    on('paste', (event) => {
      const place = placeOf((event.target as HTMLElement).closest?.('[contenteditable]') ?? null)
      if (place !== null) pasteRich(event, page, !place.isRich)
    })
    on('drop', (event) => event.preventDefault())
    on('keydown', (event) => {
      draft.onKey(event)
      const target = event.target as HTMLElement
      if (event.ctrlKey || event.metaKey) {
        if (event.key.toLowerCase() === 'z') target.blur()
        const key = event.key.toLowerCase()
        // Underlined text that is no link misleads; the other two have no key of the browser's.
        if (key === 'u' || key === 'k' || (key === 'l' && event.shiftKey)) event.preventDefault()
        if (key === 'k' && richPlace.value !== null) onLink()
        if (key === 'l' && event.shiftKey && richPlace.value !== null) page.execCommand('insertUnorderedList')
        return
      }
      const place = placeOf(target)
      if (event.key === 'Escape' || (event.key === 'Enter' && place !== null && !place.isRich)) {
        event.preventDefault()
        target.blur()
      }
      if (event.key === ' ' && target.matches('.askbox-button')) {
        // A button takes the space key for itself; here it is a letter like any other.
        event.preventDefault()
        page.execCommand('insertText', false, ' ')
      }
    })
    on('keyup', (event) => {
      if (event.key === ' ' && (event.target as HTMLElement).matches('.askbox-button')) event.preventDefault()
    })
    on('submit', (event) => event.preventDefault())
    on('click', (event) => {
      const { target } = event
      if (!(target instanceof page.defaultView!.Element)) return
      // A link in the picture is words to write in; following it would leave the workshop.
      // A label's words are for writing too, and must not hand the press on to their control.
      if (target.closest('a, [contenteditable]')) event.preventDefault()
      if (target.closest('.askbox-button')) onButton()
      const key = fieldOf(target)
      if (key !== null) onField(key)
    })
  }

  function placeOf(target: EventTarget | null): Place | null {
    const node = target as HTMLElement | null
    return places(draft.content.value).find(({ selector }) => node?.matches?.(selector)) ?? null
  }

  function fieldOf(target: EventTarget | null): FieldKey | null {
    const place = (target as HTMLElement | null)?.closest?.('.askbox-field')
    return place === null || place === undefined
      ? null
      : ([...place.classList].find((name) => name.startsWith('askbox-field-'))?.slice('askbox-field-'.length) ?? null)
  }

  function changePlaceholder(input: HTMLInputElement, text: string): void {
    draft.change('Rewrite an example', `placeholder ${input.name}`, (content) => {
      const field = content.fields.find((one) => one.key === input.name)
      if (field) field.placeholder = text
    })
  }

  return { richPlace }
}

function places(content: FormContent | null): Place[] {
  const ofWords = words.map(([key, selector, step]): Place => {
    const isRich = !(plainWordKeys as readonly WordKey[]).includes(key)
    return { selector, step, isRich, write: (content, written) => Object.assign(content.words, { [key]: written }) }
  })
  const ofFields = (content?.fields ?? []).map((field: Field): Place =>
    field.kind === 'consent'
      ? {
          selector: `.askbox-field-${field.key} .askbox-option > span`,
          step: 'Reword the consent',
          isRich: true,
          write: ({ fields }, written) => {
            const found = fields.find(({ key }) => key === field.key)
            if (found?.kind === 'consent') found.wording = written as RichText
          },
        }
      : {
          selector: `.askbox-field-${field.key} .askbox-words`,
          step: 'Rewrite a label',
          isRich: false,
          write: ({ fields }, written) => {
            const found = fields.find(({ key }) => key === field.key)
            if (found) found.label = written as string
          },
        },
  )
  return [...ofWords, ...ofFields]
}

function mark(node: HTMLElement, isRich: boolean): void {
  const wanted = isRich ? 'true' : 'plaintext-only'
  if (node.contentEditable === wanted) return
  node.contentEditable = wanted
  node.spellcheck = true
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

function textOf(node: HTMLElement): string {
  const copy = node.cloneNode(true) as HTMLElement
  for (const line of copy.querySelectorAll('br')) line.replaceWith('\n')
  return copy.textContent ?? ''
}

const WRITING_STYLES = `
  [contenteditable] { cursor: text; border-radius: 2px; }
  label [contenteditable] { cursor: text; }
  [contenteditable]:hover, input.askbox-input:hover { outline: 1px dashed; outline-offset: 3px; }
  [contenteditable]:focus { outline: 2px solid !important; outline-offset: 3px; }
  .askbox-optional { user-select: none; }
  .askbox-words:empty::before, .askbox-button:empty::before { content: '…' !important; opacity: .6; }
`

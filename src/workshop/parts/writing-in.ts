import { onScopeDispose, watch, type Ref } from 'vue'
import type { Field, FieldKey, FormContent, WordKey } from '#core/form'
import type { Draft } from '../stores/draft'

interface Place {
  selector: string
  step: string
  read(content: FormContent): string
  write(content: FormContent, text: string): void
}

const words: [WordKey, string, string][] = [
  ['heading', '.askbox-heading', 'Rewrite the heading'],
  ['introduction', '.askbox-introduction', 'Rewrite the introduction'],
  ['button', '.askbox-button', 'Rewrite the button'],
  ['small', '.askbox-small', 'Rewrite the small line'],
]

/**
 * Makes the texts of a form's picture writable in place. The picture's document has no scripts of its own;
 * everything here is done from outside, on the nodes that the one renderer made.
 */
export function useWritingIn(
  shown: Readonly<Ref<Document | null>>,
  { draft, onWriting, onButton }: { draft: Draft; onWriting: (is: boolean) => void; onButton: () => void },
): void {
  const stop = new AbortController()
  onScopeDispose(() => stop.abort())

  watch(shown, (page) => page && prepare(page), { immediate: true })

  function prepare(page: Document): void {
    const on = <Type extends keyof DocumentEventMap>(type: Type, act: (event: DocumentEventMap[Type]) => void) =>
      page.addEventListener(type, act, { signal: stop.signal })
    const style = page.createElement('style')
    style.textContent = WRITING_STYLES
    page.documentElement.append(style)
    const markAll = () => {
      for (const { selector } of places(draft.content.value)) for (const node of page.querySelectorAll<HTMLElement>(selector)) mark(node)
      for (const input of page.querySelectorAll<HTMLInputElement>('.askbox-field input')) input.title = 'Type here to change the example in this field'
    }
    markAll()
    new MutationObserver(markAll).observe(page.body, { childList: true })

    on('focusin', ({ target }) => {
      if (placeOf(target) !== null) onWriting(true)
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
      onWriting(false)
    })
    on('input', ({ target }) => {
      const input = inputOf(target)
      if (input !== null) return changePlaceholder(input.name as FieldKey, input.value)
      const place = placeOf(target)
      const text = place && textOf(target as HTMLElement)
      if (place !== null) draft.change(place.step, place.selector, (content) => place.write(content, text ?? ''))
    })
    on('keydown', (event) => {
      draft.onKey(event)
      const target = event.target as HTMLElement
      if (event.ctrlKey || event.metaKey) {
        if (event.key.toLowerCase() === 'z') target.blur()
        return
      }
      if (event.key === 'Escape' || (event.key === 'Enter' && !target.matches('.askbox-introduction, .askbox-small'))) {
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
    on('click', ({ target }) => {
      if (target instanceof page.defaultView!.Element && target.closest('.askbox-button')) onButton()
    })
  }

  function placeOf(target: EventTarget | null): Place | null {
    const node = target as HTMLElement | null
    return places(draft.content.value).find(({ selector }) => node?.matches?.(selector)) ?? null
  }

  function changePlaceholder(key: FieldKey, text: string): void {
    draft.change('Rewrite a placeholder', `placeholder ${key}`, (content) => {
      const field = content.fields.find((one) => one.key === key)
      if (field) field.placeholder = text
    })
  }
}

function places(content: FormContent | null): Place[] {
  const ofWords = words.map(([key, selector, step]): Place => ({
    selector,
    step,
    read: ({ words }) => words[key],
    write: ({ words }, text) => (words[key] = text),
  }))
  const ofLabels = (content?.fields ?? []).map((field: Field): Place => ({
    selector: `.askbox-field-${field.key} .askbox-label`,
    step: 'Rewrite a label',
    read: ({ fields }) => fields.find(({ key }) => key === field.key)?.label ?? '',
    write: ({ fields }, text) => {
      const found = fields.find(({ key }) => key === field.key)
      if (found) found.label = text
    },
  }))
  return [...ofWords, ...ofLabels]
}

function mark(node: HTMLElement): void {
  node.contentEditable = 'plaintext-only'
  node.spellcheck = true
}

function inputOf(target: EventTarget | null): HTMLInputElement | null {
  const node = target as HTMLInputElement | null
  return node?.matches?.('.askbox-field input') ? node : null
}

/** What somebody wrote, without the "(optional)" that the renderer adds to a label. */
function textOf(node: HTMLElement): string {
  const copy = node.cloneNode(true) as HTMLElement
  for (const added of copy.querySelectorAll('.askbox-optional')) added.remove()
  for (const line of copy.querySelectorAll('br')) line.replaceWith('\n')
  return copy.textContent ?? ''
}

const WRITING_STYLES = `
  [contenteditable] { cursor: text; border-radius: 2px; }
  [contenteditable]:hover, .askbox-field input:hover { outline: 1px dashed; outline-offset: 3px; }
  [contenteditable]:focus { outline: 2px solid; outline-offset: 3px; }
  .askbox-optional { user-select: none; }
`

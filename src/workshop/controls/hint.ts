import { type Directive, shallowRef } from 'vue'

/** What a hint is shown for at this moment. One tooltip serves the whole workshop: `Hint.vue` draws it. */
export const hinted = shallowRef<{ element: HTMLElement; text: string } | null>(null)

const texts = new WeakMap<HTMLElement, string>()

/**
 * `v-hint="text"`: words about an element, shown while it is pointed at or has the keyboard's focus, and told to
 * screen readers as its description.
 */
export const vHint: Directive<HTMLElement, string | undefined> = {
  mounted(element, { value }) {
    write(element, value)
    element.addEventListener('pointerenter', () => show(element))
    element.addEventListener('focus', () => element.matches(':focus-visible') && show(element))
    for (const type of ['pointerleave', 'blur', 'click']) element.addEventListener(type, () => hide(element))
  },
  updated: (element, { value }) => write(element, value),
  unmounted: hide,
}

function write(element: HTMLElement, text = ''): void {
  if (texts.get(element) === text) return
  texts.set(element, text)
  // The name says it already where they are the same.
  if (text === '' || text === element.getAttribute('aria-label')) element.removeAttribute('aria-description')
  else element.setAttribute('aria-description', text)
  if (hinted.value?.element === element) show(element)
}

function show(element: HTMLElement): void {
  const text = texts.get(element) ?? ''
  hinted.value = text === '' ? null : { element, text }
}

function hide(element: HTMLElement): void {
  if (hinted.value?.element === element) hinted.value = null
}

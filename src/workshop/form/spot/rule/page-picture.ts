import { onScopeDispose, ref, type Ref, shallowRef, watch } from 'vue'
import { domTree, type FoundPlace, placesOf, type Rule } from '#core/rule'

/** What we put into the picture is no part of the page. */
const HERE = 'data-askbox-here'
const AT = 'data-askbox-at'
const STYLE = `
[${AT}] { outline: 3px solid #a3244f !important; outline-offset: 1px !important; cursor: pointer !important; }
[${HERE}] { all: initial; display: block; box-sizing: border-box; width: 100%; margin: 8px 0; padding: 14px; border: 2px dashed #4a6b1f; background: #eef3e4; color: #2a2236; font: 600 16px/1.4 system-ui, sans-serif; text-align: center; flex: 1 0 100%; grid-column: 1 / -1; }
[${HERE}=edge] { position: fixed; inset: auto 0 0; margin: 0; z-index: 2147483647; }
:root:focus, body:focus { outline: none; }
`
const isOurs = (one: Element) => one.hasAttribute(HERE)

/**
 * A page as a still in a frame, of which a part is chosen: by pointing and pressing, or by the arrow keys (up to what is
 * around, down to what is within, beside) and Enter.
 *
 * @param rule whose places are drawn in it
 */
export function usePagePicture(
  frame: Ref<HTMLIFrameElement | null>,
  rule: () => Rule | null,
  choose: (part: Element) => void,
) {
  const page = shallowRef<Document | null>(null)
  const part = shallowRef<Element | null>(null)
  /** Places of the rule in this page; null where it is not read. */
  const count = ref<number | null>(null)
  /** Whether the picture cannot be reached into: the workshop is opened at another address than its receiver's. */
  const isClosed = ref(false)
  let end = new AbortController()

  function onLoad(): void {
    end.abort()
    end = new AbortController()
    part.value = null
    const { contentDocument: document } = frame.value!
    isClosed.value = document === null
    // A frame that is not filled yet loads an empty page first.
    if (document === null || document.URL === 'about:blank') return
    const style = document.createElement('style')
    style.textContent = STYLE
    document.head.append(style)
    document.body.tabIndex = 0
    document.body.setAttribute('aria-label', 'The page. Arrow keys go from part to part, Enter chooses.')
    const options = { signal: end.signal }
    const own = (event: Event) =>
      (event.target as Node).nodeType === Node.ELEMENT_NODE && event.target !== document.documentElement
    document.addEventListener(
      'mouseover',
      (event) => own(event) && !isOurs(event.target as Element) && light(event.target as Element),
      options,
    )
    document.addEventListener('mouseleave', () => light(null), options)
    document.addEventListener(
      'click',
      (event) => {
        event.preventDefault()
        if (own(event) && !isOurs(event.target as Element)) take(event.target as Element)
      },
      { ...options, capture: true },
    )
    document.addEventListener('submit', (event) => event.preventDefault(), options)
    document.addEventListener('keydown', onKey, options)
    page.value = document
    draw()
  }

  /** Without what we drew, so that positions are the page’s own. */
  function take(one: Element): void {
    clear()
    choose(one)
  }

  function clear(): void {
    for (const one of page.value?.querySelectorAll(`[${HERE}]`) ?? []) one.remove()
  }

  function light(one: Element | null): void {
    part.value?.removeAttribute(AT)
    part.value = one
    one?.setAttribute(AT, '')
  }

  function onKey(event: KeyboardEvent): void {
    const { body } = page.value!
    const now = part.value ?? body
    const shown = (one: Element | null | undefined) => (one && !isOurs(one) ? one : null)
    const children = [...now.children].filter((one) => !isOurs(one) && one.getClientRects().length > 0)
    const beside =
      now === body
        ? []
        : [...now.parentElement!.children].filter((one) => !isOurs(one) && one.getClientRects().length > 0)
    const at = beside.indexOf(now)
    const next: Record<string, Element | null> = {
      ArrowUp: now === body ? null : shown(now.parentElement),
      ArrowDown: shown(children[0]),
      ArrowRight: shown(beside[at + 1]),
      ArrowLeft: shown(beside[at - 1]),
    }
    if (event.key in next) {
      event.preventDefault()
      const to = next[event.key] ?? null
      if (to !== null) {
        light(to)
        inView(to)
      }
    } else if (event.key === 'Enter' && part.value !== null) {
      event.preventDefault()
      take(part.value)
    } else if (event.key === 'Escape') light(null)
  }

  /** Draws where the rule puts the form. */
  function draw(): void {
    const document = page.value
    const wanted = rule()
    if (document === null || document.defaultView === null) return
    clear()
    if (wanted === null) return
    const tree = domTree<Element>(document, isOurs)
    const places = placesOf(tree, wanted)
    count.value = places.length
    for (const place of places) put(document, place, wanted.place.kind === 'edge')
  }

  function put(document: Document, { beside, at }: FoundPlace<Element>, isEdge: boolean): void {
    const here = document.createElement('div')
    here.setAttribute(HERE, isEdge ? 'edge' : '')
    here.textContent = 'The form comes here'
    if (at === 'inside' || beside === document.body) beside.append(here)
    else beside[at](here)
  }

  /** Within the frame alone: what is around it stays where it is. */
  function inView(one: Element): void {
    const { defaultView: view } = page.value!
    const { top, bottom } = one.getBoundingClientRect()
    if (top < 0 || bottom > view!.innerHeight) view!.scrollBy({ top: top - view!.innerHeight / 3, behavior: 'instant' })
  }

  /** Brings the first place into sight. */
  function showPlace(): void {
    const here = page.value?.querySelector(`[${HERE}]`)
    if (here) inView(here)
  }

  watch(rule, draw, { deep: true })
  onScopeDispose(() => end.abort())
  return { onLoad, part, count, isClosed, showPlace }
}

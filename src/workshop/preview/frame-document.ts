import { computed, onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue'
import { childrenInDom, type Node, type Page, toDocument } from '#core/render'
import { morph } from './morph'

/**
 * Shows a page in a sandboxed frame and keeps it current without reloading: after the first load,
 * only what differs is replaced. While `isHeld` says so (somebody is typing in the frame) the body is left
 * alone and only the styles follow.
 */
export function useFrameDocument(
  frame: Ref<HTMLIFrameElement | null>,
  page: () => Page,
  isHeld: () => boolean = () => false,
) {
  const wanted = computed(page)
  const first = shallowRef(toDocument(wanted.value))
  const height = ref(0)
  /** How far what is shown sticks out of the frame to the side, in CSS pixels. */
  const sticksOut = ref(0)
  const loaded = shallowRef<Document | null>(null)
  const observer = new ResizeObserver(() => measure())
  onScopeDispose(() => observer.disconnect())

  function onLoad(): void {
    loaded.value = frame.value?.contentDocument ?? null
    if (loaded.value === null) return
    observer.disconnect()
    observer.observe(loaded.value.body)
    patch()
  }

  function patch(): void {
    const shown = loaded.value
    if (shown === null) return
    const [head, body] = wanted.value.children
    if (isHeld()) {
      const styles = [...stylesIn(wanted.value)]
      for (const [at, style] of [...shown.querySelectorAll('head style, body style')].entries())
        if (styles[at] !== undefined && style.textContent !== styles[at]) style.textContent = styles[at]
    } else {
      morph(shown.head, head as Page)
      morph(shown.body, body as Page)
    }
    measure()
  }

  function measure(): void {
    const body = loaded.value?.body
    if (!body) return
    height.value = Math.ceil(body.getBoundingClientRect().height)
    sticksOut.value = Math.max(0, body.scrollWidth - body.clientWidth)
  }

  watch(wanted, patch, { flush: 'post' })
  return { first, height, sticksOut, loaded, onLoad, patch }
}

function* stylesIn(node: Node): Generator<string> {
  if (typeof node === 'string') return
  if (node.tag === 'style') yield childrenInDom(node).join('')
  else for (const child of node.children) yield* stylesIn(child)
}

import { onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue'
import { follow } from './follow'

/**
 * Shows an HTML document in a sandboxed frame and keeps it current without reloading: after the first load,
 * only what differs is replaced. While `isHeld` says so (somebody is typing in the frame) the body is left
 * alone and only the styles follow.
 */
export function useFrameDocument(frame: Ref<HTMLIFrameElement | null>, html: () => string, isHeld: () => boolean = () => false) {
  const first = shallowRef(html())
  const height = ref(0)
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
    const wanted = new DOMParser().parseFromString(html(), 'text/html')
    follow(shown.head, wanted.head)
    if (isHeld()) {
      const styles = [...wanted.body.querySelectorAll('style')]
      for (const [at, style] of [...shown.body.querySelectorAll('style')].entries()) {
        const text = styles[at]?.textContent ?? ''
        if (style.textContent !== text) style.textContent = text
      }
    } else {
      follow(shown.body, wanted.body)
    }
    measure()
  }

  function measure(): void {
    const body = loaded.value?.body
    if (body) height.value = Math.ceil(body.getBoundingClientRect().height)
  }

  watch(html, patch, { flush: 'post' })
  return { first, height, loaded, onLoad, patch }
}

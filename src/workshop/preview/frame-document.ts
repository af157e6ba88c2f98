import { computed, onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue'
import { morph } from './morph'

/**
 * Shows an HTML document in a sandboxed frame and keeps it current without reloading: after the first load,
 * only what differs is replaced. While `isHeld` says so (somebody is typing in the frame) the body is left
 * alone and only the styles follow.
 */
export function useFrameDocument(
  frame: Ref<HTMLIFrameElement | null>,
  html: () => string,
  isHeld: () => boolean = () => false,
) {
  const wanted = computed(html)
  const first = shallowRef(wanted.value)
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
    if (isHeld()) {
      // Reading the whole page anew at every key would be work for nothing: its words are on the page already.
      const styles = [...wanted.value.matchAll(/<style>\n([\s\S]*?)\n<\/style>/g)].map(([, css]) => css ?? '')
      for (const [at, style] of [...shown.querySelectorAll('head style, body style')].entries()) {
        const text = `\n${styles[at] ?? ''}\n`
        if (styles[at] !== undefined && style.textContent !== text) style.textContent = text
      }
    } else {
      const { head, body } = new DOMParser().parseFromString(wanted.value, 'text/html')
      morph(shown.head, head)
      morph(shown.body, body)
    }
    measure()
  }

  function measure(): void {
    const body = loaded.value?.body
    if (body) height.value = Math.ceil(body.getBoundingClientRect().height)
  }

  watch(wanted, patch, { flush: 'post' })
  return { first, height, loaded, onLoad, patch }
}

import { watchEffect } from 'vue'

/** Says what a page shows in the browser's tab and history; null while that is not known yet. */
export function useTitle(what: () => string | null): void {
  watchEffect(() => {
    const title = what()
    if (title !== null) showTitle(title)
  })
}

export function showTitle(what: string): void {
  document.title = `${what} · Ask Box`
}

/*
 * Fetched by the visitors' script where a page was loaded anew or come back to: forms that a script makes get back what was
 * typed, as the browser does for those that stand in a page.
 */

/** Puts back what was kept when the page was left, once. */
export function restore(form: HTMLFormElement, spot: string): void {
  try {
    const name = `askbox-typed-${spot}`
    const typed = JSON.parse(sessionStorage[name] ?? '{}') as Record<string, string>
    delete sessionStorage[name]
    for (const control of form.elements as Iterable<HTMLInputElement>) {
      const value = typed[control.name]
      if (!control.name || control.type === 'hidden') continue
      if (control.type === 'checkbox' || control.type === 'radio') control.checked = value === control.value
      else if (value && !control.value) control.value = value
    }
  } catch {
    // Nothing was kept, or storage is blocked.
  }
}

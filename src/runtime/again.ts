import type { FormSettings } from '#core/render'

/*
 * Fetched by the visitors' script for an answer that a mail follows: a button that has the mail sent again.
 */

/**
 * @param button without a listener; it stands below the answer
 * @param action the receiver's address for it
 * @param names who just signed up
 * @param fails told when nothing got through
 */
export function offer(
  button: HTMLElement,
  { done }: NonNullable<FormSettings['again']>,
  action: string,
  names: string,
  fails: () => void,
): void {
  button.addEventListener('click', () => {
    void fetch(action, { method: 'POST', body: new URLSearchParams({ 'askbox-again': names }) }).then(({ ok }) => {
      if (ok) return button.replaceWith(done)
      // What more it takes, a page of the receiver's asks.
      const form = document.createElement('form')
      const input = document.createElement('input')
      Object.assign(form, { method: 'post', action })
      Object.assign(input, { type: 'hidden', name: 'askbox-again', value: names })
      form.append(input)
      button.after(form)
      form.submit()
    }, fails)
  })
}

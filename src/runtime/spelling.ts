import { meantAddress } from '../core/email/meant'

/*
 * Fetched by the visitors' script when an address was typed. What was typed stays unless its writer presses.
 */

const BUTTON =
  'min-height:24px;padding:0;border:0;background:none;color:inherit;font:inherit;text-decoration:underline;cursor:pointer'

/**
 * Asks below the field whether another address was meant.
 *
 * @param words `{address}` stands for it
 */
export function ask(input: HTMLInputElement, words: string): void {
  // What appears while the button is held down would move it from under the press, which then does nothing.
  if (document.querySelector(':active'))
    return addEventListener('pointerup', () => setTimeout(() => ask(input, words)), { once: true })
  const around = input.closest('.askbox-field')
  around?.querySelector('.askbox-meant')?.remove()
  const meant = meantAddress(input.value)
  if (around === null || meant === null) return
  const line = document.createElement('span')
  line.className = 'askbox-meant askbox-hint'
  line.setAttribute('role', 'status')
  line.append(
    question(words, meant, () => {
      input.value = meant
      line.remove()
      input.focus()
    }),
  )
  around.append(line)
}

/**
 * Asks below the answer whether another address was meant. The press signs up that one in place of what was typed, which
 * gets no further mail.
 *
 * @param action the receiver's address for it
 * @param token names who just signed up
 */
export function instead(result: HTMLElement, typed: string, words: string, action: string, token: string): void {
  const meant = meantAddress(typed)
  if (meant === null) return
  const line = document.createElement('p')
  line.className = 'askbox-meant'
  const button = question(words, meant, () => {
    button.disabled = true
    const body = new URLSearchParams({
      ...{ 'askbox-again': token, 'askbox-instead': meant },
      'askbox-zone': Intl.DateTimeFormat().resolvedOptions().timeZone,
    })
    void fetch(action, { method: 'POST', headers: { Accept: 'application/json' }, body })
      .then(({ ok }) => {
        if (ok) line.replaceWith(meant)
        else button.disabled = false
      })
      .catch(() => (button.disabled = false))
  })
  line.append(button)
  result.append(line)
}

function question(words: string, meant: string, take: () => void): HTMLButtonElement {
  const button = document.createElement('button')
  button.type = 'button'
  // A policy may forbid style attributes, but not this.
  button.style.cssText = BUTTON
  button.textContent = words.replace('{address}', () => meant)
  button.addEventListener('click', take)
  return button
}

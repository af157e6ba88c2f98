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
  const button = document.createElement('button')
  button.type = 'button'
  // A policy may forbid style attributes, but not this.
  button.style.cssText = BUTTON
  button.textContent = words.replace('{address}', () => meant)
  button.addEventListener('click', () => {
    input.value = meant
    line.remove()
    input.focus()
  })
  line.append(button)
  around.append(line)
}

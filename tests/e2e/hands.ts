import { expect, type Locator, type Page } from '@playwright/test'

/** What most tests press, as it is said on screen: changed here alone. */
export const labels = {
  addIt: 'Add it',
  byHand: 'By hand',
  checkThePage: 'Check the page',
  close: 'Close',
  compareNow: 'Compare now',
  erase: 'Erase',
  handOn: 'Hand this list on',
  keep: 'Keep',
  makeTheForm: 'Make the form',
  newForm: 'New form',
  pasteForMe: 'Paste it for me',
  redo: 'Redo',
  rehearse: 'Rehearse',
  rehearseEverything: 'Rehearse everything',
  save: 'Save',
  sendMadeUp: 'Send one made-up person',
  tryTheKey: 'Try the key',
  undo: 'Undo',
  whatIsTried: 'What is tried',
} as const

/** What an owner's hands can do, with mouse and keyboard or by keyboard alone. */
export interface Hands {
  press(what: Locator): Promise<void>
  /** Chooses one of a menu's options by its words. */
  choose(menu: Locator, words: string): Promise<void>
  /** Turns a box or a radio button on. */
  check(box: Locator): Promise<void>
  fill(input: Locator, text: string): Promise<void>
  /** Rewrites a text that is written in place. */
  rewrite(place: Locator, text: string): Promise<void>
  /** Gives a file to a place that takes one. */
  file(place: Locator, file: { name: string; mimeType: string; buffer: Buffer }): Promise<void>
}

export function mouseHands(page: Page): Hands {
  return {
    press: (what) => what.click(),
    choose,
    check: (box) => box.check(),
    async fill(input, text) {
      await input.fill(text)
      await input.blur()
    },
    async rewrite(place, text) {
      await place.click()
      await place.press('ControlOrMeta+a')
      await page.keyboard.insertText(text)
      await page.keyboard.press('Escape')
    },
    file: (place, file) => place.locator('input[type=file]').setInputFiles(file),
  }
}

/** Leads an open workshop to another of its places, as its own links do: nothing is loaded anew. */
export async function go(workshop: Page, path: string): Promise<void> {
  if (new URL(workshop.url()).pathname === path) return
  const title = await workshop.title()
  await workshop.evaluate((path) => {
    history.pushState(null, '', path)
    dispatchEvent(new PopStateEvent('popstate'))
  }, path)
  await expect(workshop).not.toHaveTitle(title)
}

/** Opens a menu and chooses the first option that has these words. */
export async function choose(menu: Locator, words: string): Promise<void> {
  const option = menu.page().getByRole('option', { name: words }).first()
  await menu.click()
  await option.click()
  await expect(option).toBeHidden()
}

/**
 * Works everything with the keys that browsers give it. What is to be worked is shown to be a stop of the Tab key: from
 * the stop before it, Tab leads to it. That every stop of a screen is reached from its beginning is tested once a screen.
 */
export function keyboardHands(page: Page): Hands {
  // Somebody listening from the start: asking for the chooser together with the key that opens it comes too late at times.
  page.on('filechooser', () => {})
  async function reach(what: Locator): Promise<void> {
    await what.waitFor()
    if (await what.evaluate(hasFocus)) return
    await what.evaluate((node: HTMLElement) => node.focus())
    for (const key of ['Shift+Tab', 'Tab']) await page.keyboard.press(key)
    if (!(await what.evaluate(hasFocus))) throw new Error(`Not reached with the Tab key: ${what}`)
  }
  return {
    async press(what) {
      if ((await what.getAttribute('role')) === 'tab') {
        // Tab goes to the chosen one of a row; the arrows go on from there.
        await reach(page.locator('[role=tab][aria-selected=true]'))
        for (let count = 0; count < 10 && !(await what.evaluate(hasFocus)); count++)
          await page.keyboard.press('ArrowRight')
      } else if ((await what.getAttribute('role')) === 'menuitem') {
        // The menu that was opened takes the focus.
        await page.waitForFunction(() => document.activeElement?.getAttribute('role') === 'menuitem')
        for (let count = 0; count < 10 && !(await what.evaluate(hasFocus)); count++)
          await page.keyboard.press('ArrowDown')
      } else await reach(what)
      await page.keyboard.press('Enter')
    },
    async choose(menu, words) {
      await reach(menu)
      await page.keyboard.press('Space')
      await page.keyboard.press('Home')
      const hovered = async () =>
        (await page.locator(`[id="${await menu.getAttribute('aria-activedescendant')}"]`).textContent()) ?? ''
      for (let count = 0; count < 80 && !(await hovered()).includes(words); count++)
        await page.keyboard.press('ArrowDown')
      await page.keyboard.press('Enter')
    },
    async check(box) {
      if (await box.isChecked()) return
      if ((await box.getAttribute('type')) === 'checkbox') {
        await reach(box)
        await page.keyboard.press('Space')
        return
      }
      // Tab goes to the chosen one of a group; the arrows go on from there.
      const name = await box.getAttribute('name')
      const group = page.locator(`input[type=radio][name="${name}"]`)
      const chosen = group.and(page.locator(':checked'))
      // Where none is chosen yet, it goes to the first.
      if ((await chosen.count()) === 0) {
        await reach(group.first())
        await page.keyboard.press('Space')
      } else await reach(chosen)
      for (let count = 0; count < 30 && !(await box.isChecked()); count++) await page.keyboard.press('ArrowDown')
    },
    async fill(input, text) {
      await reach(input)
      await page.keyboard.press('ControlOrMeta+a')
      await page.keyboard.insertText(text)
      await page.keyboard.press('Tab')
    },
    async rewrite(place, text) {
      await reach(place)
      await page.keyboard.press('ControlOrMeta+a')
      await page.keyboard.insertText(text)
      await page.keyboard.press('Escape')
    },
    async file(place, file) {
      await reach(place)
      const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.keyboard.press('Enter')])
      await chooser.setFiles(file)
    },
  }
}

/** Whether an element has the focus, in its frame and with it in the page. */
function hasFocus(node: Node): boolean {
  let active = node.ownerDocument!.defaultView!.top!.document.activeElement!
  while (active.tagName === 'IFRAME')
    active = (active as HTMLIFrameElement).contentDocument?.activeElement ?? active.ownerDocument.body
  return active === node && active.ownerDocument.hasFocus()
}

/** Counts what a hand presses in the workshop: pointer presses, wherever they land. Typing is not counted. */
export async function countPresses(workshop: Page): Promise<() => Promise<number>> {
  await workshop.evaluate(() => {
    const counting = window as unknown as { presses: number }
    counting.presses = 0
    addEventListener('pointerdown', () => (counting.presses += 1), true)
  })
  return () => workshop.evaluate(() => (window as unknown as { presses: number }).presses)
}

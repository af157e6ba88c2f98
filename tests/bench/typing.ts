import { chromium } from '@playwright/test'
import { type Field, type FieldKind, fieldKinds, newField } from '#core/form'
import { textsOf } from '#core/texts'
import { changeDraft } from '../api'
import { chromiumLaunch } from '../chromium'
import type { RunningBox } from '../programs'

/** Twenty fields of all kinds: far more than a form should ask. */
export function twentyFields(): Field[] {
  const texts = textsOf('en')
  const kinds: FieldKind[] = [...fieldKinds.map(({ kind }) => kind), 'line', 'topics', 'choose-one']
  return kinds.reduce<Field[]>(
    (fields, kind) => [
      ...fields,
      {
        ...newField(
          kind,
          texts,
          fields.map(({ key }) => key),
        ),
        hint: 'A hint',
      } as Field,
    ],
    [],
  )
}

/**
 * Types into a heading in the picture of a form with twenty fields. Milliseconds of the page's main thread
 * from each key until the draft and the picture have followed and are laid out, in order of size. The small
 * pictures and the checkup follow when the hands rest.
 */
export async function typingTimes(box: RunningBox, keys: number): Promise<number[]> {
  await giveTwentyFields(box)
  const browser = await chromium.launch(chromiumLaunch)
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    page.setDefaultTimeout(20_000)
    await page.goto(box.pairing)
    await page.getByText('all saved').waitFor()
    await page.goto(`${box.workshop}/forms/blogletterform/form`)
    const heading = page.frameLocator('iframe[title^="The form."]').locator('.askbox-heading')
    await heading.click()
    await page.frameLocator('iframe[title^="The form."]').locator('.askbox-field-choose-one-2').waitFor()
    // From outside, as the workshop does it: the picture's own document runs no scripts.
    await page.evaluate(() => {
      const times: number[] = []
      Object.assign(window, { typingTimes: times })
      const picture = document.querySelector<HTMLIFrameElement>('iframe[title^="The form."]')!.contentDocument!
      let start = 0
      picture.addEventListener('keydown', () => (start = performance.now()), true)
      // Heard after the workshop's own listener, so this turn comes after the update that it has asked for.
      picture.addEventListener('input', () =>
        queueMicrotask(() => {
          // Reading a size makes the browser lay the page out now.
          void picture.body.offsetHeight
          times.push(performance.now() - start)
        }),
      )
    })
    // Some twelve keys a second: faster than people type.
    for (let key = 0; key < keys; key++) {
      await page.keyboard.press('abcdefgh '[key % 9]!)
      await page.waitForTimeout(75)
    }
    const times = await page.evaluate(() => (window as unknown as { typingTimes: number[] }).typingTimes)
    return times.sort((one, other) => one - other)
  } finally {
    await browser.close()
  }
}

export function giveTwentyFields(box: RunningBox): Promise<void> {
  return changeDraft(box, 'blogletterform', (content) => ({ ...content, fields: twentyFields() }))
}

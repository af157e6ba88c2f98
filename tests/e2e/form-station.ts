import { expect } from './box'
import type { FrameLocator, Locator, Page } from '@playwright/test'

/** The hands of an owner at the Form station. */
export function picture(page: Page): FrameLocator {
  return page.frameLocator('iframe[title^="The form."]')
}

export async function drawer(
  page: Page,
  name: 'Shape' | 'Words' | 'Fields' | 'Look' | 'Page' | 'Checkup',
): Promise<void> {
  await page.getByRole('tab', { name }).click()
}

/** Asks one thing more; its editor is then open. */
export async function ask(page: Page, kind: string): Promise<void> {
  await drawer(page, 'Fields')
  await page.getByLabel('Ask one thing more').getByRole('button', { name: kind, exact: true }).click()
}

/** Sets one of the colours, whose drawer has to be open. */
export async function colour(page: Page, name: string, value: string): Promise<void> {
  await page.getByRole('textbox', { name, exact: true }).fill(value)
  await page.getByRole('textbox', { name, exact: true }).press('Enter')
}

/** Rewrites a text where it stands in the picture. */
export async function rewrite(place: Locator, text: string): Promise<void> {
  await place.click()
  await place.press('ControlOrMeta+a')
  await place.page().keyboard.insertText(text)
  await place.press('Escape')
  await expect(place).toHaveText(text)
}

import { expect, type Page } from '@playwright/test'
import type { RunningBox } from '../programs'

/** Saves in a stand-in's editor, as its own form does. */
export async function saveInEditor(
  box: RunningBox,
  key: string,
  slot: string,
  fields: Record<string, string>,
): Promise<void> {
  const response = await fetch(`${box.sites}/editor/${key}/${encodeURIComponent(slot)}`, {
    method: 'POST',
    headers: { Origin: box.sites, 'Content-Type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams(fields),
  })
  expect(response.ok).toBe(true)
}

export async function clearCache(box: RunningBox, key: string): Promise<void> {
  await fetch(`${box.sites}/editor/${key}/clear-cache`, {
    method: 'POST',
    headers: { Origin: box.sites, 'Content-Type': 'application/x-www-form-urlencoded' },
  })
}

/** A form's page at its Spot station. */
export async function openSpot(workshop: Page, box: RunningBox, form: string): Promise<void> {
  await workshop.goto(`${box.workshop}/forms/${form}/spot`)
  await workshop.locator('.spot').first().waitFor()
}

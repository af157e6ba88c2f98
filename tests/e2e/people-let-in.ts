import { expect, type Page } from '@playwright/test'

/** The address that an owner makes for somebody else's browser, on the settings' page that is open. */
export async function letIn(
  owner: Page,
  { name, may, seesPeople = false }: { name: string; may: string; seesPeople?: boolean },
): Promise<string> {
  await owner.getByRole('region', { name: 'Who may come in' }).getByRole('button', { name: 'Let somebody in' }).click()
  const dialog = owner.getByRole('dialog', { name: 'Let somebody in' })
  await dialog.getByLabel('Whose browser it is').fill(name)
  await dialog.getByText(may, { exact: true }).click()
  if (seesPeople) await dialog.getByText('They see names').click()
  await dialog.getByRole('button', { name: 'Make an address' }).click()
  await expect(dialog.getByText('It works once')).toBeVisible()
  const address = await dialog.getByRole('textbox').inputValue()
  await dialog.getByRole('button', { name: 'Done' }).click()
  await expect(dialog).toBeHidden()
  return address
}

/** Tables of the browser's own database that hold anything, but for what it says of itself. */
export function rowsIn(page: Page): Promise<string[]> {
  return page.evaluate(async () => {
    const database = await new Promise<IDBDatabase>((resolve, reject) => {
      const opening = indexedDB.open('ask-box')
      opening.onsuccess = () => resolve(opening.result)
      opening.onerror = () => reject(opening.error)
    })
    try {
      const holding: string[] = []
      for (const name of [...database.objectStoreNames].filter((one) => one !== 'settings')) {
        const count = await new Promise<number>((resolve) => {
          const counting = database.transaction(name).objectStore(name).count()
          counting.onsuccess = () => resolve(counting.result)
        })
        if (count > 0) holding.push(name)
      }
      return holding
    } finally {
      database.close()
    }
  })
}

import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { violationsOn } from './axe'
import { expect, test } from './box'
import { picture, rewrite } from './form-station'
import { letIn } from './people-let-in'
import { labels } from './hands'

/** A browser of somebody's own, let in by an address. */
async function another(page: Page, address: string): Promise<Page> {
  const other = await (await page.context().browser()!.newContext()).newPage()
  await other.goto(address)
  await expect(other.getByText('all saved')).toBeVisible({ timeout: 20_000 })
  return other
}

test(
  'an editor works beside the owner: each sees the other, what differs is kept, and who did it is told',
  { tag: '@way' },
  async ({ paired: owner, box }) => {
    await owner.goto(`${box.workshop}/settings`)
    const anna = await another(owner, await letIn(owner, { name: 'Anna', may: 'Makes and publishes' }))
    await anna.goto(`${box.workshop}/forms/schoolsform`)
    await owner.goto(`${box.workshop}/forms/schoolsform`)
    await expect(owner.getByText('Anna has this form open too')).toBeVisible({ timeout: 20_000 })
    await expect(anna.getByText('has this form open too')).toBeVisible({ timeout: 20_000 })
    // Loaded again, the tab is the same one, and not somebody beside itself.
    await owner.reload()
    await expect(owner.getByText(/^Anna has this form open too/)).toBeVisible({ timeout: 20_000 })
    await rewrite(picture(owner).locator('.askbox-button'), 'The owner’s button')
    await expect(picture(anna).locator('.askbox-button')).toHaveText('The owner’s button', { timeout: 20_000 })
    await rewrite(picture(anna).locator('.askbox-heading'), 'Anna’s heading')
    for (const page of [anna, owner]) {
      await expect(picture(page).locator('.askbox-heading')).toHaveText('Anna’s heading', { timeout: 20_000 })
      await expect(picture(page).locator('.askbox-button')).toHaveText('The owner’s button', { timeout: 20_000 })
    }
    // She makes and publishes, and lets nobody in.
    await anna.getByRole('button', { name: /^Publish (version|with)/ }).click()
    await expect(anna.getByText(/^Version \d+, published/)).toBeVisible({ timeout: 20_000 })
    await anna.goto(`${box.workshop}/settings`)
    const there = anna.getByRole('region', { name: 'Who may come in' })
    await expect(there.getByRole('row', { name: /Anna \(this one\)/ })).toContainText('Makes and publishes')
    await expect(there.getByRole('button')).toHaveCount(0)
    await anna.close()
    await expect(owner.getByText('Last changed by Anna')).toBeVisible({ timeout: 40_000 })
  },
)

test('who looks on sees forms and numbers, no names, and changes nothing', async ({ paired: owner, box }) => {
  await owner.goto(`${box.workshop}/settings`)
  const ben = await another(owner, await letIn(owner, { name: 'Ben', may: 'Looks on' }))
  await expect(ben.getByRole('note').filter({ hasText: 'You look on here' })).toContainText('Names, addresses')
  await expect(ben.getByRole('button', { name: labels.newForm })).toHaveCount(0)
  expect(await violationsOn(ben)).toEqual([])
  await ben.goto(`${box.workshop}/lists/clearskyalerts`)
  await expect(ben.getByText(/somebody \w{4}/).first()).toBeVisible({ timeout: 20_000 })
  await expect(ben.getByText(/@\w+\.example/)).toHaveCount(0)
  await ben.goto(`${box.workshop}/forms/schoolsform`)
  await expect(picture(ben).locator('.askbox-heading')).toHaveAttribute('contenteditable', 'false')
  // What changes something is greyed, and what only shows is not.
  const changes = ben.locator('.controls').locator('input, textarea, select, button')
  for (const station of ['form', 'answer', 'mail']) {
    await ben.goto(`${box.workshop}/forms/schoolsform/${station}`)
    await expect(changes.first()).toBeVisible()
    for (const one of await changes.all()) await expect(one).toBeDisabled()
  }
  await expect(ben.getByRole('textbox', { name: 'Name of the form' })).toBeDisabled()
  await ben.goto(`${box.workshop}/lists/clearskyalerts`)
  await expect(ben.getByRole('button', { name: 'Add somebody' })).toBeDisabled()
  await expect(ben.getByLabel('Find an address')).toBeEnabled()
  // Who finds a way to it all the same is told, and nothing is kept.
  await ben.goto(`${box.workshop}/new`)
  await ben.getByText('School visits', { exact: true }).click()
  await ben.getByRole('button', { name: labels.makeTheForm }).click()
  await expect(ben.getByRole('alert').filter({ hasText: 'changes nothing' })).toBeVisible()
  await ben.goto(box.workshop)
  await expect(ben.getByText('all saved')).toBeVisible({ timeout: 20_000 })
})

test(
  'a client without a key reads results and lines by an address, until it is withdrawn',
  { tag: '@way' },
  async ({ paired: owner, box }) => {
    await owner.goto(`${box.workshop}/results`)
    await owner.getByRole('button', { name: 'A page for a client' }).click()
    const dialog = owner.getByRole('dialog', { name: 'A page for a client' })
    await dialog.getByLabel('Whom it is for').fill('Hill Café')
    await dialog.getByRole('button', { name: 'Make a page' }).click()
    await expect(dialog.getByText('Hill Café', { exact: true })).toBeVisible()
    expect(await violationsOn(owner)).toEqual([])
    const address = await dialog.getByRole('textbox').first().inputValue()
    const client = await (await owner.context().browser()!.newContext()).newPage()
    await client.goto(address)
    await expect(client.getByRole('heading', { name: 'Hill Café' })).toBeVisible()
    await client.getByRole('link', { name: 'A year' }).click()
    await expect(client.getByText(/people signed up in these 365 days/)).toBeVisible()
    // Nothing runs on it, what looks at it neither: a copy is looked at.
    const copy = await owner.context().newPage()
    await copy.setContent(await (await fetch(address)).text())
    expect(await violationsOn(copy)).toEqual([])
    await copy.setViewportSize({ width: 360, height: 780 })
    expect(await copy.evaluate(() => document.documentElement.scrollWidth)).toBe(360)
    await dialog.getByRole('button', { name: 'Withdraw Hill Café' }).click()
    await dialog.getByRole('button', { name: 'Withdraw the page' }).click()
    await expect(dialog.getByText('Hill Café', { exact: true })).toHaveCount(0)
    expect((await client.reload())!.status()).toBe(404)
  },
)

test('the key of links is saved under a passphrase, and comes back with that one alone', async ({
  workshop: owner,
  box,
}) => {
  await owner.goto(`${box.workshop}/settings`)
  await owner.getByRole('button', { name: 'Save it in a file' }).click()
  const saving = owner.getByRole('dialog', { name: 'Save it in a file' })
  await saving.getByLabel('Passphrase').fill('cloudberries in june')
  const [download] = await Promise.all([
    owner.waitForEvent('download'),
    saving.getByRole('button', { name: 'Save', exact: true }).click(),
  ])
  const file = { name: 'key.txt', mimeType: 'text/plain', buffer: readFileSync(await download.path()) }
  expect(file.buffer.toString()).not.toContain('cloudberries')
  await owner.getByRole('button', { name: 'Bring one back' }).click()
  const opening = owner.getByRole('dialog', { name: 'Bring one back' })
  await opening.locator('input[type=file]').setInputFiles(file)
  await opening.getByLabel('Passphrase').fill('cloudberries in july')
  await opening.getByRole('button', { name: 'Bring back' }).click()
  await expect(opening.getByText(/passphrase/i).last()).toBeVisible()
  await expect(opening).toBeVisible()
  await opening.getByLabel('Passphrase').fill('cloudberries in june')
  await opening.getByRole('button', { name: 'Bring back' }).click()
  await expect(owner.getByText('The key of links is back: links that it marked work.')).toBeVisible()
})

import { cpSync, rmSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { join, resolve } from 'node:path'
import type { Page } from '@playwright/test'
import { end, type RunningBox } from '../programs'
import { violationsOn } from './axe'
import { expect, test } from './box'
import { drawer, picture, rewrite } from './form-station'
import { go, labels } from './hands'
import { letIn, rowsIn } from './people-let-in'

async function signUp(box: RunningBox, email: string, spot = 'firstfrost'): Promise<number> {
  const response = await fetch(`${box.workshop}/join/${spot}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/x-www-form-urlencoded', Accept: 'application/json' },
    body: `email=${encodeURIComponent(email)}`,
  })
  return response.status
}

/** Everything that was done here is at the receiver. */
async function sent(page: Page): Promise<void> {
  await expect(page.getByRole('link', { name: 'all saved', exact: true })).toBeVisible({ timeout: 20_000 })
}

test('a workshop at rest leaves its database alone', async ({ paired, box }) => {
  const page = await paired.context().newPage()
  // Before Dexie takes hold of it.
  await page.addInitScript(() => {
    const counted = Object.assign(window, { transactions: 0 })
    const { transaction } = IDBDatabase.prototype
    IDBDatabase.prototype.transaction = function (...wish) {
      counted.transactions += 1
      return transaction.apply(this, wish)
    }
  })
  await page.goto(box.workshop)
  expect(await signUp(box, 'at-rest@post.example')).toBe(200)
  await expect(page.getByText('at-rest@post.example').first()).toBeVisible()
  /** Transactions in a third of a second. */
  const begun = () =>
    page.evaluate(async () => {
      const counted = window as unknown as { transactions: number }
      const before = counted.transactions
      await new Promise((resolve) => setTimeout(resolve, 333))
      return counted.transactions - before
    })
  await expect.poll(begun, { timeout: 20_000 }).toBe(0)
})

test(
  'what one browser makes, another has: drafts, renamed lists, retired spots; changes to different parts become both',
  { tag: '@way' },
  async ({ paired: workshop, box, browser }) => {
    const second = await (await browser.newContext()).newPage()
    await second.goto(box.pairing)
    await second.getByText('all saved').waitFor()

    // A draft that was never published, and two changes to one form in different places.
    await workshop.goto(`${box.workshop}/forms/schoolsform`)
    await rewrite(picture(workshop).locator('.askbox-heading'), 'Bring your class')
    await go(second, '/forms/schoolsform')
    await expect(picture(second).locator('.askbox-heading')).toHaveText('Bring your class')
    await sent(workshop)
    await workshop.context().setOffline(true)
    await rewrite(picture(workshop).locator('.askbox-heading'), 'Bring your whole class')
    await rewrite(picture(second).locator('.askbox-button'), 'We are coming')
    await sent(second)
    await expect(workshop.getByText(/not reached, 1 change kept here/)).toBeVisible({ timeout: 20_000 })
    await workshop.context().setOffline(false)
    for (const page of [workshop, second]) {
      await expect(picture(page).locator('.askbox-heading')).toHaveText('Bring your whole class', { timeout: 20_000 })
      await expect(picture(page).locator('.askbox-button')).toHaveText('We are coming')
    }
    // What came from elsewhere is a step like any other.
    await workshop.getByRole('button', { name: labels.undo }).click()
    await expect(picture(second).locator('.askbox-button')).not.toHaveText('We are coming')

    // Retired in one browser, it stays retired whatever the other does.
    await go(workshop, '/forms/blogletterform/spot')
    await workshop.getByRole('button', { name: 'Take this spot out of use' }).click()
    await expect(workshop.getByRole('alert').filter({ hasText: 'takes no more sign-ups' })).toBeVisible()
    expect(await signUp(box, 'late@mail.example')).toBe(410)
    await go(second, '/lists/membersletter')
    await second.getByRole('button', { name: 'Edit name, words and columns' }).click()
    await second.getByLabel('Name', { exact: true }).fill('The members’ letter')
    await second.getByLabel('Name', { exact: true }).blur()
    await expect(second.getByRole('heading', { name: 'The members’ letter' })).toBeVisible()
    await sent(second)
    await go(second, '/forms/blogletterform/spot')
    await expect(second.getByText('inline · retired')).toBeVisible()
    expect(await signUp(box, 'late@mail.example')).toBe(410)
    await go(workshop, '/lists')
    await expect(workshop.getByRole('link', { name: 'The members’ letter' })).toBeVisible()
    await second.context().close()
  },
)

test(
  'what is done without the receiver is told as waiting, and done by itself when it can be',
  { tag: '@way' },
  async ({ paired: workshop, box }) => {
    await workshop.goto(`${box.workshop}/forms/blogletterform/spot`)
    await expect(workshop.getByRole('heading', { name: /^Plain code/ })).toBeVisible()
    await sent(workshop)
    await workshop.context().setOffline(true)
    await workshop.getByRole('button', { name: 'Take this spot out of use' }).click()
    await expect(workshop.getByRole('alert').filter({ hasText: 'still takes sign-ups until then' })).toBeVisible()
    await expect(workshop.getByText('not saved at the receiver yet')).toBeVisible()
    expect(await signUp(box, 'in-between@mail.example')).toBe(200)
    await workshop.context().setOffline(false)
    await expect(workshop.getByText('not saved at the receiver yet')).toHaveCount(0, { timeout: 20_000 })
    expect(await signUp(box, 'too-late@mail.example')).toBe(410)
  },
)

test('only what changed is sent, and a picture once', async ({ paired: workshop, box }) => {
  const posts: { path: string; bytes: number }[] = []
  workshop.on('request', (request) => {
    if (request.method() !== 'GET')
      posts.push({
        path: new URL(request.url()).pathname.replace(/pictures\/.*/, 'pictures'),
        bytes: request.postData()?.length ?? 0,
      })
  })
  await workshop.goto(`${box.workshop}/forms/schoolsform`)
  await drawer(workshop, 'Words')
  await workshop.getByText('Picture', { exact: true }).first().click()
  const pixel = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==',
    'base64',
  )
  await workshop
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'pixel.png', mimeType: 'image/png', buffer: pixel })
  await expect(picture(workshop).locator('.askbox-picture img')).toBeVisible()
  const changes = () => posts.filter(({ path }) => path === '/api/changes').length
  await expect.poll(changes).toBeGreaterThan(0)
  await sent(workshop)
  const before = changes()
  await rewrite(picture(workshop).locator('.askbox-heading'), 'With a picture')
  await expect.poll(changes).toBeGreaterThan(before)
  expect(posts.filter(({ path }) => path === '/api/pictures')).toHaveLength(1)
  // One form with its draft, and never all of the demo's versions.
  expect(Math.max(...posts.map(({ bytes }) => bytes))).toBeLessThan(40_000)
})

test('a receiver put back to an older copy is noticed, and gets back from the workshop what it lost', async ({
  workshop,
  box,
}) => {
  const copy = `${box.folder}-copy`
  const database = (folder: string) => join(folder, 'askbox.sqlite')
  await end(box.receiver)
  cpSync(database(box.folder), database(copy))
  await box.restart()
  await expect(workshop.getByText('all saved')).toBeVisible({ timeout: 30_000 })

  expect(await signUp(box, 'lost-and-found@mail.example')).toBe(200)
  await go(workshop, '/lists/membersletter')
  await expect(workshop.getByRole('row', { name: /lost-and-found/ })).toBeVisible()
  await workshop.getByRole('button', { name: 'Edit name, words and columns' }).click()
  await workshop.getByLabel('Name', { exact: true }).fill('The newer name')
  await workshop.getByLabel('Name', { exact: true }).blur()
  await expect(workshop.getByRole('heading', { name: 'The newer name' })).toBeVisible()
  await sent(workshop)

  await end(box.receiver)
  rmSync(`${database(box.folder)}-wal`, { force: true })
  cpSync(database(copy), database(box.folder))
  await box.restart()
  // It has gone on from there, so that the cursor alone would tell nothing.
  for (const name of ['after-one', 'after-two']) expect(await signUp(box, `${name}@mail.example`)).toBe(200)
  await expect(workshop.getByText('put back to an older copy')).toBeVisible({ timeout: 30_000 })
  await go(workshop, '/settings')
  await workshop.getByRole('button', { name: 'Bring the receiver up to date' }).click()
  await expect(
    workshop.getByRole('alert').filter({ hasText: 'The receiver has everything that is here.' }),
  ).toBeVisible({
    timeout: 30_000,
  })
  await sent(workshop)
  await go(workshop, '/lists/membersletter')
  await expect(workshop.getByRole('heading', { name: 'The newer name' })).toBeVisible()
  for (const name of ['lost-and-found', 'after-one', 'after-two'])
    await expect(workshop.getByRole('row', { name: new RegExp(name) })).toHaveCount(1)
  const response = await fetch(`${box.workshop}/api/journal?after=400`, {
    headers: { Authorization: `Bearer ${box.key}` },
  })
  const { entries } = (await response.json()) as { entries: { personal?: { email?: { compared: string } | null } }[] }
  expect(entries.filter(({ personal }) => personal?.email?.compared === 'lost-and-found@mail.example')).toHaveLength(1)
  rmSync(copy, { recursive: true, force: true })
})

test('a link with a wrong key takes no pairing away; one with a key that works is asked about', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/#key=junk-junk-junk-junk`)
  await expect(workshop.getByRole('alert')).toContainText('The pairing stays as it was')
  await expect(workshop).toHaveURL(`${box.workshop}/`)
  await expect(workshop.getByText('all saved')).toBeVisible()
  await workshop.getByRole('button', { name: 'Understood' }).click()
  await expect(workshop.getByRole('alert')).toHaveCount(0)
  await workshop.goto('about:blank')
  await workshop.goto(box.pairing)
  await expect(workshop.getByText('all saved')).toBeVisible()
  await expect(workshop.getByRole('alert')).toHaveCount(0)
})

test('a printed address connects one browser, once; Settings print another, and a key that is withdrawn is out', async ({
  box,
  browser,
}) => {
  const newBrowser = async () => (await browser.newContext()).newPage()
  const first = await newBrowser()
  await first.goto(box.printed)
  await expect(first.getByText('all saved')).toBeVisible()
  await expect(first).toHaveURL(`${box.workshop}/`)
  // The same address again, as the browser's history has it: here it is in already, elsewhere it opens nothing.
  await first.goto('about:blank')
  await first.goto(box.printed)
  await expect(first.getByText('all saved')).toBeVisible()
  await expect(first.getByRole('alert')).toHaveCount(0)
  const second = await newBrowser()
  await second.goto(box.printed)
  await expect(second.getByRole('alert')).toContainText('was used before, and connects one browser only')
  await expect(second.getByRole('heading', { name: 'Connect this browser' })).toBeVisible()
  await second.goto(`${box.workshop}/#pair=${'x'.repeat(32)}`)
  await expect(second.getByRole('alert')).toContainText('has ended, or is not this one’s')

  await first.goto(`${box.workshop}/settings`)
  const browsers = first.getByRole('region', { name: 'Who may come in' })
  await expect(browsers.getByRole('row', { name: /on Linux \(this one\)/ })).toBeVisible()
  expect(await violationsOn(first)).toEqual([])
  // The command prints another as well, which is left to somebody else.
  const command = spawnSync(process.execPath, [resolve(import.meta.dirname, '../../scripts/pair.mjs')], {
    env: { ...process.env, ASKBOX_PORT: new URL(box.workshop).port, ASKBOX_KEY: box.key, ASKBOX_DATA: box.folder },
    encoding: 'utf8',
  })
  expect(command.stdout).toMatch(new RegExp(`^${box.workshop}/#pair=[\\w-]{32}\\n$`))
  // In the tab where the workshop is open already.
  await second.goto(await letIn(first, { name: 'Ben', may: 'All of it' }))
  await expect(second.getByText('all saved')).toBeVisible()
  await second.goto(`${box.workshop}/settings`)
  const others = second.getByRole('region', { name: 'Who may come in' })
  const keys = others.getByRole('row').filter({ has: second.getByRole('button', { name: /^Withdraw/ }) })
  await expect(keys).toHaveCount(2)
  await expect(others.getByRole('row', { name: /Ben \(this one\)/ })).toContainText('All of it')
  const name = await keys.filter({ hasNotText: 'this one' }).locator('td').first().innerText()
  const other = others.getByRole('row', { name })
  await other.getByRole('button', { name: /^Withdraw/ }).click()
  await other.getByRole('button', { name: 'Withdraw the key' }).click()
  await expect(other).toContainText('Withdrawn')
  // Told by the stream, without a press: nothing of it stays in that browser.
  await expect(first.getByRole('alert').filter({ hasText: 'The key of this browser was withdrawn' })).toBeVisible()
  expect(await rowsIn(first)).toEqual([])
  await Promise.all([first, second].map((page) => page.context().close()))
})

test('words that the browser refuses to keep stay in hand, are told at once, and are kept when it can', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/schoolsform`)
  const heading = picture(workshop).locator('.askbox-heading')
  await expect(heading).toBeVisible()
  await workshop.evaluate(() => {
    const { put } = IDBObjectStore.prototype
    Object.assign(window, { letKeep: () => (IDBObjectStore.prototype.put = put) })
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('no room', 'QuotaExceededError')
    }
  })
  await rewrite(heading, 'Not to be lost')
  await expect(workshop.getByRole('alert').filter({ hasText: 'Not saved' })).toContainText('no room left')
  await expect(heading).toHaveText('Not to be lost')
  await workshop.evaluate(() => (window as unknown as { letKeep(): void }).letKeep())
  await expect(workshop.getByRole('alert').filter({ hasText: 'Not saved' })).toHaveCount(0, { timeout: 15_000 })
  await workshop.reload()
  await expect(heading).toHaveText('Not to be lost')
})

test('a newer version that opens the database in another tab takes nothing away from what is typed here', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/schoolsform`)
  const heading = picture(workshop).locator('.askbox-heading')
  await expect(heading).toBeVisible()
  const other = await workshop.context().newPage()
  await other.goto(`${box.workshop}/health`)
  await other.evaluate(
    () =>
      new Promise<void>((resolve, reject) => {
        const request = indexedDB.open('ask-box', 10_000)
        request.onupgradeneeded = () => request.result.createObjectStore('newer')
        request.onsuccess = () => (request.result.close(), resolve())
        request.onerror = () => reject(request.error)
      }),
  )
  await rewrite(heading, 'Typed after that')
  // The database is opened anew first; a page that is left before that keeps nothing.
  await expect.poll(() => other.evaluate(isKept, 'Typed after that')).toBe(true)
  await workshop.reload()
  await expect(heading).toHaveText('Typed after that')
})

/** Whether the browser's database holds a text in a form or in what is typed into one. */
function isKept(text: string): Promise<boolean> {
  return new Promise((resolve, reject) => {
    const request = indexedDB.open('ask-box')
    request.onerror = () => reject(request.error)
    request.onsuccess = () => {
      const database = request.result
      const names = [...database.objectStoreNames].filter((name) => name === 'forms' || name === 'edits')
      const reading = database.transaction(names)
      let isFound = false
      for (const name of names) {
        const all = reading.objectStore(name).getAll()
        all.onsuccess = () => (isFound ||= JSON.stringify(all.result).includes(text))
      }
      reading.oncomplete = () => {
        database.close()
        resolve(isFound)
      }
    }
  })
}

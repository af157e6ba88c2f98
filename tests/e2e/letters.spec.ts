import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { simpleParser } from 'mailparser'
import { violationsOn } from './axe'
import type { RunningBox } from '../programs'
import { expect, test } from './box'
import { labels } from './hands'

test.use({ withMailbox: true })

const HOUR_MS = 3_600_000
const DAY_MS = 24 * HOUR_MS

async function mailsIn(box: RunningBox, address: string) {
  const folder = join(box.folder, 'mailbox', address.replaceAll('@', '%40').replaceAll('.', '%2E'), 'new')
  const names = existsSync(folder) ? readdirSync(folder).sort() : []
  return Promise.all(names.map((name) => simpleParser(readFileSync(join(folder, name)))))
}
const subjectsIn = async (box: RunningBox, address: string) =>
  (await mailsIn(box, address)).map(({ subject }) => subject ?? '')

/** Signs somebody up for the clear-sky alerts, from a browser in a zone. */
async function joins(page: Page, box: RunningBox, email: string, zone = ''): Promise<void> {
  const answer = await page.request.post(`${box.workshop}/join/starchart`, {
    form: { email, 'first-name': 'Wren', consent: 'yes', 'askbox-zone': zone, 'askbox-seconds': '30' },
    headers: { Accept: 'application/json' },
  })
  expect(await answer.json()).toMatchObject({ outcome: expect.stringMatching(/joined|already/) })
}
async function begin(workshop: Page, box: RunningBox, subject: string): Promise<void> {
  await workshop.goto(`${box.workshop}/write`)
  await workshop.getByRole('button', { name: 'Write a letter' }).click()
  await workshop.getByRole('menuitem', { name: /^News/ }).click()
  // Between several lists, only the owner knows whom it is to.
  await workshop.getByLabel('To the people of').first().click()
  await workshop.getByRole('option', { name: 'Clear-sky alerts' }).click()
  await workshop.keyboard.press('Escape')
  const letter = workshop.frameLocator('iframe[title^="The letter. Press"]')
  await letter.locator('h1 [data-text]').click()
  await workshop.keyboard.insertText(subject)
  await workshop.getByRole('textbox', { name: 'What they see first' }).click()
  await workshop.keyboard.insertText(subject)
  await letter.getByRole('link', { name: 'Read on' }).click()
  await workshop.getByRole('textbox', { name: 'Where it leads' }).fill(`${box.sites}/observatory/posts/open-nights`)
  await expect(workshop.getByRole('heading', { level: 1, name: subject })).toBeVisible()
}
async function send(workshop: Page): Promise<void> {
  await workshop.getByRole('button', { name: 'Send …' }).click()
  await workshop.getByRole('button', { name: /^(Send it to|Have it go)/ }).click()
  await expect(workshop).toHaveURL(/\/write\/sent\//)
}

test(
  'a letter is written in itself, looked at, tried by somebody made up, sent; one reader leaves by it, and it says so',
  { tag: '@way' },
  async ({ paired: workshop, box, page }) => {
    await joins(page, box, 'wren@post.example')
    await begin(workshop, box, 'Saturn over the quarry')
    // What is typed in the letter is what it says; one step is taken back.
    const letter = workshop.frameLocator('iframe[title^="The letter. Press"]')
    await letter.locator('div[data-text]').first().click()
    await workshop.keyboard.press('ControlOrMeta+End')
    await workshop.keyboard.insertText(' bring socks.')
    await workshop.keyboard.press('Escape')
    await expect(workshop.getByRole('list', { name: 'Blocks, in their order' })).toContainText('bring socks.')
    await workshop.getByRole('button', { name: labels.undo }).click()
    await expect(workshop.getByRole('list', { name: 'Blocks, in their order' })).not.toContainText('bring socks.')
    await workshop.getByRole('button', { name: labels.redo }).click()
    // A block is moved by keys.
    const blocks = workshop.getByRole('list', { name: 'Blocks, in their order' }).getByRole('listitem')
    await blocks
      .nth(2)
      .getByRole('button', { name: /^Button/ })
      .press('Alt+ArrowUp')
    await expect(blocks.nth(1)).toContainText('Button')
    await blocks
      .nth(1)
      .getByRole('button', { name: /^Button/ })
      .press('Alt+ArrowDown')
    expect(await violationsOn(workshop)).toEqual([])

    await workshop.getByRole('tab', { name: /^Before it goes/ }).click()
    await expect(workshop.getByText('people would get it now.')).toBeVisible()
    await expect(workshop.getByText('Its link leads somewhere.')).toBeVisible()
    await workshop.getByRole('button', { name: 'Try it' }).click()
    const trial = workshop.getByRole('list', { name: 'What the made-up reader met' })
    await expect(trial).toContainText('They are off the list By that one press.', { timeout: 60_000 })
    await expect(trial).not.toContainText('this failed')
    expect(await violationsOn(workshop)).toEqual([])
    await workshop.getByRole('textbox', { name: 'Send a test to' }).fill('me@hill.example')
    await workshop.getByRole('button', { name: 'Send a test' }).click()
    await expect.poll(() => subjectsIn(box, 'me@hill.example')).toEqual(['Saturn over the quarry'])

    await send(workshop)
    await expect(workshop.getByText(/sent today/)).toBeVisible({ timeout: 60_000 })
    const mail = (await mailsIn(box, 'wren@post.example')).find(({ subject }) => subject === 'Saturn over the quarry')!
    expect(mail.text).toContain('Hello Wren, bring socks.')
    const leave = /https?:\S+\/leave\/\S+/.exec(mail.text!)![0]
    await page.goto(leave)
    await page.getByRole('button', { name: 'Leave the list' }).click()
    await expect(page.getByRole('heading', { name: 'You have left the list' })).toBeVisible()
    await expect(workshop.getByText('Left because of it')).toBeVisible()
    // Its copy in the browser.
    await page.goto(/https?:\S+\/letter\/\S+/.exec(mail.text!)![0])
    await expect(page.getByRole('paragraph').filter({ hasText: 'Hello Wren, bring socks.' })).toBeVisible()
  },
)

test('at an hour of each reader’s day, two zones apart', async ({ paired: workshop, box, page }) => {
  await joins(page, box, 'tokyo@post.example', 'Asia/Tokyo')
  await joins(page, box, 'lima@post.example', 'America/Lima')
  await begin(workshop, box, 'By your own clock')
  await workshop.getByRole('button', { name: 'Send …' }).click()
  await workshop.getByText('At an hour of each reader’s day').click()
  await workshop.getByRole('button', { name: 'Have it go then' }).click()
  // Late in the day, 8:00 of tomorrow has come already where the day begins first.
  await expect(workshop.getByText(/by each reader’s clock|is going/)).toBeVisible()
  const got = async (name: string) => (await subjectsIn(box, `${name}@post.example`)).includes('By your own clock')
  // Tomorrow at 08:00 in Tokyo is the evening before in UTC; in Lima it is 13:00 UTC.
  const tomorrow = new Date(new Date().toISOString().slice(0, 10)).getTime() + DAY_MS
  box.moveClock(tomorrow + 10 * HOUR_MS - Date.now())
  await expect.poll(() => got('tokyo'), { timeout: 60_000 }).toBe(true)
  expect(await got('lima')).toBe(false)
  box.moveClock(tomorrow + 13 * HOUR_MS + 60_000 - Date.now())
  await expect.poll(() => got('lima'), { timeout: 60_000 }).toBe(true)
})

test('a post on the blog becomes a letter after a yes', async ({ paired: workshop, box, page }) => {
  await joins(page, box, 'wren@post.example')
  await workshop.goto(`${box.workshop}/write?view=feeds`)
  await workshop.getByRole('link', { name: /Volunteers’ blog/ }).click()
  await workshop.getByRole('button', { name: 'Look at it' }).click()
  await expect(workshop.getByText('“Cloudberry Hill volunteers” has 3 posts.')).toBeVisible()
  await workshop.getByRole('button', { name: 'Read it now' }).click()
  await expect(workshop.getByText(/3 posts, nothing new/)).toBeVisible()

  await page.goto(`${box.sites}/editor/volunteers`)
  await page.getByLabel('Title of a new post').fill('The cat has moved out')
  await page.getByLabel('What it says').fill('She took the straw with her.')
  await page.getByRole('button', { name: 'Publish the post' }).click()
  await workshop.getByRole('button', { name: 'Read it now' }).click()
  await expect(workshop.getByText(/4 posts/)).toBeVisible()
  await workshop.goto(`${box.workshop}/write`)
  await workshop.getByRole('link', { name: /The cat has moved out/ }).click()
  await expect(workshop.getByText('It goes when you say yes.')).toBeVisible()
  expect(await subjectsIn(box, 'wren@post.example')).not.toContain('New on the blog: The cat has moved out')
  await workshop.getByRole('button', { name: 'Yes, send it' }).click()
  await expect
    .poll(() => subjectsIn(box, 'wren@post.example'), { timeout: 60_000 })
    .toContain('New on the blog: The cat has moved out')
})

test('a series over five days, drawn as a line of days', async ({ paired: workshop, box, page }) => {
  await workshop.goto(`${box.workshop}/write?view=series`)
  await workshop.getByRole('link', { name: /The first weeks/ }).click()
  const days = workshop.getByRole('list', { name: 'The days of the series' })
  await expect(days).toContainText('a day later, 18:00')
  await joins(page, box, 'wren@post.example')
  await expect(days).toContainText('1 waits for it', { timeout: 30_000 })
  const got = async () =>
    (await subjectsIn(box, 'wren@post.example')).filter((subject) => !/star chart|Clear skies/.test(subject))
  box.moveClock(2 * DAY_MS)
  await expect.poll(got, { timeout: 60_000 }).toEqual(['How we decide at four o’clock'])
  box.moveClock(5 * DAY_MS)
  await expect.poll(got, { timeout: 60_000 }).toEqual(['How we decide at four o’clock', 'What to bring up the hill'])
  await expect(days).toContainText('1 waits for it')
  expect(await violationsOn(workshop)).toEqual([])
})

test('too many refusals stop a letter; its owner sees why, mends its words and goes on', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(box.workshop)
  const refuse = (rules: object[]) =>
    workshop.request.put(`${box.workshop}/api/mailbox/behaviour`, {
      headers: { Authorization: `Bearer ${box.key}` },
      data: { rules },
    })
  // Some at each domain: one that takes nobody is held by itself, and many alike are nobody's fault.
  expect((await refuse([{ to: 'an', does: 'refuse', seconds: 0 }])).status()).toBe(200)
  await begin(workshop, box, 'Refused by many')
  await send(workshop)
  await expect(workshop.getByText(/It stopped by itself: of the last \d+, \d+ were refused/)).toBeVisible({
    timeout: 60_000,
  })
  await refuse([])
  await workshop.getByRole('button', { name: 'Mend its words' }).click()
  const dialog = workshop.getByRole('dialog', { name: 'Mend its words' })
  await dialog.getByRole('textbox', { name: 'What they see first' }).click()
  await workshop.keyboard.press('ControlOrMeta+a')
  await workshop.keyboard.insertText('Mended for the rest')
  await dialog.getByRole('button', { name: 'Use these words' }).click()
  await expect(workshop.getByText(/mended once while it went/)).toBeVisible()
  await workshop.getByRole('button', { name: 'Go on' }).click()
  await expect(workshop.getByText(/sent today/)).toBeVisible({ timeout: 60_000 })
})

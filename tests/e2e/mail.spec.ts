import { existsSync, readdirSync, readFileSync, renameSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import type { Entry } from '#core/journal'
import { entriesAfter } from '../api'
import { comingVisitors, killOften, receiverOf } from '../kills'
import type { RunningBox } from '../programs'
import { expect, test } from './box'
import { go, labels } from './hands'
import { startNameServer } from '../name-zone'
import { times } from '../seed'

test.use({ withMailbox: true })

/** At the Mail station: everybody confirms, and it is published. */
async function letEverybodyConfirm(workshop: Page, box: RunningBox, form: string): Promise<void> {
  await workshop.goto(`${box.workshop}/forms/${form}/mail`)
  await workshop.getByText('Everybody', { exact: true }).click()
  await workshop.getByRole('button', { name: /^Publish the mail/ }).click()
  await workshop.getByText('The mail is published').waitFor()
}
async function signUp(page: Page, box: RunningBox, email: string): Promise<void> {
  await page.goto(`${box.workshop}/page/starchart`)
  await page.getByLabel('Email').fill(email)
  await page.getByLabel('First name').fill('Wren')
  await page.getByLabel(/Yes, write to me/).check()
  await page.getByRole('button', { name: 'Send me the chart' }).click()
}
/** Opens a mail of a box by its subject. */
async function openMail(workshop: Page, address: string, subject: RegExp): Promise<void> {
  await go(workshop, '/mail-room')
  await workshop.getByRole('tab', { name: 'Stand-in mailbox' }).click()
  await workshop.getByRole('list', { name: 'Boxes' }).getByRole('button', { name: address }).click()
  await workshop.getByRole('list', { name: 'Mail in this box' }).getByRole('button', { name: subject }).first().click()
  await workshop.getByRole('heading', { name: subject }).waitFor()
}
/** Presses a link in the mail in sight; the page that it opens. */
async function follow(workshop: Page, name: RegExp): Promise<Page> {
  const link = workshop.frameLocator('iframe[title="The mail"]').getByRole('link', { name })
  let opened!: Page
  // A page in the background now and then opens none: its window is not the one in front.
  await expect(async () => {
    await workshop.bringToFront()
    ;[opened] = await Promise.all([workshop.context().waitForEvent('page', { timeout: 5_000 }), link.click()])
  }).toPass()
  return opened
}
/** Every mail in a box, as it came. */
function sourcesIn(box: RunningBox, address: string): string[] {
  const folder = join(box.folder, 'mailbox', address.replaceAll('@', '%40').replaceAll('.', '%2E'), 'new')
  return existsSync(folder) ? readdirSync(folder).map((name) => readFileSync(join(folder, name), 'utf8')) : []
}
const statusOf = async (box: RunningBox, email: string) => {
  const entries = await entriesAfter<Entry>(box, 0)
  const arrival = entries.findLast((entry) => entry.kind === 'arrival' && entry.personal?.email?.compared === email)
  return entries.filter((entry) => entry.member === arrival?.member).map(({ kind }) => kind)
}

test(
  'join, look in the inbox, press, confirmed, welcomed, the gift; left by one press, told of it, and back',
  { tag: '@way' },
  async ({ paired: workshop, box, page }) => {
    await letEverybodyConfirm(workshop, box, 'starchartform')
    await signUp(page, box, 'wren@post.example')
    await expect(page.locator('body')).toContainText('Look in your inbox')
    await page.getByRole('button', { name: 'Send the mail again' }).click()
    await expect(page.getByRole('status')).toContainText('The mail is on its way once more.')
    await expect.poll(() => sourcesIn(box, 'wren@post.example').length).toBe(2)

    await openMail(workshop, 'wren@post.example', /Please confirm: Clear-sky alerts/)
    const confirm = await follow(workshop, /Confirm my address/)
    await expect(confirm.getByRole('heading', { name: 'Join “Clear-sky alerts”?' })).toBeVisible()
    await confirm.getByRole('button', { name: 'Yes, put me on the list' }).click()
    await expect(confirm.getByRole('heading', { name: 'You are on the list' })).toBeVisible()
    expect(await statusOf(box, 'wren@post.example')).toEqual(['arrival', 'member-confirmed'])

    await openMail(workshop, 'wren@post.example', /Clear skies, Wren/)
    const link = workshop.frameLocator('iframe[title="The mail"]').getByRole('link', { name: /winter star chart/ })
    const given = await page.request.get((await link.getAttribute('href'))!)
    const [gift = ''] = readdirSync('demo/gifts')
    expect((await given.body()).equals(readFileSync(join('demo/gifts', gift)))).toBe(true)
    expect(given.headers()['content-disposition']).toContain('filename="winter-star-chart.pdf"')
    await go(workshop, '/lists/clearskyalerts')
    await expect(workshop.getByRole('row', { name: /wren@post\.example/ })).toContainText('on the list')

    await openMail(workshop, 'wren@post.example', /Clear skies, Wren/)
    const leave = await follow(workshop, /Leave the list/)
    await leave.getByRole('button', { name: 'Leave the list' }).click()
    await expect(leave.getByRole('heading', { name: 'You have left the list' })).toBeVisible()
    await openMail(workshop, 'wren@post.example', /You have left Clear-sky alerts/)
    const back = await follow(workshop, /Put me back on the list/)
    await back.getByRole('button', { name: 'Put me back on the list' }).click()
    await expect(back.getByRole('heading', { name: 'Welcome back' })).toBeVisible()
    expect(await statusOf(box, 'wren@post.example')).toEqual([
      'arrival',
      'member-confirmed',
      'member-left',
      'member-returned',
    ])
  },
)

test('an inbox of the owner’s own: a code goes there as the list’s mail does, and is typed in', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/starchartform/mail`)
  await workshop.getByRole('button', { name: 'Sender and addresses' }).click()
  const inbox = workshop.getByRole('group', { name: 'An inbox of your own' })
  await inbox.getByLabel('Send a code to').fill('owner@cloudberryhill.example')
  await inbox.getByRole('button', { name: 'Send a code' }).click()
  await inbox.getByText('On its way.').waitFor()
  const [mail = ''] = sourcesIn(box, 'owner@cloudberryhill.example')
  const code = /^Subject: (\d{6})/m.exec(mail)?.[1] ?? ''
  await inbox.getByLabel('The code that you read there').fill(code === '000000' ? '000001' : '000000')
  await inbox.getByRole('button', { name: 'It arrived' }).click()
  await inbox.getByText('That is not the code.').waitFor()
  await inbox.getByLabel('The code that you read there').fill(`${code.slice(0, 3)} ${code.slice(3)}`)
  await inbox.getByRole('button', { name: 'It arrived' }).click()
  await inbox.getByText('Mail arrives: a code was read at owner@cloudberryhill.example').waitFor()

  await go(workshop, '/forms/starchartform/spot')
  await workshop.getByRole('button', { name: labels.byHand }).click()
  await expect(workshop.getByText('Mail arrives:')).toBeVisible()
})

test('who never confirms is removed after seven days, and the link in the mail says so', async ({
  paired: workshop,
  box,
  page,
}) => {
  await letEverybodyConfirm(workshop, box, 'starchartform')
  await signUp(page, box, 'late@post.example')
  await openMail(workshop, 'late@post.example', /Please confirm/)
  box.moveClock(7.1 * 86_400_000)
  await expect
    .poll(() => statusOf(box, 'late@post.example'), { timeout: 20_000 })
    .toEqual(['arrival', 'member-expired'])
  const late = await follow(workshop, /Confirm my address/)
  await expect(late.getByRole('heading', { name: 'This link is used up' })).toBeVisible()
})

test('a rehearsal goes on through the mail: it fails at Mail with the gift removed, and passes with it', async ({
  paired: workshop,
  box,
}) => {
  await letEverybodyConfirm(workshop, box, 'starchartform')
  const folder = join(box.folder, 'gifts')
  const [gift = ''] = readdirSync(folder)
  renameSync(join(folder, gift), join(box.folder, 'kept'))
  const dock = workshop.getByRole('complementary', { name: 'Rehearsal' })
  const rehearse = async (outcome: RegExp) => {
    await workshop.locator('.page-head').getByRole('button', { name: labels.rehearse, exact: true }).click()
    await dock.getByText(outcome).waitFor({ timeout: 200_000 })
    await dock.getByRole('button', { name: labels.close, exact: true }).click()
  }
  await rehearse(/^1 failed$/)
  const mail = workshop.getByLabel('The line: stations of this form').getByRole('link', { name: /Mail/ })
  await expect(mail).toContainText('needs work')
  await expect(workshop.locator('.failures')).toContainText('The gift')
  renameSync(join(box.folder, 'kept'), join(folder, gift))
  await rehearse(/^1 passed$/)
  await expect(mail).toContainText('proven')
})

/** Over which mail goes out at once; receiver/outbox/transport.ts. */
const CONNECTIONS = 4

/** The crash tests beside the sender kill it at many more. */
const KILLS = times({ short: 3, whole: 10, endure: 100 })

test('killed at random moments, no mail is lost; one that comes twice is the same one', async ({ box }) => {
  test.setTimeout(600_000)
  const sources = (address: string) => sourcesIn(box, address)
  const visitors = comingVisitors(box, 'opennights', 6)
  const { answered } = visitors
  // Some moments after a sign-up is answered: while mails are on their way.
  await killOften(KILLS, [receiverOf(box)], { done: () => answered.length, enough: (kill) => kill % 6, withinMs: 20 })
  await visitors.go()
  expect(answered.length).toBeGreaterThan(KILLS)
  await expect.poll(() => answered.filter((email) => sources(email).length === 0), { timeout: 60_000 }).toEqual([])
  for (const email of answered) {
    const ids = sources(email).map((source) => /^Message-ID: (\S+)/im.exec(source)?.[1])
    expect([email, new Set(ids).size]).toEqual([email, 1])
  }
  // Only what was in flight when it was killed comes again: one mail a connection.
  const twice = answered.reduce((sum, email) => sum + sources(email).length - 1, 0)
  expect(twice).toBeLessThanOrEqual(KILLS * CONNECTIONS)
})

test('what a sender’s domain is missing is proposed, put in by its owner, and seen to be there', async ({
  workshop,
  box,
}) => {
  const names = await startNameServer(box.namesPort)
  try {
    await workshop.goto(`${box.workshop}/forms/starchartform/mail`)
    await workshop.getByRole('button', { name: 'Sender and addresses' }).click()
    await workshop.getByRole('button', { name: 'Check this sender' }).click()
    const value = workshop.getByRole('textbox', { name: 'The value of the DMARC record' })
    await expect(value).toHaveValue('v=DMARC1; p=none')
    await workshop.getByRole('button', { name: 'Look it up until it is there' }).click()
    await expect(workshop.getByText(/Not right yet: SPF, DMARC/)).toBeVisible()
    const name = await workshop.getByRole('textbox', { name: 'The name of the DMARC record' }).inputValue()
    names.zone.txt = { [name]: [await value.inputValue()], [name.replace('_dmarc.', '')]: ['v=spf1 mx -all'] }
    // The receiver looks every five minutes.
    box.moveClock(6 * 60_000)
    await expect(workshop.getByText('All of it is right')).toBeVisible({ timeout: 30_000 })
    await go(workshop, '/mail-room')
    await expect(workshop.getByText(/All that receivers look for is right for/)).toBeVisible()
  } finally {
    names.stop()
  }
})

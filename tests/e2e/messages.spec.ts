import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { FrameLocator, Page } from '@playwright/test'
import PostalMime from 'postal-mime'
import { placePart, sharedLine } from '#core/embed'
import type { Version } from '#core/form'
import type { SpotId } from '#core/ids'
import type { Entry } from '#core/journal'
import type { Proof } from '#core/proof'
import { changeObject, changeSpot, entriesAfter, objectsOf } from '../api'
import type { RunningBox } from '../programs'
import { violationsOn } from './axe'
import { go, labels } from './hands'
import { expect, test } from './pages'

test.use({ withMailbox: true })

const FORM = 'writeform'
const SPOT = 'writetothehill'
const OWNER = 'ilka@cloudberryhill.example'

/** What came since a number, as the receiver keeps it. */
const happened = async (box: RunningBox, after: number) =>
  (await entriesAfter<Entry>(box, after)).map((entry) =>
    entry.kind === 'message' ? `message ${entry.joins}` : entry.kind === 'arrival' ? entry.verdict : entry.kind,
  )
const newest = async (box: RunningBox) => (await entriesAfter<Entry>(box, 0)).at(-1)!.n

async function mailsToOwner(box: RunningBox) {
  const folder = join(box.folder, 'mailbox', OWNER.replaceAll('@', '%40').replaceAll('.', '%2E'), 'new')
  const files = existsSync(folder) ? readdirSync(folder).sort() : []
  return Promise.all(files.map((name) => PostalMime.parse(readFileSync(join(folder, name)))))
}

async function write(
  on: Page | FrameLocator,
  { from, text, ticks = false }: { from: string; text: string; ticks?: boolean },
): Promise<void> {
  await on.getByLabel('Your email').fill(from)
  await on.getByLabel('Your message').fill(text)
  const box = on.getByLabel(/Also write to me/)
  await expect(box).not.toBeChecked()
  if (ticks) await box.check()
  await on.getByRole('button', { name: 'Send it up the hill' }).click()
}

test('written with and without the tick, by every way in: the answer says which, the mail comes, who did not tick is on no list', async ({
  box,
  page,
  site,
  browser,
}) => {
  const version = (await objectsOf(box, 'version'))
    .map(({ body }) => body as Version)
    .find(({ form }) => form === FORM)!
  const spot = (await objectsOf(box, 'spot')).find(({ key }) => key === SPOT)!.body!
  // A frame tells nothing to another site than its own.
  await changeObject(box, 'site', spot.site, { address: site.address })
  await changeSpot(box, SPOT, { ...spot, page: `${site.address}/script` })
  const frame = `<iframe title="F" width="680" height="900" src="${box.workshop}/frame/${SPOT}"></iframe>`
  const place = placePart(version.content, box.workshop, SPOT as SpotId, null)
  const scripted = site.put('/script', { head: sharedLine(box.workshop), body: place })
  const withoutScripts = await browser.newPage({ javaScriptEnabled: false })
  const ways: [way: string, page: Page, address: string, isFramed?: true][] = [
    ['plain code', page, `${box.sites}/observatory/about`],
    ['script', page, scripted],
    ['frame', page, site.put('/framed', { body: frame }), true],
    ['landing page', page, `${box.workshop}/page/${SPOT}`],
    ['scripts off', withoutScripts, `${box.sites}/observatory/about`],
  ]
  // What the site's own programs hear.
  await page.addInitScript(() => {
    const heard: string[] = []
    Object.assign(window, { heard })
    for (const name of ['joined', 'message-sent']) addEventListener(`askbox:${name}`, () => heard.push(name))
    addEventListener(
      'message',
      ({ data }) => ['joined', 'message-sent'].includes(data?.askbox) && heard.push(data.askbox),
    )
  })
  const heard = () => page.evaluate(() => (window as unknown as { heard: string[] }).heard)
  for (const [at, [way, on, address, isFramed]] of ways.entries())
    await test.step(way, async () => {
      for (const ticks of [false, true]) {
        const before = await newest(box)
        await on.goto(address)
        const within = isFramed ? on.frameLocator('iframe') : on
        const from = `${ticks ? 'joins' : 'writes'}${at}@visitor${at}.example`
        const text = `By ${way}${ticks ? ', and I would like your letter' : ''}: may I bring a dog to the dome, or is that against the rules?`
        await write(within, { from, text, ticks })
        await within.getByText(ticks ? 'Your message has arrived too.' : 'Your message is sent').waitFor()
        if (way === 'script' || way === 'plain code' || way === 'frame')
          await expect.poll(heard).toEqual([ticks ? 'joined' : 'message-sent'])
        expect(await happened(box, before)).toEqual(ticks ? ['message true', 'joined'] : ['message false'])
        await expect.poll(async () => (await mailsToOwner(box)).at(-1)?.replyTo?.[0]?.address).toBe(from)
        const mail = (await mailsToOwner(box)).at(-1)!
        expect(mail.subject).toBe('A message by “Observatory site, inline: Write to the hill”')
        expect(mail.text!.replaceAll('\r\n', '\n')).toContain(text)
      }
    })
  await withoutScripts.close()
})

test('a box says how many letters are left when few are; what is too long never gets there', async ({ box, page }) => {
  await page.goto(`${box.sites}/observatory/about`)
  const message = page.getByLabel('Your message')
  await message.click()
  const left = page.locator('.askbox-left')
  await expect(left).toHaveText('')
  await message.fill('x'.repeat(4_600))
  await expect(left).toHaveText('400 letters left')
  await message.fill(`${'line\n'.repeat(999)}12345`)
  await expect(left).toHaveText('0 letters left')
  // Its label is the question alone.
  await expect(message).toHaveAccessibleName('Your message')
  await page.getByLabel('Your email').fill('long@visitor.example')
  await page.getByRole('button', { name: 'Send it up the hill' }).click()
  await page.getByText('Your message is sent').waitFor()
})

test(
  'under the form: newest first, found, opened, answered by mail, let through, saved, erased; the Desk tells what is held',
  { tag: '@way' },
  async ({ paired: workshop, box }) => {
    await workshop.goto(box.workshop)
    await workshop.getByText('2 messages are held back: look whether somebody is among them.').waitFor()
    await workshop.getByRole('listitem').filter({ hasText: '2 messages are held back' }).getByRole('link').click()
    await workshop.getByRole('heading', { name: /Messages of/ }).waitFor()
    await expect(workshop.getByRole('tab', { name: 'Held back (2)' })).toHaveAttribute('aria-selected', 'true')
    const rows = workshop.locator('.el-collapse-item__header')
    await rows.filter({ hasText: 'offers@page-one.example' }).click()
    await workshop.getByText('The same text came before, more than twice in a week.').waitFor()
    await workshop.getByRole('button', { name: 'Let it through' }).click()
    await workshop.getByRole('tab', { name: 'Held back (1)' }).waitFor()
    await expect
      .poll(async () => (await mailsToOwner(box)).at(-1)?.replyTo?.[0]?.address)
      .toBe('offers@page-one.example')

    await workshop.getByRole('tab', { name: 'Arrived (6)' }).click()
    await expect(rows.first()).toContainText('priya.okafor@post.example')
    expect(await violationsOn(workshop)).toEqual([])
    await workshop.getByRole('searchbox', { name: 'Find by words or address' }).fill('lens attic')
    await expect(rows).toHaveCount(1)
    await rows.first().click()
    await workshop.getByText('It is heavy, and the cat likes it.').waitFor()
    const answer = await workshop.getByRole('link', { name: 'Answer by mail' }).getAttribute('href')
    const link = new URL(answer!)
    expect([link.protocol, link.pathname]).toEqual(['mailto:', 'elspeth.rowe@letters.example'])
    expect(link.searchParams.get('subject')).toBe('Re: A lens in our attic')
    expect(link.searchParams.get('body')).toContain('> Does it belong to you?')
    const [file] = await Promise.all([
      workshop.waitForEvent('download'),
      workshop.getByRole('button', { name: 'Save as a table' }).click(),
    ])
    const saved = readFileSync(await file.path(), 'utf8')
    expect(saved.trim().split('\r\n').length).toBe(2)
    expect(saved).toContain('elspeth.rowe@letters.example,A lens in our attic,"We found a lens')

    await workshop.getByRole('button', { name: labels.erase, exact: true }).click()
    await workshop.getByRole('button', { name: 'Erase this message' }).click()
    await workshop.getByText('None has these words in it.').waitFor()
    await expect(workshop.getByRole('tab', { name: 'Arrived (5)' })).toBeVisible()
    // Neither here nor there is anything of it left.
    expect(JSON.stringify(await entriesAfter<Entry>(box, 0))).not.toContain('in our attic')
    const here = await workshop.evaluate(async () => {
      const open = indexedDB.open('ask-box')
      await new Promise((resolve) => (open.onsuccess = resolve))
      const all = (table: string) =>
        new Promise<unknown>((resolve) => {
          const asked = open.result.transaction(table).objectStore(table).getAll()
          asked.onsuccess = () => resolve(asked.result)
        })
      return JSON.stringify([await all('journal'), await all('messages')])
    })
    expect(here).toContain('says good night to Saturn')
    expect(here).not.toContain('in our attic')
  },
)

test('erasing a person takes their messages along, those too that they wrote without joining', async ({
  paired: workshop,
  box,
  page,
}) => {
  for (const ticks of [true, false]) {
    await page.goto(`${box.sites}/observatory/about`)
    const text = `A question about the ${ticks ? 'first' : 'second'} thing that nobody else would ever ask.`
    await write(page, { from: 'gone@visitor.example', text, ticks })
    await page.getByText(ticks ? 'arrived too' : 'is sent').waitFor()
  }
  await workshop.goto(`${box.workshop}/forms/${FORM}/messages`)
  const theirs = workshop.locator('.el-collapse-item__header').filter({ hasText: 'gone@visitor.example' })
  await expect(theirs).toHaveCount(2)
  const arrival = (await entriesAfter<Entry>(box, 0)).findLast((entry) => entry.kind === 'arrival')!
  await go(workshop, `/lists/${arrival.list}/people/${arrival.member}`)
  await workshop.getByRole('button', { name: /Erase/ }).click()
  await workshop.getByLabel('It cannot be undone, and I want it.').check()
  await workshop.getByRole('dialog').getByRole('button', { name: labels.erase, exact: true }).click()
  await workshop.getByText('found nowhere').waitFor()
  expect(JSON.stringify(await entriesAfter<Entry>(box, 0))).not.toContain('nobody else would ever ask')
  await workshop.getByRole('button', { name: labels.close, exact: true }).click()
  await go(workshop, `/forms/${FORM}/messages`)
  await workshop.getByText('priya.okafor@post.example').waitFor()
  await expect(theirs).toHaveCount(0)
})

test('a message comes into a form by one press, with its box and its address; what is wrong is said before publishing', async ({
  workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/clearskyform`)
  await workshop.getByRole('tab', { name: 'Fields' }).click()
  await expect(workshop.getByRole('button', { name: 'Subject of the message' })).toHaveCount(0)
  await workshop.getByRole('button', { name: 'Message to you' }).click()
  const form = workshop.frameLocator('iframe[title*="review"], iframe').first()
  await form.getByText('Also send me your letter. I can leave at any time.').waitFor()
  await expect(workshop.getByLabel('They go to')).toHaveValue('ilka@cloudberryhill.example')
  await workshop.getByRole('button', { name: 'Subject of the message' }).click()
  await expect(workshop.getByRole('button', { name: 'Message to you', exact: true })).toHaveCount(0)
  await workshop.getByLabel('They go to').fill('nobody')
  await workshop.getByText('This is no email address.').waitFor()
  await workshop.getByRole('tab', { name: /Checkup/ }).click()
  await workshop.getByText('Messages go to “nobody”, which is no email address.').waitFor()
  await workshop.getByRole('tab', { name: 'Fields' }).click()
  await workshop.getByRole('button', { name: 'Stop asking Your message' }).click()
  await expect(workshop.getByLabel('They go to')).toHaveCount(0)
  await expect(form.getByText('Also send me your letter')).toHaveCount(0)
  await workshop.getByRole('button', { name: labels.undo, exact: true }).click()
  await expect(workshop.getByLabel('They go to')).toHaveValue('nobody')
})

test.describe('rehearsed', () => {
  test.describe.configure({ timeout: 600_000 })
  test('both ways are proven: with the tick on the list, without it on none, and each in the owner’s inbox', async ({
    workshop,
    box,
  }) => {
    const before = await newest(box)
    await workshop.goto(`${box.workshop}/forms/${FORM}/spot`)
    await workshop.getByRole('button', { name: labels.rehearse, exact: true }).first().click()
    let proof: Proof | undefined
    await expect
      .poll(
        async () => {
          proof = (await objectsOf(box, 'proof')).map(({ body }) => body!).find(({ spot }) => spot === SPOT)
          return proof?.verdict
        },
        { timeout: 400_000 },
      )
      .toBe('passed')
    const said = proof!.steps.map(({ case: one, what, verdict }) => `${one}: ${what}: ${verdict}`)
    for (const step of [
      'first: The message, in the owner’s inbox: passed',
      'message: A message, the box left alone: passed',
      'message: They are on no list: passed',
      'message: The message, in the owner’s inbox: passed',
    ])
      expect(said).toContain(step)
    // Nothing of the made-up people stays, and their messages went to nobody real.
    expect(await happened(box, before)).toEqual([])
    expect(await mailsToOwner(box)).toEqual([])
  })
})

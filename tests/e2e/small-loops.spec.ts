import type { Page } from '@playwright/test'
import { placePart, sharedLine } from '#core/embed'
import type { Mail } from '#core/mail'
import type { Entry } from '#core/journal'
import type { Version } from '#core/form'
import type { SpotId } from '#core/ids'
import { changeDraft, changeObject, changeSpot, entriesAfter, objectsOf } from '../api'
import type { RunningBox } from '../programs'
import { expect, test } from './box'
import { clearCache, saveInEditor } from './stand-ins'
import { labels } from './hands'

test.use({ withMailbox: true })

const head = (workshop: Page) => workshop.locator('.page-head')
const mailOf = async (box: RunningBox, list: string) =>
  (await objectsOf(box, 'mail')).find(({ key }) => key === list)!.body!

test(
  'publishing says what stands against it, with the mend, and forbids nothing',
  { tag: '@way' },
  async ({ paired: workshop, box }) => {
    const unreadable = () =>
      changeDraft(box, 'starchartform', (content) => ({
        ...content,
        look: { ...content.look, colours: { ...content.look.colours, buttonText: content.look.colours.button } },
      }))
    await unreadable()
    await workshop.goto(`${box.workshop}/forms/starchartform/answer`)
    const against = workshop.getByRole('region', { name: 'Against publishing' })
    await expect(against.getByText(/The button’s words: too like what is behind/)).toBeVisible()
    const publish = workshop.getByRole('button', { name: 'Publish with 1 fault' })
    await expect(publish).toBeEnabled()
    await against.getByRole('button').first().click()
    await expect(against).toHaveCount(0)
    await expect(publish).toHaveCount(0)
    await workshop.getByRole('button', { name: labels.undo, exact: true }).first().click()
    await publish.click()
    await expect(workshop.getByText(/is published\./).first()).toBeVisible()
  },
)

test('regions decide on every page of ours: by the browser’s zone, on a landing page as in a frame', async ({
  browser,
  box,
}) => {
  const list = 'clearskyalerts'
  const mail = await mailOf(box, list)
  const settings: Mail['draft'] = { ...mail.published!, confirm: 'regions', regions: ['DE'] }
  await changeObject(box, 'mail', list, { draft: settings, published: settings })
  for (const [zone, heading] of [
    ['America/New_York', 'You are on the list'],
    ['Europe/Berlin', 'Look in your inbox'],
  ] as const)
    for (const path of ['/page/starchart', '/frame/opennights']) {
      const context = await browser.newContext({ timezoneId: zone })
      const page = await context.newPage()
      await page.goto(box.workshop + path)
      await page.getByLabel('Email').fill(`${zone.slice(0, 3)}${path.length}@visitor.example`)
      for (const box of await page.getByRole('checkbox').all()) await box.check()
      await page.locator('.askbox-button').last().click()
      const answer = page.getByText(heading)
      await expect(answer.first(), `${zone} ${path}`).toBeVisible()
      await context.close()
    }
})

test('a person corrected by themselves is one, and the newest sign-ups say where they are now', async ({
  paired: workshop,
  box,
  page,
}) => {
  let letThrough = () => {}
  const held = new Promise<void>((resolve) => (letThrough = resolve))
  await page.route('**/join/*', (route) => held.then(() => route.continue()))
  await page.goto(`${box.workshop}/page/partysidebar`)
  await page.getByLabel('Email').fill('wren.winter@gmial.com')
  await page.getByLabel('Email').press('Enter')
  // The form asks too while it is sent; what was sent by then is asked about below the answer.
  const question = page.getByRole('button', { name: 'Did you mean wren.winter@gmail.com?' })
  await question.click()
  await expect(page.getByLabel('Email')).toHaveValue('wren.winter@gmail.com')
  letThrough()
  await expect(page.getByRole('heading', { name: 'Look in your inbox' })).toBeVisible()
  await question.click()
  await expect(page.getByRole('button', { name: /^Did you mean/ })).toHaveCount(0)
  const entries = (await entriesAfter<Entry>(box, 0)).slice(-2)
  expect(entries.map(({ kind }) => kind)).toEqual(['arrival', 'member-corrected'])
  await workshop.goto(box.workshop)
  const newest = workshop.getByRole('listitem').filter({ hasText: 'wren.winter@gmail.com' })
  await expect(newest).toContainText('asked to confirm')
  await workshop.goto(`${box.workshop}/lists/${entries[0]!.list}/people/${entries[0]!.member}`)
  await expect(workshop.getByText('Put their address right')).toBeVisible()
  await expect(workshop.getByText('Taken off the list')).toHaveCount(0)
})

test('code that names a spot that does not exist is said to, by the check and by the rehearsal', async ({
  paired: workshop,
  box,
}) => {
  const version = (await objectsOf(box, 'version'))
    .map(({ body }) => body as Version)
    .findLast(({ form }) => form === 'blogletterform')!
  await changeSpot(box, 'firstfrost', { code: 'script' })
  const lost = placePart(version.content, box.workshop, 'firstfros' as SpotId, null)
  await saveInEditor(box, 'volunteers', 'body:/posts/first-frost', { words: '', code: lost })
  await saveInEditor(box, 'volunteers', 'site-head', { code: sharedLine(box.workshop) })
  await clearCache(box, 'volunteers')
  await workshop.goto(`${box.workshop}/forms/blogletterform/spot`)
  const check = workshop.getByRole('region', { name: 'On the page' })
  await check.getByRole('button', { name: labels.checkThePage }).click()
  await expect(check.getByText(/names a spot that does not exist/)).toBeVisible({ timeout: 60_000 })
  await expect(check.getByRole('link', { name: /^The code of/ })).toBeVisible()
  await head(workshop).getByRole('button', { name: labels.rehearse, exact: true }).click()
  const failure = workshop.getByRole('region', { name: 'Failed at Spot' })
  await expect(failure.getByText(/names a spot that does not exist/)).toBeVisible({ timeout: 120_000 })
  await expect(failure.getByText(/taken away by a script/)).toHaveCount(0)
})

test('whom a letter is to is chosen first, can be taken off again, and stands on the press that sends it', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/write`)
  await workshop.getByRole('button', { name: 'Write a letter' }).click()
  await workshop.getByRole('menuitem', { name: /^News/ }).click()
  await workshop.getByRole('button', { name: 'Send …' }).click()
  await expect(workshop.getByText(/Choose whose people get it/).first()).toBeVisible()
  await workshop.getByRole('tab', { name: 'The letter' }).click()
  const menu = workshop.getByLabel('To the people of').first()
  for (const name of ['Clear-sky alerts', 'School visits']) {
    await menu.click()
    await workshop.getByRole('option', { name }).click()
    await workshop.keyboard.press('Escape')
  }
  const chosen = workshop.locator('.el-select .el-tag')
  await expect(chosen).toHaveCount(2)
  await chosen.last().locator('.el-tag__close').click()
  await expect(chosen).toHaveText(['Clear-sky alerts'])
  await chosen.locator('.el-tag__close').click()
  await expect(chosen).toHaveCount(0)
})

test('an archived form says that its spots still take sign-ups, and closes them by one press', async ({
  paired: workshop,
  box,
  page,
}) => {
  await workshop.goto(`${box.workshop}/forms/starchartform/form`)
  await workshop.getByRole('button', { name: 'More for this form' }).click()
  await workshop.getByRole('menuitem', { name: 'Archive' }).click()
  const notice = workshop.getByRole('alert')
  await expect(notice.getByText(/off the Desk.*still take/)).toBeVisible()
  await notice.getByRole('button', { name: /^Close (it|them)$/ }).click()
  await expect(notice.getByText(/closed: (its|their) code tells visitors so/)).toBeVisible()
  await expect(async () => {
    await page.goto(`${box.workshop}/page/starchart`)
    await expect(page.locator('.askbox-button')).toHaveCount(0, { timeout: 2_000 })
  }).toPass()
})

test('a trial begins with its defaults, and the form’s head names what visitors get', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/new`)
  await workshop.getByRole('radio', { name: 'Members’ letter' }).check()
  await workshop.getByRole('radio', { name: 'Observatory site' }).check()
  await workshop.getByRole('radio', { name: /Landing page/ }).check()
  await workshop.getByRole('button', { name: labels.makeTheForm }).click()
  // Sentences of the sample stand there still: it is said, and not forbidden.
  await workshop.getByRole('button', { name: 'Publish with 1 fault' }).click()
  await expect(workshop.getByText(/^Version 1, published/)).toBeVisible()
  const form = new URL(workshop.url()).pathname.split('/')[2]!
  await changeDraft(box, form, (content) => ({ ...content, words: { ...content.words, button: 'Write to me' } }))
  await workshop.goto(`${box.workshop}/results/wordings/${form}`)
  await expect(workshop.getByLabel('Sign-ups in 100 views, as you guess it')).toHaveValue('5')
  await workshop.getByLabel('Name of these words').fill('Plainer')
  await workshop.getByRole('button', { name: 'Begin the trial' }).click()
  await expect(workshop.getByText(/The trial has begun/)).toBeVisible()
  await workshop.goto(`${box.workshop}/forms/${form}/form`)
  await workshop.getByRole('button', { name: /^Publish/ }).click()
  await expect(workshop.getByText(/in its trial, visitors get versions \d and \d/)).toBeVisible()
})

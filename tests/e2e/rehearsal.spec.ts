import { placePart, plainCode, popUpPart, sharedLine } from '#core/embed'
import type { Version } from '#core/form'
import type { SiteId, SpotId } from '#core/ids'
import type { Proof } from '#core/proof'
import { startPopUp } from '#core/spot'
import type { Page, Route } from '@playwright/test'
import { changeObject, changeSpot, entriesAfter, objectsOf } from '../api'
import type { RunningBox } from '../programs'
import { expect, test } from './box'
import { keyboardHands, labels } from './hands'
import { clearCache, openSpot, saveInEditor } from './stand-ins'
import { isOfThisRun, isWholeRun, seed } from '../seed'

// Each of them waits for whole rehearsals, which take half a minute at rest.
test.describe.configure({ timeout: 600_000 })

/** Once the receiver has it, newest last; those that the demo comes with are left out. */
async function proofsAt(box: RunningBox, spot: string, count: number): Promise<Proof[]> {
  let found: Proof[] = []
  await expect
    .poll(
      async () => {
        found = (await objectsOf(box, 'proof'))
          .map(({ body }) => body!)
          .filter((proof) => proof.spot === spot && proof.id !== `proof${spot}`)
        return found.length
      },
      { timeout: 400_000 },
    )
    .toBe(count)
  return found
}
const troubleIn = ({ steps }: Proof) =>
  steps.filter(({ verdict }) => verdict !== 'passed').map(({ case: one, what, seen }) => `${one}: ${what}: ${seen}`)

/** As with a receiver beside which no browser is installed. */
const withoutBrowser = (workshop: Page) =>
  workshop.context().route('**/api/rehearsals', async (route) => {
    const response = await route.fetch()
    await route.fulfill({ response, json: { ...(await response.json()), hasBrowser: false } })
  })

for (const place of ['by the receiver’s browser', 'in a frame of this browser'])
  test(`script code and a pop-up go through the visitors’ script, ${place}`, ({ workshop, box }) =>
    throughTheScript(workshop, box, place.includes('frame')).finally(() =>
      workshop.context().unrouteAll({ behavior: 'ignoreErrors' }),
    ))

async function throughTheScript(workshop: Page, box: RunningBox, isInFrame: boolean): Promise<void> {
  if (isInFrame) await withoutBrowser(workshop)
  const version = (await objectsOf(box, 'version'))
    .map(({ body }) => body as Version)
    .findLast((one) => one.form === 'clearskyform')!
  const made = {
    form: version.form,
    site: 'starparty' as SiteId,
    state: 'live' as const,
    createdAt: '2026-01-01T00:00:00.000Z',
  }
  await changeSpot(box, 'scriptspot', {
    ...made,
    id: 'scriptspot' as SpotId,
    kind: 'inline',
    code: 'script',
    page: `${box.sites}/star-party/tickets`,
  })
  await changeSpot(box, 'popupspot', {
    ...made,
    id: 'popupspot' as SpotId,
    kind: 'pop-up',
    code: 'script',
    page: `${box.sites}/star-party/tickets`,
    popUp: { ...startPopUp, pages: { which: 'but', patterns: ['/star-party/about'] } },
  })
  await saveInEditor(box, 'star-party', 'body:/tickets', {
    words: 'Words',
    code: placePart(version.content, box.workshop, 'scriptspot' as SpotId, null),
  })
  await saveInEditor(box, 'star-party', 'site-head', {
    code: sharedLine(box.workshop) + popUpPart(box.workshop, 'popupspot' as SpotId),
  })
  await clearCache(box, 'star-party')
  await openSpot(workshop, box, 'clearskyform')
  await withFewerCases(workshop)
  const before = (await entriesAfter(box, 0)).length
  for (const [spot, name] of [
    ['scriptspot', 'inline · live'],
    ['popupspot', 'pop-up · live'],
  ] as const) {
    const card = workshop.locator('.spot').filter({ hasText: 'Star party' }).filter({ hasText: name })
    await card.getByRole('button', { name: labels.rehearse, exact: true }).click()
    const [proof] = await proofsAt(box, spot, 1)
    // Bots read markup, in which there is no form; without scripts a pop-up is nothing at all.
    expect(troubleIn(proof!)).toEqual(expect.arrayContaining([expect.stringMatching(/^bot: .* no form in it to fill/)]))
    expect(proof!.steps.filter(({ verdict }) => verdict === 'failed')).toEqual([])
    expect(
      proof!.steps.filter(({ case: one, verdict }) => one === 'phone' && verdict === 'passed').length,
    ).toBeGreaterThan(1)
  }
  expect((await entriesAfter(box, 0)).length).toBe(before)
}

/**
 * Leaves out what many people are tried for, each in a browser: it is tried elsewhere.
 *
 * @param parts of the other cases, one in so many stays, by the seed; the first visit always does
 */
async function withFewerCases(workshop: Page, more: readonly string[] = [], parts = 1): Promise<void> {
  await workshop.getByRole('button', { name: labels.whatIsTried }).first().click()
  const cases = workshop.getByRole('dialog').getByRole('checkbox')
  for (const name of ['Unusual names', 'Wrong addresses', ...more])
    await workshop.getByRole('checkbox', { name }).uncheck()
  for (const [at, one] of (await cases.all()).entries())
    if (at > 0 && !isOfThisRun(at, parts) && (await one.isChecked())) await one.uncheck()
  await workshop.getByRole('dialog').getByRole('button', { name: labels.keep }).click()
}

/** Presses "Rehearse" at the head of a form's page and waits for the outcome. */
async function rehearse(workshop: Page): Promise<void> {
  await workshop.locator('.page-head').getByRole('button', { name: labels.rehearse, exact: true }).click()
  await ended(workshop)
}
async function ended(workshop: Page): Promise<void> {
  const dock = workshop.getByRole('complementary', { name: 'Rehearsal' })
  await dock.getByText(/^\d+ (passed|failed|stopped)$/).waitFor({ timeout: 500_000 })
  await dock.getByRole('button', { name: labels.close, exact: true }).click()
}
const signals = (workshop: Page) => workshop.getByLabel('The line: stations of this form').getByRole('link')

test(
  'every sound demo form passes, and nothing is left of the people who tried it',
  { tag: '@way' },
  async ({ workshop, box }) => {
    const before = await entriesAfter(box, 0)
    // Who takes her time waits twenty seconds at each of eight spots: she is tried on pages of her own (visits.test.ts).
    await workshop.goto(`${box.workshop}/forms/blogletterform/spot`)
    // Other screens are the longest case of all: tried at all of them in every other whole run, by its seed.
    await withFewerCases(
      workshop,
      ['Slowly, and back again', ...(isWholeRun && seed % 2 === 0 ? [] : ['Other screens and settings'])],
      6,
    )
    await workshop.goto(box.workshop)
    await workshop.getByRole('button', { name: labels.rehearseEverything }).click()
    await ended(workshop)
    for (const spot of ['opennights', 'firstfrost', 'schoolvisit', 'starchart', 'partysidebar']) {
      const [proof] = await proofsAt(box, spot, 1)
      // No pretend list service runs here, and elsewhere nobody is sent before its owner said so.
      const trouble = troubleIn(proof!).filter((one) => !one.includes('rehearsals may send nobody there'))
      expect([spot, trouble]).toEqual([spot, []])
    }
    // That site is made up, and stands nowhere: the one form that cannot be sound.
    const [links] = await proofsAt(box, 'linkspage', 1)
    expect(links!.steps.at(-1)).toMatchObject({ station: 'spot', failure: { code: 'site-down' } })
    const needs = workshop.getByRole('region', { name: 'Needs a hand today' }).getByRole('listitem')
    await expect(needs.first()).toContainText('failed its rehearsal')
    expect(await entriesAfter(box, 0)).toEqual(before)
  },
)

test('code that the site’s editor damaged: the line stops at Spot; mended and passed by keyboard alone', async ({
  workshop,
  box,
}) => {
  const version = (await objectsOf(box, 'version'))
    .map(({ body }) => body as Version)
    .findLast((one) => one.form === 'blogletterform')!
  const spot = (await objectsOf(box, 'spot')).map(({ body }) => body!).find((one) => one.form === 'blogletterform')!
  await saveInEditor(box, 'volunteers', 'body:/posts/first-frost', {
    words: plainCode({
      content: version.content,
      form: version.form,
      version: 1,
      spot: spot.id,
      receiver: box.workshop,
    }),
    code: '',
  })
  await workshop.goto(`${box.workshop}/forms/blogletterform`)
  await signals(workshop).first().waitFor()
  const hands = keyboardHands(workshop)
  const go = async (words: string) => {
    await workshop.keyboard.press('Control+k')
    const line = workshop.getByLabel('Where to go, or what to do')
    await expect(line).toBeFocused()
    await workshop.keyboard.type(words)
    await workshop.getByRole('option').first().waitFor()
    await workshop.keyboard.press('Enter')
    await expect(line).toBeHidden()
  }
  const close = async () => {
    const dock = workshop.getByRole('complementary', { name: 'Rehearsal' })
    await dock.getByText(/^\d+ (passed|failed|stopped)$/).waitFor({ timeout: 180_000 })
    await hands.press(dock.getByRole('button', { name: labels.close, exact: true }))
  }
  await go('Rehearse Volunteers')
  await close()
  const failure = workshop.getByRole('region', { name: 'Failed at Spot' })
  await expect(failure).toContainText('The code stands there as text')
  await expect(signals(workshop).first()).toContainText('needs work')
  await hands.press(failure.getByRole('link', { name: 'To the spot and its code' }))
  await hands.press(workshop.getByRole('button', { name: labels.pasteForMe }).first())
  await expect(workshop.getByText(/^Pasted:/)).toBeVisible()
  await go('Rehearse Volunteers')
  await close()
  await expect(failure).toBeHidden()
  await expect(signals(workshop).first()).toContainText('proven')
})

test('an after-page that is not there, then a column that was taken away: each found, mended by its way, and passed', async ({
  paired: workshop,
  box,
}) => {
  await openSpot(workshop, box, 'starchartform')
  await withFewerCases(workshop, ['Phone size', 'Scripts off'])
  await workshop.goto(`${box.workshop}/forms/starchartform/answer`)
  await workshop.getByRole('radio', { name: 'A page of your own' }).click()
  await workshop.getByLabel('Address of the page').fill(`${box.sites}/observatory/thanks`)
  // The demo comes with a rehearsal of it.
  await expect(signals(workshop).nth(2)).toContainText('changed since proof')
  await workshop.getByRole('button', { name: /^Publish (version 2|with)/ }).click()
  await workshop.getByText('Version 2 is published').first().waitFor()
  await rehearse(workshop)
  const failure = workshop.getByRole('region', { name: /^Failed at/ })
  await expect(failure).toHaveAccessibleName('Failed at Answer')
  await expect(failure).toContainText('It answers 404: there is no such page.')
  await failure.getByRole('link', { name: 'To the answers' }).click()
  await workshop.getByLabel('Address of the page').fill(`${box.sites}/observatory/about`)
  await expect(signals(workshop).nth(2)).toContainText('changed since proof')
  await workshop.getByRole('button', { name: /^Publish (version 3|with)/ }).click()
  await workshop.getByText('Version 3 is published').first().waitFor()
  await rehearse(workshop)
  await expect(failure).toBeHidden()

  const list = (await objectsOf(box, 'list')).find(({ key }) => key === 'clearskyalerts')!.body!
  await changeObject(box, 'list', list.id, { columns: list.columns.filter(({ key }) => key !== 'first-name') })
  await expect(signals(workshop).last()).toContainText('needs work')
  await rehearse(workshop)
  await expect(failure).toHaveAccessibleName('Failed at List')
  await expect(failure).toContainText('There is no column “first-name”.')
  await failure.getByRole('link', { name: 'To the form' }).click()
  await workshop.getByRole('tab', { name: 'Fields' }).click()
  await workshop
    .getByRole('button', { name: /First name/ })
    .first()
    .click()
  await workshop.getByRole('button', { name: 'Make one' }).click()
  await workshop.getByRole('button', { name: 'Make it' }).click()
  await rehearse(workshop)
  await expect(failure).toBeHidden()
  await expect(signals(workshop).last()).toContainText('proven')
})

/** Here: no pop-up, no mail, no trial, no messages, and no Firefox that has to stand there. */
const nothingToTry = new Set(['elsewhere', 'mail', 'message', 'wordings', 'firefox'])

test('it can be stopped, and keeps what was seen until then; what is not chosen is not tried', async ({
  paired: workshop,
  box,
}) => {
  await openSpot(workshop, box, 'schoolsform')
  await withFewerCases(workshop, ['Phone size', 'Scripts off'])
  await workshop.locator('.page-head').getByRole('button', { name: labels.rehearse, exact: true }).click()
  await workshop.getByRole('complementary', { name: 'Rehearsal' }).getByRole('button', { name: 'Stop' }).click()
  await ended(workshop)
  await workshop.locator('.page-head').getByRole('button', { name: labels.rehearse, exact: true }).click()
  await ended(workshop)
  const [stopped, whole] = await proofsAt(box, 'schoolvisit', 2)
  expect(stopped!.verdict).toBe('stopped')
  expect(stopped!.steps.length).toBeLessThan(whole!.steps.length)
  expect(whole!.cases).not.toContain('phone')
  expect(new Set(whole!.steps.map((step) => step.case).filter((one) => !nothingToTry.has(one)))).toEqual(
    new Set(['page', ...whole!.cases.filter((one) => !nothingToTry.has(one))]),
  )
})

test('a frame whose page never comes, and one whose form cannot be sent: not tried, and Stop ends what hangs', async ({
  workshop,
  box,
}) => {
  await withoutBrowser(workshop)
  let act: (route: Route) => Promise<void> = (route) =>
    // As a theme would, whose script makes another button of it.
    route.fulfill({
      contentType: 'text/html',
      body: `<form action="${box.workshop}/join/schoolvisit"><input name="email"><button type="button" formaction="${box.workshop}/join/schoolvisit">Go</button></form>`,
    })
  await workshop.context().route(/\/rehearsal\/\w+\/page/, (route) => act(route))
  await openSpot(workshop, box, 'schoolsform')
  await workshop.locator('.page-head').getByRole('button', { name: labels.rehearse, exact: true }).click()
  await ended(workshop)
  const [first] = await proofsAt(box, 'schoolvisit', 1)
  expect(first!.steps.find((step) => step.case === 'scripts-off')?.verdict).toBe('not-tried')

  act = () => new Promise(() => {})
  await workshop.locator('.page-head').getByRole('button', { name: labels.rehearse, exact: true }).click()
  const dock = workshop.getByRole('complementary', { name: 'Rehearsal' })
  await dock
    .getByText('With scripts off')
    .or(dock.getByText(/Scripts off:|While retired/i))
    .first()
    .waitFor({ timeout: 180_000 })
  await dock.getByRole('button', { name: 'Stop' }).click()
  await dock.getByRole('button', { name: labels.close, exact: true }).waitFor({ timeout: 30_000 })
  // The page is the next test's as well.
  await workshop.context().unrouteAll({ behavior: 'ignoreErrors' })
})

test('by hand: the real page, an address that marks the test, and the line that lights up', async ({
  paired: workshop,
  box,
  page,
}) => {
  await openSpot(workshop, box, 'blogletterform')
  await workshop.getByRole('button', { name: labels.byHand }).click()
  const address = workshop.getByLabel('Address to sign up with')
  await expect(address).toHaveValue(/^byhand-\w+@rehearsal\.example$/)
  await page.goto((await workshop.getByRole('link', { name: 'Open the page' }).first().getAttribute('href'))!)
  await page.locator('form.askbox [name=email]').fill(await address.inputValue())
  await page.locator('form.askbox .askbox-button').click()
  await expect(page.getByRole('heading', { name: 'You are on the list' })).toBeVisible()
  await expect(workshop.getByText(/It arrived, and joined the list/)).toBeVisible()
  const marked = await address.inputValue()
  await workshop.getByRole('button', { name: labels.byHand }).click()
  await expect(address).toBeHidden()
  // Its code has ended: the same address is nobody's any more.
  await expect
    .poll(async () =>
      (await page.request.post(`${box.workshop}/join/firstfrost`, { form: { email: marked } })).status(),
    )
    .not.toBe(200)
})

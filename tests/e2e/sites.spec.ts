import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Locator } from '@playwright/test'
import { codeAdvice, linkCode, pageAddress, placePart, plainCode } from '#core/embed'
import type { Version } from '#core/form'
import type { SiteId, SpotId } from '#core/ids'
import type { Arrival } from '#core/journal'
import type { Site } from '#core/site'
import { changeSpot, entriesAfter, objectsOf } from '../api'
import { violationsOn } from './axe'
import { expect, test } from './box'
import { choose, labels } from './hands'
import { clearCache, openSpot, saveInEditor } from './stand-ins'

/** A check of a page has a browser look as well, at two sizes, and patient where the machine is busy. */
const LOOKED_MS = 200_000
test.describe.configure({ timeout: 600_000 })

/** The demo's sites by their stand-ins, and pages of each that no form stands on. */
const standIns: Record<string, { site: string; pages: [string, string, string, string, string] }> = {
  volunteers: {
    site: 'volunteersblog',
    pages: ['/posts/new-mirror', '/posts/counting-meteors', '/cake-sale', '/about', ''],
  },
  observatory: {
    site: 'observatorysite',
    pages: ['/posts/open-nights', '/posts/school-visits', '/friends', '/about', ''],
  },
  'star-party': { site: 'starparty', pages: ['/posts/field-opens', '/posts/what-to-bring', '/tickets', '/about', ''] },
  'quarry-cafe': { site: 'quarrycafe', pages: ['/posts/winter-hours', '/posts/new-oven', '/hampers', '/about', ''] },
  'field-guide': { site: 'fieldguide', pages: ['/posts/november', '/posts/october', '/book', '/about', ''] },
}

/** Answers all that has to be answered, and sends. */
async function signUp(form: Locator, email: string): Promise<void> {
  await form.locator('[name=email]').fill(email)
  for (const control of await form.locator('[required]:visible').all()) {
    const [kind, type] = await control.evaluate((node) => [node.localName, node.getAttribute('type')])
    if (type === 'checkbox' || type === 'radio') await control.check()
    else if (kind === 'select') await control.selectOption({ index: 1 })
    else if (type !== 'email') await control.fill('Wren')
  }
  await form.locator('.askbox-button').last().click()
}

for (const [key, { site: id, pages }] of Object.entries(standIns)) {
  test(`every demo form, put on “${key}” by its own editor with the code that works best there, signs up`, async ({
    page,
    box,
  }) => {
    const site = (await objectsOf(box, 'site')).find((one) => one.key === id)!.body as Site
    // A page for each; further forms of the demo are of the same makes.
    const forms = (await objectsOf(box, 'form')).map(({ body }) => body!).slice(0, pages.length)
    const versions = (await objectsOf(box, 'version')).map(({ body }) => body as Version)
    for (const [at, form] of forms.entries()) {
      const path = pages[at]!
      const address = `${site.address.replace(/\/$/, '')}${path}`
      const version = versions
        .filter((one) => one.form === form.id && !one.isTried)
        .sort((one, other) => one.number - other.number)
        .at(-1)!
      const spot = `${key.replace('-', '')}${at}` as SpotId
      const { kind: code } = codeAdvice({ kind: 'inline' }, site).works[0]
      await changeSpot(box, spot, {
        id: spot,
        form: form.id,
        site: id as SiteId,
        kind: 'inline',
        code,
        page: address,
        state: 'live',
        createdAt: '2026-01-01T00:00:00.000Z',
      })
      const { content } = version
      const html = {
        script: () => placePart(content, box.workshop, spot, null),
        plain: () => plainCode({ content, form: form.id, version: version.number, spot, receiver: box.workshop }),
        link: () => linkCode(content, pageAddress(box.workshop, spot), { shownAs: 'words', opens: 'here' }),
      }[code as 'script' | 'plain' | 'link']()
      if (code === 'script')
        await saveInEditor(box, key, 'site-head', { code: `<script async src="${box.workshop}/askbox.js"></script>` })
      await saveInEditor(box, key, `body:${path}`, { words: 'Some words of the page.', code: html })
      await clearCache(box, key)

      await page.goto(address)
      if (code === 'link') await page.locator(`a[href="${pageAddress(box.workshop, spot)}"]`).click()
      const email = `${spot}@post.example`
      await signUp(page.locator('form.askbox'), email)
      const { joined } = content.answers
      if (joined.show === 'address') await expect(page).toHaveURL(joined.address)
      else await expect(page.getByRole('heading', { name: joined.heading })).toBeVisible()
      const arrival = (await entriesAfter<Arrival>(box, 0)).at(-1)!
      expect(arrival).toMatchObject({
        verdict: 'joined',
        spot,
        personal: { email: { typed: email } },
        version: version.number,
      })
    }
  })
}

test('damage by the visual editor is found, and mended by pasting into the right place', async ({
  paired: workshop,
  box,
  page,
}) => {
  await openSpot(workshop, box, 'blogletterform')
  const code = async () => (await workshop.getByLabel('The code').textContent())!
  await expect(workshop.getByLabel('The code')).toContainText('/join/')
  await saveInEditor(box, 'volunteers', 'body:/posts/first-frost', { words: await code(), code: '' })
  await workshop.getByRole('button', { name: labels.checkThePage }).click()
  const report = workshop.locator('.report')
  await expect(report).toContainText('not as it should', { timeout: LOOKED_MS })
  for (const says of ['visitors read it', 'curly', 'paragraphs']) await expect(report).toContainText(says)
  await expect(report.getByLabel('Lines of the page').first()).toContainText('askbox')
  expect(await violationsOn(workshop, { within: '.check', also: ['best-practice'] })).toEqual([])

  await saveInEditor(box, 'volunteers', 'body:/posts/first-frost', { words: 'The dome slid open.' })
  await workshop.getByRole('button', { name: labels.pasteForMe }).click()
  await expect(workshop.getByText('Pasted: Cloudberry Hill volunteers, First frost')).toBeVisible()
  await workshop.getByRole('button', { name: labels.checkThePage }).click()
  await expect(report).toContainText('stands there, whole', { timeout: LOOKED_MS })
  await page.goto(`${box.sites}/posts/first-frost`)
  await signUp(page.locator('form.askbox'), 'mended@post.example')
  await expect(page.getByRole('heading', { name: 'You are on the list' })).toBeVisible()

  // Pasted source, and a file.
  const source = await (await fetch(`${box.sites}/posts/new-mirror`)).text()
  await workshop.getByRole('tab', { name: 'Pasted code' }).click()
  await workshop.getByLabel('The page’s source').fill(source)
  await workshop.getByRole('button', { name: 'Check it' }).click()
  await expect(report).toContainText('The code is not there.', { timeout: LOOKED_MS })
  await workshop.getByRole('tab', { name: 'A file' }).click()
  await workshop.locator('input[type=file]').setInputFiles({
    name: 'page.html',
    mimeType: 'text/html',
    buffer: Buffer.from(await (await fetch(`${box.sites}/posts/first-frost`)).text()),
  })
  await expect(report).toContainText('stands there, whole', { timeout: LOOKED_MS })
})

test('a sidebar form by script on the blog: words changed in the workshop are on the page after publishing', async ({
  paired: workshop,
  box,
  page,
}) => {
  await openSpot(workshop, box, 'blogletterform')
  await workshop.getByRole('button', { name: 'Another spot for this form' }).click()
  await choose(workshop.getByRole('combobox', { name: 'Another spot on' }), 'Volunteers’ blog')
  await choose(workshop.getByRole('combobox', { name: 'as', exact: true }), 'sidebar')
  await workshop.getByRole('button', { name: labels.addIt }).click()
  const card = workshop.locator('.spot').filter({ hasText: 'sidebar · live' })
  await expect(card.getByLabel('The code')).toContainText('#askbox')
  // The line that all scripts share stands there since the blog's first form, and is not asked for again.
  await expect(card.getByText('The shared line stands on the site already')).toBeVisible()
  await card.getByRole('button', { name: labels.pasteForMe }).click()
  await expect(workshop.getByText('Pasted: Cloudberry Hill volunteers, Side column')).toBeVisible()
  await card.getByRole('button', { name: labels.checkThePage }).click()
  await expect(card.locator('.report')).toContainText('stands there, whole', { timeout: LOOKED_MS })
  await page.goto(`${box.sites}/about`)
  await expect(page.locator('aside askbox-form form.askbox')).toBeVisible()
  await signUp(page.locator('aside form.askbox'), 'aside@post.example')
  await expect(page.locator('aside').getByRole('status')).toBeVisible()
  // The drawn page shows it in a side column, as wide as it is there.
  const drawn = card.frameLocator('.room iframe')
  await expect(drawn.locator('.side form.askbox')).toHaveCount(1)
  expect(await drawn.locator('.side').evaluate((side) => (side as HTMLElement).offsetWidth)).toBe(280)
})

test('a pop-up on one page of the builder with head code, and on no other; tried again by its owner', async ({
  paired: workshop,
  box,
  page,
}) => {
  await openSpot(workshop, box, 'clearskyform')
  await workshop.getByRole('button', { name: 'Another spot for this form' }).click()
  await choose(workshop.getByRole('combobox', { name: 'Another spot on' }), 'Star party')
  await choose(workshop.getByRole('combobox', { name: 'as', exact: true }), 'pop-up')
  await workshop.getByRole('button', { name: labels.addIt }).click()
  const card = workshop.locator('.spot').filter({ hasText: 'pop-up · live' })
  await card.getByLabel('Address of the page it sits on').fill(`${box.sites}/star-party/tickets`)
  await card.getByLabel('Address of the page it sits on').blur()
  await choose(card.getByRole('combobox', { name: 'When' }), 'At once')
  await choose(card.getByRole('combobox', { name: 'How often to one visitor' }), 'Once, ever')
  await card.getByRole('radio', { name: 'Only on these' }).click()
  await card.getByLabel('Paths, one a line').fill('tickets')
  await card.getByLabel('Paths, one a line').blur()
  await expect(card.getByText('It begins with a slash')).toBeVisible()
  await card.getByLabel('Paths, one a line').fill('/star-party/tickets')
  await card.getByLabel('Paths, one a line').blur()
  await card.getByLabel('Try a page').fill(`${box.sites}/star-party/about`)
  await expect(card.getByText('/star-party/about: it does not appear there')).toBeVisible()
  await card.getByLabel('Try a page').fill(`${box.sites}/star-party/tickets?from=mail`)
  await expect(card.getByText('/star-party/tickets: it appears there')).toBeVisible()
  await card.getByRole('button', { name: labels.pasteForMe }).click()
  await expect(workshop.getByText('Pasted: Cloudberry star party, Head of “Tickets”')).toBeVisible()
  await clearCache(box, 'star-party')
  await card.getByRole('button', { name: labels.checkThePage }).click()
  await expect(card.locator('.report')).toContainText('stands there, whole', { timeout: LOOKED_MS })

  const dialog = page.getByRole('dialog')
  await page.goto(`${box.sites}/star-party/about`)
  await page.waitForLoadState('networkidle')
  await expect(dialog).toHaveCount(0)
  await page.goto(`${box.sites}/star-party/tickets`)
  await expect(dialog).toBeVisible()
  await page.keyboard.press('Escape')
  await page.reload()
  await page.waitForLoadState('networkidle')
  await expect(dialog).toHaveCount(0)
  const again = await card.getByRole('link', { name: 'Show it to me again' }).getAttribute('href')
  await page.goto('about:blank')
  await page.goto(again!)
  await expect(dialog).toBeVisible()
  await signUp(dialog.locator('form'), 'popup@post.example')
  await expect(dialog.getByRole('status')).toBeVisible()
})

test(
  'a page of its own: a readable address, a QR code, and a file that works from a disk',
  { tag: '@way' },
  async ({ paired: workshop, box, page, browser }) => {
    await openSpot(workshop, box, 'starchartform')
    await workshop.getByLabel('Its address ends with').fill('Star Chart')
    await workshop.getByLabel('Its address ends with').blur()
    await expect(workshop.getByText('Small letters, digits and single hyphens')).toBeVisible()
    await workshop.getByLabel('Its address ends with').fill('star-chart')
    await workshop.getByLabel('Its address ends with').blur()
    const address = `${box.workshop}/page/star-chart`
    await expect(workshop.getByLabel('The address')).toHaveText(address)
    await expect(workshop.getByLabel(`QR code of ${address}`)).toBeVisible()
    await expect.poll(async () => (await fetch(address)).status).toBe(200)
    expect((await fetch(`${box.workshop}/page/starchart`)).status).toBe(200)
    await page.goto(`${address}?source=poster`)
    await expect(page.locator('link[rel=canonical]')).toHaveAttribute('href', address)
    await expect(page.getByRole('link', { name: 'Privacy', exact: true })).toHaveAttribute(
      'href',
      `${box.sites}/observatory/about`,
    )
    await signUp(page.locator('form.askbox'), 'poster@post.example')
    await expect(page.getByRole('status')).toBeVisible()
    expect((await entriesAfter<Arrival>(box, 0)).at(-1)).toMatchObject({ personal: { cameFrom: { source: 'poster' } } })

    const [download] = await Promise.all([
      workshop.waitForEvent('download'),
      workshop.getByRole('button', { name: 'HTML' }).click(),
    ])
    expect(download.suggestedFilename()).toBe('star-chart.html')
    const file = join(mkdtempSync(join(tmpdir(), 'ask-box-file-')), download.suggestedFilename())
    await download.saveAs(file)
    expect(readFileSync(file, 'utf8')).not.toMatch(/src="http|url\(http/)
    // A rehearsal tries what the receiver hands out, so it has to be the same.
    expect(await (await fetch(`${box.workshop}/file/star-chart`)).text()).toBe(readFileSync(file, 'utf8'))
    const context = await browser.newContext()
    const opened = await context.newPage()
    await opened.goto(`file://${file}`)
    await signUp(opened.locator('form.askbox'), 'disk@post.example')
    await expect(opened.getByRole('heading', { name: 'You are on the list' })).toBeVisible()
    await context.close()
  },
)

test('the Sites view shows what stands where, and hands all of it to whoever looks after the site', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/sites`)
  const sheet = workshop
    .locator('li.sheet')
    .filter({ has: workshop.getByRole('heading', { name: 'Observatory site' }) })
  await expect(sheet.getByRole('link', { name: 'School visits' })).toBeVisible()
  await sheet.getByRole('button', { name: 'More of Observatory site' }).click()
  await expect(sheet.getByText('paste again')).toHaveCount(3)
  await expect(sheet.getByText('/observatory/posts/open-nights')).toBeVisible()
  const [download] = await Promise.all([
    workshop.waitForEvent('download'),
    sheet.getByRole('button', { name: 'All code and steps as a file' }).click(),
  ])
  const text = readFileSync((await download.path())!, 'utf8')
  for (const part of ['Forms on Observatory site', '&lt;form class=', 'add a block for custom HTML', '/page/starchart'])
    expect(text).toContain(part)

  // A real site is told, before anything is built for it, that its visitors cannot come here yet.
  await workshop.getByRole('button', { name: 'What it needs before visitors can use its forms' }).click()
  const online = workshop.getByRole('region', { name: 'Getting online' })
  await expect(online).toContainText('links.cloudberryhill.example')
  await online.getByLabel('Its address, as visitors will reach it').fill(box.workshop)
  await online.getByRole('button', { name: 'Test it' }).click()
  await expect(online.getByText('with the history that this workshop knows')).toBeVisible()
  await expect(online.getByText('This computer only.', { exact: true })).toBeVisible()
  await online.getByLabel('Its address, as visitors will reach it').fill(box.sites)
  await online.getByRole('button', { name: 'Test it' }).click()
  await expect(online.getByText('Not reached.')).toBeVisible()
  // Its answers to the questions are what code is advised by.
  const links = workshop.locator('li.sheet').filter({ has: workshop.getByRole('heading', { name: 'Page of links' }) })
  await links.getByRole('button', { name: 'Edit' }).click()
  await workshop.getByText('A pasted form stays a form').click()
  await expect(workshop.getByLabel('A pasted form stays a form')).not.toBeChecked()
  // Kept, and on its way: a page that is left within the same moment keeps nothing.
  await expect
    .poll(
      async () => (await objectsOf(box, 'site')).find(({ key }) => key === 'pageoflinks')?.body?.profile?.keepsForms,
    )
    .toBe(false)
  await links.getByRole('button', { name: 'More of Page of links' }).click()
  await expect(links.getByText(/^It takes scripts, frames, code for every page\./)).toBeVisible()
})

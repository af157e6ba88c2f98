import { mkdirSync } from 'node:fs'
import { resolve } from 'node:path'
import { chromium, type Page } from '@playwright/test'
import { chromiumLaunch } from './chromium'
import { messyFile } from './e2e/messy-file'
import { startBox } from './programs'
import { documentedServices } from './service-ground'
import { build } from '../scripts/ready.mjs'

/** `npm run screenshots`: one current picture of each main view, made from the demo, into docs/screenshots. */
const folder = resolve(import.meta.dirname, '../docs/screenshots')
mkdirSync(folder, { recursive: true })
await build()
const box = await startBox({ ports: [4310, 4320], withMailbox: true, withService: 4330, withDemoMail: true })
const browser = await chromium.launch(chromiumLaunch)

try {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  page.setDefaultTimeout(20_000)
  await page.goto(box.pairing)
  await page.getByText('all saved').waitFor()
  await page.getByText('joined in 7 days').first().waitFor()

  const visit = async (path: string, ready: string) => {
    await page.goto(box.workshop + path)
    await page.locator(ready).first().waitFor()
  }
  await shoot(page, 'desk')
  await visit('/new', 'fieldset')
  await page.getByRole('radio', { name: 'A new list' }).check()
  await page.getByLabel('Name of the list').fill('Night-walk dates')
  await page.getByRole('radio', { name: 'Volunteers’ blog' }).check()
  await page.evaluate(() => scrollTo(0, 0))
  await shoot(page, 'new-form')
  await visit('/forms/clearskyform/form', '.form-picture')
  await page.getByRole('button', { name: /^Understood/ }).click()
  await page.frameLocator('iframe[title^="The form."]').locator('.askbox-heading').click()
  await shoot(page, 'form-station')
  await visit('/forms/blogletterform/spot', '.spot')
  await shoot(page, 'spot-station')
  const bodyOfPost = `${box.sites}/editor/volunteers/${encodeURIComponent('body:/posts/first-frost')}`
  const save = (fields: Record<string, string>) =>
    fetch(bodyOfPost, { method: 'POST', headers: { Origin: box.sites }, body: new URLSearchParams(fields) })
  const code = (await page.getByLabel('The code').textContent()) ?? ''
  await save({ words: code, code: '' })
  const rehearse = page.locator('.page-head').getByRole('button', { name: 'Rehearse', exact: true })
  const dock = page.getByRole('complementary', { name: 'Rehearsal' })
  await rehearse.click()
  await dock.getByText(/^\d+ failed$/).waitFor()
  await dock.getByRole('button', { name: 'Close', exact: true }).click()
  await save({ words: 'The dome slid open at half past five and the grass was already white.', code })
  await visit('/results', '.place svg')
  await page.locator('.results .lead').waitFor()
  await page.locator('.rate .dot').first().waitFor()
  await shoot(page, 'results')
  await visit('/lists/schoolvisits', '.members')
  await page.locator('[role=cell]').first().waitFor()
  await shoot(page, 'list')
  await visit('/lists/schoolvisits/import', '.el-upload')
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'Open day.csv', mimeType: 'text/csv', buffer: Buffer.from(messyFile(400)) })
  await page.getByRole('button', { name: 'See what it would do' }).click()
  await page.getByRole('heading', { name: 'What it would do' }).scrollIntoViewIfNeeded()
  await page.mouse.wheel(0, 320)
  await shoot(page, 'import')
  await visit('/lists/clearskyalerts/onward', '.pick')
  await page.getByText('A new one').click()
  await page.getByRole('combobox', { name: 'Service' }).click()
  await page.getByRole('option', { name: /Another/ }).click()
  // A pretend service that nothing but its help page describes.
  const marsh = documentedServices.find(({ path }) => path === 'marsh')!
  await page.getByLabel('What the service’s help page shows').fill(marsh.help(`${box.service}/marsh`))
  await page.getByRole('button', { name: 'Read it' }).click()
  await page.locator('form.key input').fill(marsh.key[0]!)
  await page.getByRole('button', { name: 'Try the key' }).click()
  await page.locator('label').filter({ hasText: 'Tide tables' }).click()
  await page.getByRole('button', { name: 'Send one made-up person' }).click()
  await page.getByText('There, with the right values.').waitFor()
  await page.getByRole('button', { name: 'See the examples, and correct them' }).click()
  await page
    .getByRole('heading', { name: 'What it is asked' })
    .evaluate((heading) => scrollTo(0, scrollY + heading.getBoundingClientRect().top - 80))
  await shoot(page, 'hand-on')
  // As by a theme that blurs what is not read yet, and forgets to stop.
  await save({ words: 'The dome slid open at half past five.', code: `<div style="filter: blur(6px)">${code}</div>` })
  await visit('/forms/blogletterform/spot', '.spot')
  await rehearse.click()
  await dock.getByText(/^\d+ failed$/).waitFor({ timeout: 60_000 })
  await dock.getByRole('button', { name: 'Close', exact: true }).click()
  await page.locator('.failure img').first().waitFor()
  await shoot(page, 'rehearsal-failed')
  await save({ words: 'The dome slid open at half past five and the grass was already white.', code })
  await visit('/lists/membersletter/people/member0458', '.timeline li')
  await shoot(page, 'person')
  await visit('/sites', 'li')
  await shoot(page, 'sites')
  await page.getByRole('button', { name: 'Pages of Observatory site' }).click()
  await page.getByRole('button', { name: 'Look through the site' }).click()
  await page.getByText('pages under /posts').first().waitFor()
  await page
    .getByRole('button', { name: /pages under/ })
    .first()
    .click()
  await page.getByRole('link', { name: '/observatory/posts/open-nights' }).first().waitFor()
  await shoot(page, 'site-pages')
  await visit('/forms/footerform/spot', 'iframe[title^="The page."]')
  const still = page.frameLocator('iframe[title^="The page."]')
  await still.getByText('The form comes here').waitFor()
  await page.getByText('one place').first().waitFor()
  await still.getByText('Most people see six.').hover()
  await page.locator('.rule').evaluate((sheet) => scrollTo(0, scrollY + sheet.getBoundingClientRect().top - 60))
  await shoot(page, 'rule')
  await visit('/forms/starchartform/mail', 'iframe[title^="The message"]')
  await page
    .getByLabel('The way of a mail')
    .getByRole('button', { name: /^Welcome/ })
    .click()
  await page.getByRole('textbox', { name: 'Subject' }).waitFor()
  await shoot(page, 'mail-station')

  const visitor = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  await visitor.goto(`${box.workshop}/page/starchart`)
  await shoot(visitor, 'landing-page')
  await visitor.getByLabel('Email').fill('wren@post.example')
  await visitor.getByLabel('First name').fill('Wren')
  await visitor.getByLabel(/Yes, write to me/).check()
  await visitor.getByRole('button', { name: 'Send me the chart' }).click()
  await visitor.getByRole('heading', { name: 'You are' }).waitFor()
  await visit('/forms/blogletterform/form', '.form-picture')
  const previews = page.getByRole('button', { name: 'The line with its previews' })
  await previews.click()
  await rehearse.click()
  await page.locator('.dock img').waitFor()
  await shoot(page, 'rehearsal')
  await previews.click()
  await dock.getByText('1 passed', { exact: true }).waitFor({ timeout: 60_000 })
  await visitor.setViewportSize({ width: 360, height: 640 })
  await visitor.goto(`${box.sites}/observatory/posts/open-nights`)
  await visitor.locator('form.askbox').scrollIntoViewIfNeeded()
  await shoot(visitor, 'visitor-phone')
  await dock.getByRole('button', { name: 'Close', exact: true }).click()
  await visit('/write', '.one')
  await page.getByText('is going').waitFor()
  await shoot(page, 'letters')
  await page.getByRole('link', { name: /What the new mirror saw first/ }).click()
  const letter = page.frameLocator('iframe[title^="The letter. Press"]')
  await letter.locator('img').evaluate((image) => (image as HTMLImageElement).decode())
  await letter.locator('h1 [data-text]').click()
  await page.locator('.letter').evaluate((sheet) => scrollTo(0, scrollY + sheet.getBoundingClientRect().top - 150))
  await shoot(page, 'letter')
} finally {
  await browser.close()
  await box.stop()
}

async function shoot(page: Page, name: string): Promise<void> {
  await page.evaluate(() => document.fonts.ready)
  // What was scrolled is painted a frame later: a picture taken at once may hold parts that are empty.
  await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))))
  await page.screenshot({ path: `${folder}/${name}.png`, animations: 'disabled' })
}

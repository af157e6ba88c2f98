import type { Page } from '@playwright/test'
import { expect, test } from './box'
import { saveInEditor } from './stand-ins'
import { ask, picture } from './form-station'
import { labels } from './hands'

const SCRIPT = '"><img src=x onerror="window.ran=1"><script>window.ran=1</script>'

/** Whether any script that somebody typed has run on the page or in one of its frames. */
async function hasRun(page: Page): Promise<boolean> {
  const flags = await Promise.all(
    page.frames().map((frame) => frame.evaluate(() => 'ran' in window).catch(() => false)),
  )
  return flags.includes(true)
}

test(
  'script typed into every text by owner and visitor stays text: workshop, stand-in site, result pages',
  { tag: '@way' },
  async ({ workshop, box, browser }) => {
    await workshop.getByRole('button', { name: labels.newForm }).click()
    await workshop.getByLabel('A new list').check()
    await workshop.getByLabel('Name of the list, as its members will know it').fill(`List ${SCRIPT}`)
    await workshop.getByLabel('A new site').check()
    await workshop.getByLabel('Name of the site').fill(`Site ${SCRIPT}`)
    await workshop.getByLabel('Address', { exact: true }).fill(box.sites)
    await workshop.getByLabel('Name, for your eyes only').fill(`Form ${SCRIPT}`)
    await workshop.getByRole('button', { name: labels.makeTheForm }).click()

    const form = picture(workshop)
    for (const part of [
      '.askbox-heading',
      '.askbox-introduction',
      '.askbox-small',
      '.askbox-button',
      '.askbox-words',
    ]) {
      await form.locator(part).click()
      await form.locator(part).press('ControlOrMeta+a')
      await workshop.keyboard.insertText(SCRIPT)
      await form.locator(part).press('Escape')
      await expect(form.locator(part)).toHaveText(SCRIPT)
    }
    await form.locator('input[name=email]').fill(SCRIPT)
    await form.locator('input[name=email]').blur()
    await ask(workshop, 'First name')
    await workshop.getByLabel('The line').getByRole('link', { name: 'Answer' }).click()
    for (const answer of ['Someone joined', 'Already on the list']) {
      await workshop.getByLabel('Answers that visitors can meet').getByRole('button', { name: answer }).click()
      await workshop.getByRole('textbox', { name: 'Heading' }).fill(SCRIPT)
      await workshop.getByRole('textbox', { name: 'Message' }).fill(SCRIPT)
    }
    await workshop.getByRole('button', { name: /^Publish (version 1|with)/ }).click()
    await workshop.getByRole('radio', { name: 'The whole form as code' }).click()
    await expect(workshop.getByLabel('The code')).toContainText('/join/')
    const code = (await workshop.getByLabel('The code').textContent()) ?? ''

    // Without the shared line it is a plain form, and answers on pages of the receiver’s.
    await saveInEditor(box, 'field-guide', 'site-head', { code: '' })
    const visitor = await (await browser.newContext()).newPage()
    await visitor.goto(`${box.sites}/editor/field-guide/${encodeURIComponent('body:/posts/november')}`)
    await visitor.getByLabel('The file’s HTML at this place').fill(code)
    await visitor.getByRole('button', { name: labels.save }).click()
    expect(await hasRun(visitor)).toBe(false)
    await visitor.getByRole('link', { name: 'See the page' }).first().click()
    await expect(visitor.locator('.askbox-heading').first()).toHaveText(SCRIPT)
    expect(await hasRun(visitor)).toBe(false)

    // A wrong address, with script in the name: the form again. Then a right one: the answer.
    await visitor
      .locator('input[name=email]')
      .first()
      .evaluate((input: HTMLInputElement) => (input.type = 'text'))
    await visitor.locator('input[name=email]').first().fill(SCRIPT)
    await visitor.locator('input[name=first-name]').fill(SCRIPT)
    await visitor.locator('.askbox-button').first().click()
    await expect(visitor.locator('input[name=first-name]')).toHaveValue(SCRIPT)
    expect(await hasRun(visitor)).toBe(false)
    await visitor.locator('input[name=email]').first().fill('mallory@mail.example')
    await visitor.locator('.askbox-button').first().click()
    await expect(visitor.getByRole('heading')).toHaveText(SCRIPT)
    expect(await hasRun(visitor)).toBe(false)

    await workshop.getByLabel('The line').getByRole('link', { name: 'List' }).click()
    await expect(workshop.getByRole('row', { name: /mallory/ })).toContainText(SCRIPT)
    for (const place of ['Desk', 'Lists', 'Sites', 'Settings', 'Results']) {
      await workshop.getByLabel('Places').getByRole('link', { name: place }).click()
      expect(await hasRun(workshop)).toBe(false)
    }
    await visitor.context().close()
  },
)

test('what a wrong sign-up brings is the form with the visitor’s page still known', async ({
  box,
  page,
  paired: workshop,
}) => {
  await page.goto(`${box.sites}/posts/first-frost`)
  await page.locator('input[name=email]').evaluate((input: HTMLInputElement) => (input.type = 'text'))
  await page.locator('input[name=email]').fill('not an address')
  await page.locator('.askbox-button').click()
  await expect(page.locator('.askbox-error')).toHaveText(
    'This is not a complete email address. It looks like name@example.org.',
  )
  await page.locator('input[name=email]').fill('second-try@mail.example')
  await page.locator('.askbox-button').click()
  await expect(page.getByRole('heading', { name: 'You are on the list' })).toBeVisible()
  await workshop.goto(`${box.workshop}/lists/membersletter`)
  await expect(workshop.getByRole('row', { name: /second-try/ })).toContainText('/posts/first-frost')
})

test('what turns text round does so within what a stranger typed, and nowhere beside it', async ({ workshop, box }) => {
  const typed = 'Wren \u202e\u2067exe.'
  const answer = await fetch(`${box.workshop}/join/starchart`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
    body: JSON.stringify({ email: 'wren@mail.example', 'first-name': typed, consent: 'yes', 'askbox-seconds': '20' }),
  })
  expect(answer.status).toBe(200)
  await workshop.goto(`${box.workshop}/lists/clearskyalerts`)
  const cell = workshop.getByText(/Wren \u202e/).first()
  await cell.waitFor()
  // UAX #9, section 5.2: in an isolate, with all that it opens closed.
  expect(await cell.textContent()).toContain(`\u2068${typed}\u2069\u2069`)
})

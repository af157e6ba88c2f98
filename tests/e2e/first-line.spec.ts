import type { Page } from '@playwright/test'
import type { RunningBox } from '../programs'
import { expect, test } from './box'
import { ask, colour, drawer, picture as pictureOf, rewrite } from './form-station'
import { go, labels } from './hands'

const LETTER = 'Night sky letter'

test(
  'from idea to mailing list, for visitors with scripts on and off',
  { tag: '@way' },
  async ({ workshop, box, browser }) => {
    await test.step('make a form with a list on the spot', () => makeForm(workshop, box))
    await test.step('rewrite its words in the picture', () => rewriteWords(workshop))
    await test.step('ask for the first name, and colour it', () => askAndColour(workshop))
    await test.step('write the answers', () => writeAnswers(workshop))
    await test.step('publish, and put the code on the stand-in blog', () => publishAndPaste(workshop, box))
    const line = new URL(workshop.url()).pathname
    for (const [name, javaScriptEnabled] of [
      ['Wilma', true],
      ['Vera', false],
    ] as const)
      await test.step(`a visitor with scripts ${javaScriptEnabled ? 'on' : 'off'}`, async () => {
        const visitor = await (await browser.newContext({ javaScriptEnabled })).newPage()
        await go(workshop, line)
        await test.step('sign up as a visitor would', () => joins(visitor, box, name))
        await test.step('the workshop shows it at once, without a reload', () => isShown(workshop, name))
        await test.step('the same address in other letters is already on the list', () =>
          joinsAgain(visitor, workshop, box, { name, javaScriptEnabled }))
        await visitor.context().close()
      })
  },
)

async function makeForm(workshop: Page, box: RunningBox): Promise<void> {
  await workshop.getByRole('button', { name: labels.newForm }).click()
  await workshop.getByLabel('A new list').check()
  await workshop.getByLabel('Name of the list, as its members will know it').fill(LETTER)
  await workshop.getByLabel('Volunteers’ blog').check()
  await workshop.getByLabel('Address of the page').fill(`${box.sites}/posts/counting-meteors`)
  await expect(workshop.getByLabel('Name, for your eyes only')).toHaveValue(`Volunteers’ blog, inline: ${LETTER}`)
  await workshop.getByRole('button', { name: labels.makeTheForm }).click()
  await expect(workshop.getByLabel('Name of the form')).toHaveValue(`Volunteers’ blog, inline: ${LETTER}`)
}

async function rewriteWords(workshop: Page): Promise<void> {
  const picture = pictureOf(workshop)
  await rewrite(picture.locator('.askbox-heading'), 'Count meteors with us')
  await rewrite(picture.locator('.askbox-introduction'), 'Once a month, on the darkest night.')
  await rewrite(picture.locator('.askbox-small'), 'No spam, ever.')
  await rewrite(picture.locator('.askbox-button'), 'Count me in')
  await picture.locator('input[name=email]').fill('you@mail.example')
  await picture.locator('input[name=email]').blur()
  await expect(picture.locator('input[name=email]')).toHaveAttribute('placeholder', 'you@mail.example')
  await expect(picture.locator('input[name=email]')).toHaveValue('')
}

async function askAndColour(workshop: Page): Promise<void> {
  const picture = pictureOf(workshop)
  await ask(workshop, 'First name')
  await workshop.getByLabel('Must be answered').check()
  await expect(picture.locator('input[name=first-name]')).toHaveAttribute('required', '')
  await drawer(workshop, 'Look')
  await colour(workshop, 'Background', '#102030')
  await colour(workshop, 'Text', '#fff4dd')
  await colour(workshop, 'Button', '#ffcc44')
  await colour(workshop, 'Button text', '#201000')
  await expect(picture.locator('.askbox-card')).toHaveCSS('background-color', 'rgb(16, 32, 48)')
  await expect(picture.locator('.askbox-button')).toHaveCSS('background-color', 'rgb(255, 204, 68)')
  await expect(picture.locator('.askbox-button')).toHaveText('Count me in')
}

async function writeAnswers(workshop: Page): Promise<void> {
  await station(workshop, 'Answer')
  await workshop.getByRole('textbox', { name: 'Heading' }).fill('Welcome to the field')
  await workshop.getByRole('button', { name: /^Already on the list/ }).click()
  await workshop.getByRole('textbox', { name: 'Message' }).fill('We have you already.')
  await expect(workshop.frameLocator('iframe[title^="The answer"]').getByText('We have you already.')).toBeVisible()
}

async function publishAndPaste(workshop: Page, box: RunningBox): Promise<void> {
  await workshop.getByRole('button', { name: /^Publish (version 1|with)/ }).click()
  await workshop.getByRole('radio', { name: 'The whole form as code' }).click()
  await expect(workshop.getByLabel('The code')).toContainText('/join/')
  const code = await workshop.getByLabel('The code').textContent()
  await paste(workshop, box, 'counting-meteors', code ?? '')
}

async function joins(visitor: Page, box: RunningBox, name: string): Promise<void> {
  await visitor.goto(`${box.sites}/posts/counting-meteors`)
  await expect(visitor.getByRole('heading', { name: 'Count meteors with us' })).toBeVisible()
  await signUp(visitor, `${name}.Vega@Mail.example`, name)
  await expect(visitor.getByRole('heading', { name: 'Welcome to the field' })).toBeVisible()
}

async function isShown(workshop: Page, name: string): Promise<void> {
  await expect(workshop.getByLabel('The line').getByText(`${name}.Vega@Mail.example`)).toBeVisible()
  await expect(workshop.getByLabel('The line').getByRole('link', { name: 'Form' })).toContainText('proven')
  await station(workshop, 'List')
  const row = workshop.getByRole('row', { name: `${name}.Vega` })
  for (const text of [name, 'on the list', 'today', 'inline · Volunteers’ blog', '/posts/counting-meteors'])
    await expect(row).toContainText(text)
}

async function joinsAgain(
  visitor: Page,
  workshop: Page,
  box: RunningBox,
  { name, javaScriptEnabled }: { name: string; javaScriptEnabled: boolean },
): Promise<void> {
  // With the site's script, the answer stands in the form's place, if the script was there before the press; without,
  // on a page that leads back.
  if (javaScriptEnabled) await visitor.goto(`${box.sites}/posts/counting-meteors`)
  else await visitor.getByRole('link', { name: 'Back to Volunteers’ blog' }).click()
  await signUp(visitor, `${name.toLowerCase()}.vega@mail.EXAMPLE`, name)
  await expect(visitor.getByText('We have you already.')).toBeVisible()
  await expect(workshop.getByRole('row', { name: new RegExp(`${name}\\.vega`, 'i') })).toHaveCount(1)
  await workshop.getByRole('link', { name: 'Desk' }).click()
  await expect(
    workshop
      .getByRole('listitem')
      .filter({ hasText: `${name.toLowerCase()}.vega@mail.EXAMPLE` })
      .filter({ hasText: LETTER })
      .first(),
  ).toContainText('already on the list')
}

async function station(page: Page, name: string): Promise<void> {
  await page.getByLabel('The line').getByRole('link', { name }).click()
}

async function paste(workshop: Page, box: RunningBox, post: string, code: string): Promise<void> {
  const editor = await workshop.context().newPage()
  await editor.goto(`${box.sites}/editor/volunteers/${encodeURIComponent(`body:/posts/${post}`)}`)
  await editor.getByLabel('HTML below the text').fill(code)
  await editor.getByRole('button', { name: labels.save }).click()
  await expect(editor.getByText('Saved.')).toBeVisible()
  await editor.close()
}

async function signUp(visitor: Page, email: string, firstName: string): Promise<void> {
  await visitor.getByLabel('Email').fill(email)
  await visitor.getByLabel('First name').fill(firstName)
  await visitor.getByRole('button', { name: 'Count me in' }).click()
}

import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import type { Browser, FrameLocator, Locator, Page } from '@playwright/test'
import type { Workspace } from '#core/workspace'
import { changeDraft, objectsOf } from '../api'
import { expect, test } from './box'
import { ask, colour, drawer, picture, rewrite } from './form-station'
import { choose, go, type Hands, keyboardHands, labels, mouseHands } from './hands'

const demo = JSON.parse(
  readFileSync(resolve(import.meta.dirname, '../../demo/cloudberry-hill.json'), 'utf8'),
) as Workspace
const hill = { name: 'hill.png', mimeType: 'image/png', buffer: Buffer.from(demo.pictures[0]!.bytes, 'base64') }

// What a mouse does, the other tests do.
test(
  'a landing page from the gift shape, mended, undone, published, restored, by keyboard alone',
  { tag: '@way' },
  async ({ workshop, browser }) => {
    // By keyboard alone it is some thousand key presses.
    test.setTimeout(400_000)
    const tab = (name: string) => workshop.getByRole('tab', { name })
    const at = { workshop, browser, hands: keyboardHands(workshop), form: picture(workshop), tab }
    await test.step('make it', () => makeIt(at))
    await test.step('words and picture', () => writeAndIllustrate(at))
    await test.step('three fields, one of them sometimes, and consent', () => askMore(at))
    await test.step('mend two contrast findings by one press each', () => mendContrast(at))
    await test.step('undo ten steps, and redo them', () => undoAndRedo(at))
    await test.step('publish, and sign up on the page', () => publishAndJoin(at))
    await test.step('publish other words, and bring the first version back', () => bringBack(at))
  },
)

const EMAIL = 'gift@mail.example'
interface AtTheStation {
  workshop: Page
  browser: Browser
  hands: Hands
  form: FrameLocator
  tab(name: string): Locator
}

async function makeIt({ workshop, hands, form }: AtTheStation): Promise<void> {
  await hands.press(workshop.getByRole('button', { name: labels.newForm }))
  await hands.check(workshop.getByRole('radio', { name: 'Clear-sky alerts' }))
  await hands.check(workshop.getByRole('radio', { name: 'Observatory site' }))
  await hands.check(workshop.getByRole('radio', { name: 'Landing page' }))
  await hands.press(workshop.getByRole('button', { name: 'Gift offer' }))
  await hands.fill(workshop.getByLabel('Name, for your eyes only'), 'Gift by keys')
  await hands.press(workshop.getByRole('button', { name: labels.makeTheForm }))
  await expect(form.getByRole('heading', { name: 'The printable guide' })).toBeVisible()
}

async function writeAndIllustrate({ workshop, hands, form }: AtTheStation): Promise<void> {
  await hands.rewrite(form.locator('.askbox-heading'), 'The star chart, yours to print')
  await expect(form.locator('.askbox-heading')).toHaveText('The star chart, yours to print')
  await hands.file(workshop.getByRole('button', { name: /^Picture press/ }), hill)
  await hands.fill(workshop.getByLabel('What it shows, for people who cannot see it'), 'The dome under stars')
  await expect(form.getByRole('img', { name: 'The dome under stars' })).toBeVisible()
}

async function askMore({ workshop, hands, form, tab }: AtTheStation): Promise<void> {
  const more = workshop.getByLabel('Ask one thing more')
  const add = (kind: string) => hands.press(more.getByRole('button', { name: kind, exact: true }))
  await hands.press(tab('Fields'))
  await add('Choose one')
  await hands.fill(workshop.getByLabel('Label', { exact: true }), 'You watch from')
  await hands.fill(workshop.getByLabel('Choice 1'), 'A town')
  await hands.fill(workshop.getByLabel('Choice 2'), 'A hill')
  await add('One line of text')
  await hands.fill(workshop.getByLabel('Label', { exact: true }), 'Which hill?')
  await hands.choose(workshop.getByLabel('Ask it'), 'when “You watch from” is')
  await hands.check(workshop.getByRole('checkbox', { name: 'A hill' }))
  const town = workshop.getByRole('checkbox', { name: 'A town' })
  await hands.press(town)
  await workshop.keyboard.press('Space')
  await hands.choose(workshop.getByLabel('Kept in the list’s column'), 'First name')
  await add('Consent box')
  await expect(form.locator('.askbox-field-line')).toBeHidden()
  await expect(form.getByRole('checkbox')).not.toBeChecked()
}

async function mendContrast({ workshop, hands, tab }: AtTheStation): Promise<void> {
  await hands.press(tab('Look'))
  await hands.fill(workshop.getByRole('textbox', { name: 'Text', exact: true }), '#5a5f6b')
  await hands.fill(
    workshop.getByRole('textbox', { name: 'Button text', exact: true }),
    await workshop.getByRole('textbox', { name: 'Button', exact: true }).inputValue(),
  )
  await hands.press(tab('Checkup'))
  for (const mend of ['the text', 'the button’s words']) {
    const button = workshop.getByRole('button', { name: new RegExp(`^(Lighten|Darken) ${mend}$`) })
    await hands.press(button.first())
    // What is mended leaves the list, and what stands below it moves up.
    await expect(button).toHaveCount(0)
  }
  await expect(workshop.getByText(/WCAG 2.2, 1.4/)).toHaveCount(0)
}

async function undoAndRedo({ workshop, form }: AtTheStation): Promise<void> {
  const before = await form.locator('form.askbox').evaluate((node) => node.outerHTML)
  for (let step = 0; step < 10; step++) await workshop.keyboard.press('ControlOrMeta+z')
  await expect.poll(() => form.locator('form.askbox').evaluate((node) => node.outerHTML)).not.toBe(before)
  await expect(form.locator('.askbox-field-consent')).toHaveCount(0)
  for (let step = 0; step < 10; step++) await workshop.keyboard.press('ControlOrMeta+Shift+z')
  await expect.poll(() => form.locator('form.askbox').evaluate((node) => node.outerHTML)).toBe(before)
}

async function publishAndJoin({ workshop, browser, hands }: AtTheStation): Promise<void> {
  await hands.press(workshop.getByRole('button', { name: /^Publish (version 1|with)/ }))
  const address = (await workshop.getByLabel('The address').textContent())!
  expect(address).toMatch(/\/page\/\w+$/)
  const visitor = await (await browser.newContext()).newPage()
  await visitor.goto(address)
  await expect(visitor.getByRole('heading', { level: 1, name: 'The star chart, yours to print' })).toBeVisible()
  await expect
    .poll(() => visitor.getByRole('img').evaluate((image: HTMLImageElement) => image.naturalWidth))
    .toBeGreaterThan(100)
  await visitor.getByLabel('Email').fill(EMAIL)
  await expect(visitor.getByLabel('Which hill?')).toBeHidden()
  await visitor.getByLabel('You watch from').selectOption('A hill')
  await visitor.getByLabel('Which hill?').fill('Quarry Hill')
  await visitor.getByRole('button', { name: 'Send me the guide' }).click()
  // Checked beside its field, by the rules the receiver has: nothing was sent.
  await expect(visitor.getByText('Please tick this box to go on.')).toBeVisible()
  await visitor.getByRole('checkbox').check()
  await visitor.getByRole('button', { name: 'Send me the guide' }).click()
  await expect(visitor.getByRole('heading', { name: 'You are on the list' })).toBeVisible()
  await visitor.context().close()
  await hands.press(workshop.getByLabel('The line').getByRole('link', { name: 'List' }))
  await expect(workshop.getByRole('row', { name: new RegExp(EMAIL) })).toContainText('Quarry Hill')
}

async function bringBack({ workshop, hands, form }: AtTheStation): Promise<void> {
  await hands.press(workshop.getByLabel('The line').getByRole('link', { name: 'Form' }))
  await hands.rewrite(form.locator('.askbox-heading'), 'Other words')
  await hands.press(workshop.getByRole('button', { name: /^Publish (version 2|with)/ }))
  await expect(workshop.getByText('Version 2, published')).toBeVisible()
  await hands.press(workshop.getByLabel('More for this form'))
  await hands.press(workshop.getByRole('menuitem', { name: 'Published versions' }))
  await expect(workshop.getByRole('row', { name: /Heading/ })).toContainText('Other words')
  await hands.press(workshop.getByRole('button', { name: 'Bring back version 1' }))
  await hands.press(workshop.getByLabel('The line').getByRole('link', { name: 'Form' }))
  await expect(form.locator('.askbox-heading')).toHaveText('The star chart, yours to print')
}

test(
  'a theme is shared by two forms: changing it says which others change, and publishing shows it',
  { tag: '@way' },
  async ({ paired: workshop, box }) => {
    await workshop.goto(`${box.workshop}/forms/blogletterform`)
    const sheet = picture(workshop).locator('.askbox-card')
    const sand = await sheet.evaluate((node) => getComputedStyle(node).backgroundColor)
    await drawer(workshop, 'Look')
    await workshop.getByRole('button', { name: 'Keep this look as a theme' }).click()
    await workshop.getByLabel('Name of the theme').fill('Sand')
    await workshop.getByRole('button', { name: 'Keep it' }).click()
    await expect(workshop.getByText('The look is kept as the theme “Sand”.')).toBeVisible()
    await go(workshop, '/forms/schoolsform')
    await drawer(workshop, 'Look')
    await choose(workshop.getByLabel('Theme'), 'Sand')
    await expect(sheet).toHaveCSS('background-color', sand)
    await workshop.keyboard.press('ControlOrMeta+z')
    await expect(workshop.getByLabel('Theme')).toHaveAttribute('aria-description', 'a look of its own')
    await expect(sheet).not.toHaveCSS('background-color', sand)
    await workshop.keyboard.press('ControlOrMeta+Shift+z')
    await expect(workshop.getByLabel('Theme')).toHaveAttribute('aria-description', 'Sand')
    await expect(sheet).toHaveCSS('background-color', sand)
    await colour(workshop, 'Background', '#dfe7ff')
    await expect(workshop.getByText('also changes: Volunteers’ blog, inline: Members’ letter')).toBeVisible()
    await workshop.getByRole('button', { name: 'Put it into the theme' }).click()
    await workshop.getByRole('button', { name: 'Publish 2 forms with this theme' }).click()
    await expect(workshop.getByText('All forms with this theme are published.')).toBeVisible()
    await go(workshop, '/forms/blogletterform')
    await expect(sheet).toHaveCSS('background-color', 'rgb(223, 231, 255)')
    await expect(workshop.getByText(/^Version \d+, published/)).toBeVisible()

    // One with something that stops publishing is left as visitors see it, and named; the others are published.
    await changeDraft(box, 'schoolsform', (content) => ({ ...content, words: { ...content.words, button: ' ' } }))
    await drawer(workshop, 'Look')
    await colour(workshop, 'Background', '#ffe7df')
    await workshop.getByRole('button', { name: 'Put it into the theme' }).click()
    await workshop.getByRole('button', { name: 'Publish 2 forms with this theme' }).click()
    await expect(workshop.getByRole('alert').last()).toContainText(
      /One form published\. Not published: “Observatory site, inline: School visits”/,
    )
    await expect(workshop.getByText(/^Version \d+, published/)).toBeVisible()
  },
)

test('what renderings showed is kept: the Desk shows the same signals as the form’s page, after a reload too', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/schoolsform`)
  await rewrite(picture(workshop).locator('.askbox-button'), `Donaudampfschifffahrts${'gesellschaft'.repeat(8)}`)
  await expect(workshop.getByLabel('The line').getByRole('link', { name: 'Form' })).toContainText('needs work')
  for (const again of [false, true]) {
    if (again) await workshop.reload()
    else await workshop.getByRole('link', { name: 'Desk' }).click()
    const line = workshop
      .getByRole('listitem')
      .filter({ has: workshop.getByRole('heading', { name: 'Observatory site, inline: School visits' }) })
    await expect(line.getByRole('link', { name: 'Form' })).toContainText('needs work')
    await expect(workshop.getByText(/The button does not fit at \d+ px/)).toBeVisible()
  }
})

test('rich text: bold, links and lists in the picture, and whatever is pasted comes out as words', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/clearskyform`)
  const place = picture(workshop).locator('.askbox-introduction')
  await rewrite(place, 'Dark skies')
  await place.click()
  await place.press('ControlOrMeta+a')
  await workshop.getByRole('button', { name: 'Bold' }).click()
  await place.press('Escape')
  await expect(place.locator('strong')).toHaveText('Dark skies')
  await place.click()
  await place.press('ControlOrMeta+a')
  await workshop.getByRole('button', { name: 'Link', exact: true }).click()
  await workshop.getByLabel('Link to').fill('javascript:alert(1)')
  await workshop.getByRole('button', { name: 'Set' }).click()
  await expect(workshop.getByText('Begin with https://')).toBeVisible()
  await workshop.getByLabel('Link to').fill('https://cloudberryhill.example/dark')
  await workshop.getByRole('button', { name: 'Set' }).click()
  await expect(place.locator('a')).toHaveAttribute('href', 'https://cloudberryhill.example/dark')
  await place.click()
  await place.evaluate((node) => {
    const data = new DataTransfer()
    data.setData(
      'text/html',
      '<h1 onclick="x">Big</h1><script>window.ran=1</script><img src=x onerror="window.ran=1"><ul><li><b>one</b><li>two</ul><a href="javascript:1">no</a>',
    )
    node.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
  })
  await place.press('Escape')
  await expect(place.locator('li')).toHaveText(['one', 'two'])
  await expect(place.locator('script, img, h1, [onclick], a[href^="javascript"]')).toHaveCount(0)
  await expect(place).toContainText('Big')
})

test('fields are ordered by drag, by buttons and by Alt with the arrows', async ({ paired: workshop, box }) => {
  await workshop.goto(`${box.workshop}/forms/blogletterform`)
  await ask(workshop, 'Telephone')
  const order = () => workshop.getByLabel('Fields, in the order asked').locator('.label').allTextContents()
  await workshop.getByRole('button', { name: 'Move Telephone up' }).click()
  await expect.poll(order).toEqual(['Email', 'Telephone', 'First name'])
  await workshop.locator('[data-key=phone] .title').press('Alt+ArrowUp')
  await expect.poll(order).toEqual(['Telephone', 'Email', 'First name'])
  await workshop.locator('[data-key=phone] .title').click()
  await workshop
    .locator('[data-key=phone] .grip')
    .dragTo(workshop.locator('[data-key=first-name]'), { targetPosition: { x: 30, y: 40 } })
  await expect.poll(order).toEqual(['Email', 'First name', 'Telephone'])
  expect(
    await picture(workshop)
      .locator('.askbox-input')
      .evaluateAll((all) => all.map((one) => (one as HTMLInputElement).name)),
  ).toEqual(['email', 'first-name', 'phone'])
})

test('duplicated, archived, deleted, and brought back', async ({ paired: workshop, box, request }) => {
  await workshop.goto(`${box.workshop}/forms/schoolsform`)
  const name = workshop.getByLabel('Name of the form')
  await workshop.getByLabel('More for this form').click()
  await workshop.getByRole('menuitem', { name: 'Duplicate' }).click()
  await expect(name).toHaveValue('Observatory site, inline: School visits, copy')
  await workshop.getByLabel('More for this form').click()
  await workshop.getByRole('menuitem', { name: 'Archive' }).click()
  await expect(workshop.getByText('Archived, 1')).toBeVisible()
  const post = () =>
    request.post(`${box.workshop}/join/schoolvisit`, {
      form: { email: 'class@school.example', 'first-name': 'Ines' },
      headers: { Accept: 'application/json' },
    })
  await go(workshop, '/forms/schoolsform')
  await workshop.getByLabel('More for this form').click()
  await workshop.getByRole('menuitem', { name: 'Delete' }).click()
  await expect(workshop.getByText('is deleted, and its code takes no more sign-ups')).toBeVisible()
  expect((await post()).status()).toBe(410)
  await workshop.getByRole('alert').getByRole('button', { name: labels.undo }).last().click()
  await expect(
    workshop.getByRole('link', { name: 'Observatory site, inline: School visits', exact: true }),
  ).toBeVisible()
  await expect.poll(async () => (await post()).status()).toBe(200)
})

test('colours are taken from the site’s own style sheet', async ({ paired: workshop, box }) => {
  await workshop.goto(`${box.workshop}/forms/blogletterform`)
  await drawer(workshop, 'Look')
  await workshop.getByRole('button', { name: 'Read them anew' }).click()
  await workshop
    .getByLabel('Paste the page’s source, or its style sheet')
    .fill(readFileSync(resolve(import.meta.dirname, '../../src/core/css/kept/04-oklch.css'), 'utf8'))
  await workshop.getByRole('button', { name: 'Find the colours' }).click()
  await expect(workshop.getByRole('button', { name: 'Emphasis: #6b5dcf' })).toHaveAttribute('aria-pressed', 'true')
  await workshop.getByRole('button', { name: 'Keep them for Volunteers’ blog' }).click()
  await workshop.getByRole('button', { name: 'Take the site’s colours and type' }).click()
  await expect(picture(workshop).locator('.askbox-button')).toHaveCSS('background-color', 'rgb(107, 93, 207)')
})

test('any text written in any place of the picture is, letter for letter, what visitors get', async ({
  paired: workshop,
  box,
  page,
}) => {
  const nasty = [
    '"><b>x</b> & <script>',
    'مرحبا “x” 👩‍🚀',
    'two  spaces, a\u00a0hard one',
    `${'long '.repeat(60)}end`,
    "it's {label} \\ ${1}",
  ]
  await workshop.goto(`${box.workshop}/forms/clearskyform`)
  const form = picture(workshop)
  for (const place of ['A reader’s words', 'Note before the fields', 'Text after the form'])
    await workshop.getByLabel(place).check()
  const places = [
    '.askbox-heading',
    '.askbox-introduction',
    '.askbox-note',
    '.askbox-small',
    '.askbox-after',
    '.askbox-quote blockquote > div',
    '.askbox-button',
    '.askbox-words',
  ]
  const written: [string, string][] = []
  for (const [at, place] of places.entries()) {
    const text = nasty[at % nasty.length]!
    await form.locator(place).first().click()
    await form.locator(place).first().press('ControlOrMeta+a')
    await workshop.keyboard.insertText(text)
    await workshop.keyboard.press('Escape')
    written.push([place, text.trim()])
  }
  await workshop.getByRole('button', { name: /^Publish (version|with)/ }).click()
  await workshop.getByLabel('The code').waitFor({ state: 'attached' })
  const code = (await workshop.getByLabel('The code').textContent())!
  await page.goto(`${box.sites}/`)
  await page.evaluate((html) => (document.body.innerHTML = html), code)
  for (const [place, text] of written)
    expect(
      (await page
        .locator(place)
        .first()
        .evaluate((node) => node.textContent))!.trim(),
    ).toBe(text)
  expect(await page.evaluate(() => document.querySelectorAll('.askbox b, .askbox script').length)).toBe(0)
})

test('another language turns the form around; over a picture, contrast is measured on its pixels', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/clearskyform`)
  const form = picture(workshop)
  await choose(workshop.getByLabel('The form speaks'), 'Arabic')
  await expect(form.locator('form.askbox')).toHaveCSS('direction', 'rtl')
  await expect(form.locator('.askbox-words')).toHaveText('البريد الإلكتروني')
  await choose(workshop.getByLabel('The form speaks'), 'English')
  await expect(form.locator('.askbox-words')).toHaveText('Email')
  await mouseHands(workshop).file(workshop.getByRole('button', { name: /^Picture press/ }), hill)
  await workshop.getByLabel('Behind').check()
  await workshop.getByRole('slider', { name: 'Strength' }).press('End')
  await drawer(workshop, 'Look')
  await colour(workshop, 'Text', '#26354a')
  await drawer(workshop, 'Checkup')
  await expect(workshop.getByText(/The heading: .* over the picture at \d+ px/)).toBeVisible()
  // The text is lightened first; the edge of the fields, which goes with it, may then need its own.
  const mends = workshop.getByRole('button', { name: /^Lighten the (text|edge of the fields)$/ })
  await mends.first().click()
  await expect(workshop.getByText(/^(The|A) (text|heading|label|small line): .* over the picture at/)).toHaveCount(0)
  await expect(async () => {
    if ((await mends.count()) > 0) await mends.first().click()
    expect(await workshop.getByText(/over the picture at/).count()).toBe(0)
  }).toPass()
})

test('a new form speaks what the newest on its site speaks, and its own words follow to another language', async ({
  paired: workshop,
  box,
}) => {
  const make = async (shape: string) => {
    await workshop.goto(`${box.workshop}/new`)
    await workshop.getByLabel('Members’ letter').check()
    await workshop.getByLabel('Volunteers’ blog').check()
    await workshop.getByRole('button', { name: shape }).click()
    await workshop.getByRole('button', { name: labels.makeTheForm }).click()
  }
  await make('Quiet one-liner')
  await choose(workshop.getByLabel('The form speaks'), 'German')
  await expect(picture(workshop).locator('.askbox-button')).toHaveText('Anmelden')
  // A page that is loaded anew at once would not know of it.
  const languages = async () => (await objectsOf(box, 'form')).map(({ body }) => body?.draft.language)
  await expect.poll(languages).toContain('de')
  await make('Event notice')
  await expect(picture(workshop).locator('.askbox-label')).toHaveText('E-Mail')
  // What the shape says for one purpose is in English; in German it says what forms say in general.
  await expect(picture(workshop).locator('.askbox-heading')).toHaveText('Post von uns')
  await expect(picture(workshop).locator('.askbox-button')).toHaveText('Anmelden')
  await drawer(workshop, 'Checkup')
  await expect(workshop.getByText(/still in English/)).toHaveCount(0)
})

test('an owner’s own CSS holds for the form, and what is left out is named', async ({ paired: workshop, box }) => {
  await workshop.goto(`${box.workshop}/forms/schoolsform`)
  await drawer(workshop, 'Look')
  await workshop.getByRole('button', { name: 'Your own CSS' }).click()
  await workshop
    .getByRole('textbox', { name: 'Your own CSS' })
    .fill('.askbox-heading { text-transform: uppercase } form { background: url(https://evil.example/x) }')
  await expect(picture(workshop).locator('.askbox-heading')).toHaveCSS('text-transform', 'uppercase')
  await expect(workshop.getByText('is left out')).toContainText('background')

  // What it does to the form is measured as it is drawn, and mended by rules that its owner can read.
  await workshop
    .getByRole('textbox', { name: 'Your own CSS' })
    .fill('.askbox-heading { color: #8aa8a0 } @media (max-width: 340px) { .askbox-button { display: none } }')
  await drawer(workshop, 'Checkup')
  const pale = workshop.getByText('The heading: 2.11 : 1 as your own CSS draws it, where 3 : 1 is needed.')
  await expect(workshop.getByText('Your own CSS hides the button at 320 px: nobody could sign up there.')).toBeVisible()
  await workshop.getByRole('button', { name: 'Give the heading a colour that reads' }).click()
  await expect(pale).toHaveCount(0)
  await workshop.getByRole('alert').getByRole('button', { name: labels.undo }).click()
  await expect(pale).toBeVisible()
  await workshop.getByRole('button', { name: 'Give the heading a colour that reads' }).click()
  await drawer(workshop, 'Look')
  await workshop.getByRole('button', { name: 'Your own CSS' }).click()
  await expect(workshop.getByRole('textbox', { name: 'Your own CSS' })).toHaveValue(
    /\.askbox-heading \{ color: #[0-9a-f]{6} !important; \}/,
  )
})

test('a colour that is none is refused and stands to be mended; one chosen beside it takes its place; an emptied one goes with the rest', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/schoolsform`)
  const form = picture(workshop).locator('.askbox-card')
  await drawer(workshop, 'Look')
  const before = await form.evaluate((node) => getComputedStyle(node).backgroundColor)
  const background = workshop.getByRole('textbox', { name: 'Background', exact: true })
  await colour(workshop, 'Background', 'sea blue')
  await expect(workshop.getByText('Write a colour as #2a2236.')).toBeVisible()
  await expect(background).toHaveValue('sea blue')
  await expect(background).toHaveAttribute('aria-invalid', 'true')
  await expect(form).toHaveCSS('background-color', before)
  await workshop.getByRole('group', { name: 'Background: colours of the site' }).getByRole('button').nth(1).click()
  await expect(workshop.getByText('Write a colour as #2a2236.')).toHaveCount(0)
  await expect(background).not.toHaveAttribute('aria-invalid')
  await expect(background).toHaveValue(/^#[0-9a-f]{6}$/)
  await expect(form).not.toHaveCSS('background-color', before)

  const field = form.locator('.askbox-input').first()
  const usual = await field.evaluate((node) => getComputedStyle(node).backgroundColor)
  await colour(workshop, 'Fields', '#Fc9')
  await expect(workshop.getByRole('textbox', { name: 'Fields', exact: true })).toHaveValue('#ffcc99')
  await expect(field).toHaveCSS('background-color', 'rgb(255, 204, 153)')
  await colour(workshop, 'Fields', '')
  await expect(field).toHaveCSS('background-color', usual)

  // A number beyond what a form can be is taken as the most there is.
  await workshop.getByRole('button', { name: 'Arrangement and space' }).click()
  const inside = workshop.getByRole('spinbutton', { name: 'Inside, px' })
  await inside.fill('900')
  await inside.press('Enter')
  await expect(inside).toHaveValue('80')
  await inside.fill('800')
  await inside.press('Enter')
  await expect(inside).toHaveValue('80')
})

test('the bounds of a number can have fractions', async ({ paired: workshop, box }) => {
  await workshop.goto(`${box.workshop}/forms/schoolsform`)
  await ask(workshop, 'Number')
  const least = workshop.getByLabel('At least')
  await least.fill('0.5')
  await least.press('Enter')
  await expect(least).toHaveValue('0.5')
  await expect(picture(workshop).locator('input[type=number]')).toHaveAttribute('min', '0.5')
})

test('a form that is a page of its own and stands in a page as well is looked at as either', async ({
  paired: workshop,
  box,
}) => {
  const around = workshop.getByRole('combobox', { name: 'Surroundings' })
  await workshop.goto(`${box.workshop}/forms/starchartform/form`)
  await expect(picture(workshop).locator('main .askbox-heading')).toBeVisible()
  await expect(around).toHaveCount(0)
  await go(workshop, '/forms/starchartform/spot')
  await workshop.getByRole('button', { name: 'Another spot for this form' }).click()
  await choose(workshop.getByRole('combobox', { name: 'Another spot on' }), 'Observatory site')
  await workshop.getByRole('button', { name: labels.addIt }).click()
  await expect
    .poll(async () => (await objectsOf(box, 'spot')).filter(({ body }) => body?.form === 'starchartform').length)
    .toBe(2)
  await go(workshop, '/forms/starchartform/form')
  await expect(workshop.getByLabel('Among styles that interfere')).toHaveCount(0)
  await choose(around, 'On dark')
  await expect(picture(workshop).locator('#page .askbox-heading')).toBeVisible()
  await expect(workshop.getByText('680 px', { exact: true })).toBeVisible()
  await expect(workshop.getByLabel('Among styles that interfere')).toBeVisible()
  await choose(around, 'As a page of its own')
  await expect(picture(workshop).locator('main .askbox-heading')).toBeVisible()
})

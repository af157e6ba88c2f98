import type { Page } from '@playwright/test'
import { type Field, fieldKinds, type FormContent, newField, sampleAnswers, shapes, startContent } from '#core/form'
import type { FormId, SpotId } from '#core/ids'
import { bullets, richText } from '#core/text'
import { directionOf, languages, textsOf } from '#core/texts'
import { landingPage, meddlesomeStyles, type PlacedForm, renderForm, toDocument, toHtml } from '#core/render'
import { violationsOn } from './axe'
import { publishNext } from '../api'
import { expect, test } from './box'

const placed = (content: FormContent, spot: string): PlacedForm => ({
  content,
  form: 'someform' as FormId,
  version: 1,
  spot: spot as SpotId,
  receiver: 'https://forms.example',
})

/** Every kind of field in every shape, so that nothing the renderer can make is left out. */
function full(shape: (typeof shapes)[number], language: (typeof languages)[number]): FormContent {
  const texts = textsOf(language)
  const fields = fieldKinds.map(
    ({ kind }, at) =>
      ({
        ...newField(kind, texts),
        hint: at === 3 ? texts.street : '',
        width: at === 1 || at === 2 ? 'half' : 'full',
      }) as Field,
  )
  return { ...startContent(texts.topics, shape), language, fields }
}

/** Rules of axe-core that look at words, or at boxes that words make larger. */
const bound = [
  'autocomplete-valid',
  'button-name',
  'empty-heading',
  'html-has-lang',
  'html-lang-valid',
  'label',
  'link-name',
  'select-name',
  'target-size',
  'valid-lang',
]

for (const [number, language] of languages.entries()) {
  test(`rendered forms of all start shapes pass axe-core, in ${language}, untouched or with errors, at 280 px`, async ({
    page,
  }) => {
    await page.setViewportSize({ width: 280, height: 900 })
    // Each shape untouched in one half of the languages and with errors in the other.
    const forms = shapes.map((shape, at) => {
      const content = full(shape, language)
      const errors = Object.fromEntries(content.fields.map(({ key }) => [key, textsOf(language).missingConsent]))
      return renderForm(
        placed(content, `form${at}`),
        (at + number) % 2 === 0 ? undefined : { values: sampleAnswers(content.fields, 'long'), errors },
      )
    })
    await page.setContent(
      `<!DOCTYPE html><html lang="${language}" dir="${directionOf(language)}"><head><title>All shapes</title></head><body style="margin:0"><main><h1>All</h1>${forms.map(toHtml).join('')}</main></body></html>`,
    )
    // In one language of each direction everything is looked at; in the others, what their words can change.
    const isWhole = language === 'en' || language === 'ar'
    expect(await violationsOn(page, isWhole ? { also: ['best-practice'] } : { only: bound })).toEqual([])
    // Nothing is wider than the place, and Arabic begins at the right.
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(280)
    const label = await page.locator('.askbox-label').first().boundingBox()
    if (directionOf(language) === 'rtl')
      expect(
        await page
          .locator('.askbox-label')
          .first()
          .evaluate((node) => getComputedStyle(node).direction),
      ).toBe('rtl')
    expect(label!.width).toBeGreaterThan(0)
  })
}

test('a landing page with everything passes axe-core, at 320 px and wide', async ({ page }) => {
  const shape = shapes.find(({ key }) => key === 'landing')!
  for (const width of [320, 1280]) {
    await page.setViewportSize({ width, height: 900 })
    await page.setContent(
      toDocument(landingPage(placed(full(shape, 'en'), 'landing'), undefined, { withScript: false })),
    )
    expect(await violationsOn(page)).toEqual([])
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width)
  }
})

test('plain code withstands a meddlesome site: every part looks as it does without its styles', async ({ page }) => {
  const properties =
    'color,background-color,font-size,font-weight,font-style,line-height,letter-spacing,word-spacing,text-transform,text-indent,text-shadow,width,height,margin-top,margin-left,padding-top,padding-left,border-top-width,border-top-style,border-top-color,border-top-left-radius,box-shadow,float,display,position,list-style-type,transition-duration'.split(
      ',',
    )
  const looks = async (css: string) => {
    const results: string[][] = []
    for (const shape of shapes) {
      const content = full(shape, 'en')
      // That one wears whatever the site says.
      if (content.look.dress === 'site') continue
      const body = {
        ...content,
        words: {
          ...content.words,
          points: bullets(['one', 'two']),
          quote: richText('Said.'),
          quoteBy: 'A reader',
          note: richText('Note.'),
          after: richText('After.'),
        },
      }
      await page.setContent(
        `<!DOCTYPE html><html lang="en"><head><style>body{margin:0;font:16px/1.6 sans-serif}${css}</style></head><body><div id="page">${toHtml(renderForm(placed(body, 'meddled')))}</div></body></html>`,
      )
      results.push(
        await page
          .locator('form.askbox, form.askbox *:not(style, option)')
          .evaluateAll(
            (nodes, names) =>
              nodes.map(
                (node) =>
                  `${node.className || node.tagName}: ${names.map((name) => `${name} ${getComputedStyle(node).getPropertyValue(name)}`).join('; ')}`,
              ),
            properties,
          ),
      )
    }
    return results
  }
  await page.setViewportSize({ width: 680, height: 900 })
  expect(await looks(meddlesomeStyles)).toEqual(await looks(''))
})

test.describe('several steps and conditions', () => {
  const texts = textsOf('en')
  const fields = [
    newField('email', texts),
    {
      ...newField('choose-one', texts),
      label: 'You watch from',
      shownAs: 'buttons',
      required: true,
      choices: [
        { key: 'town', label: 'A town' },
        { key: 'hill', label: 'A hill' },
      ],
      column: '',
      step: 1,
    },
    {
      ...newField('line', texts),
      label: 'Which hill?',
      required: true,
      showWhen: { field: 'choose-one', is: ['hill'] },
      column: 'first-name',
      step: 2,
    },
  ] as Field[]

  async function publish(box: { workshop: string; key: string }): Promise<string> {
    await publishNext(box, 'starchartform', (content) => ({ ...content, fields }))
    return `${box.workshop}/page/starchart`
  }

  test('with scripts, one step at a time, checked by the same rules before going on', async ({ page, box }) => {
    await page.goto(await publish(box))
    await expect(page.getByText('Step 1 of 2')).toBeVisible()
    await expect(page.getByLabel('Which hill?')).toBeHidden()
    await page.getByRole('button', { name: 'Next' }).click()
    await expect(page.getByText('Please fill in your email address.')).toBeVisible()
    await expect(page.getByLabel('Email')).toBeFocused()
    await page.getByLabel('Email').fill('steps@mail.example')
    await page.getByLabel('A hill').check()
    await page.getByRole('button', { name: 'Next' }).click()
    await expect(page.getByText('Step 2 of 2')).toBeVisible()
    await page.getByRole('button', { name: 'Send me the chart' }).click()
    await expect(page.getByText('Please fill in “Which hill?”.')).toBeVisible()
    await page.getByRole('button', { name: 'Back' }).click()
    await expect(page.getByLabel('Email')).toHaveValue('steps@mail.example')
    await page.getByRole('button', { name: 'Next' }).click()
    await page.getByLabel('Which hill?').fill('Quarry Hill')
    await page.getByRole('button', { name: 'Send me the chart' }).click()
    await expect(page.getByRole('status')).toContainText('You are on the list')
  })

  test('without scripts, one plain page; what depends on an answer still does', async ({ browser, box }) => {
    const page: Page = await (await browser.newContext({ javaScriptEnabled: false })).newPage()
    await page.goto(await publish(box))
    await expect(page.getByLabel('Email')).toBeVisible()
    await expect(page.getByText('Step 2 of 2')).toBeVisible()
    await expect(page.getByLabel('Which hill?')).toBeHidden()
    await page.getByLabel('Email').fill('plain@mail.example')
    await page.getByLabel('A hill').check()
    await page.getByLabel('Which hill?').fill('Quarry Hill')
    await page.getByRole('button', { name: 'Send me the chart' }).click()
    await expect(page.getByRole('heading', { name: 'You are on the list' })).toBeVisible()
    await page.context().close()
  })
})

test('on a landing page all that stands below each other begins at one edge, at every width', async ({ page }) => {
  const content = startContent(
    'Our letter',
    shapes.find(({ key }) => key === 'landing')!,
  )
  const words = {
    ...content.words,
    points: bullets(['One story', 'Dates', 'Twelve letters']),
    after: richText('It began with a note.'),
    quote: richText('Worth each minute.'),
    quoteBy: 'Wren',
  }
  const picture = { id: 'hill', width: 800, height: 600, type: 'image/png' }
  const illustration = { picture, phonePicture: null, alternative: '', isDecoration: true, onPhones: true } as never
  for (const place of [null, 'end', 'behind', 'above'] as const)
    for (const width of [360, 800, 1280, 1920]) {
      const look = { ...content.look, picture: { ...content.look.picture, ...(place !== null && { place }) } }
      const shown = { ...content, words, look, illustration: place === null ? null : illustration }
      const site = { name: 'Cloudberry Hill', address: 'https://cloudberryhill.example' }
      const html = toDocument(landingPage(placed(shown, 'spot'), undefined, { withScript: false, site }))
      await page.setViewportSize({ width, height: 800 })
      await page.setContent(html, { waitUntil: 'domcontentloaded' })
      const edges = await page.evaluate(() =>
        ['.from', 'h1', '.askbox-introduction', '.points li', '.story p', '.quote blockquote'].map((one) =>
          Math.round(document.querySelector(one)!.getBoundingClientRect().left),
        ),
      )
      expect([place, width, new Set(edges).size]).toEqual([place, width, 1])
    }
})

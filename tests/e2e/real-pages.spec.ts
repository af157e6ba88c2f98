import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { plainCode } from '#core/embed'
import { type Field, type FormContent, newField, shapes, startContent } from '#core/form'
import type { FormId, SpotId } from '#core/ids'
import { bullets, richText } from '#core/text'
import { textsOf } from '#core/texts'
import { violationsOn } from './axe'
import { expect, test } from './box'

/** Widths of the places where code is pasted: a side column, a phone, a text column, a page. */
const WIDTHS = [280, 360, 680, 1100]

const texts = textsOf('en')
const content: FormContent = {
  ...startContent('Our letter', shapes[0]!),
  fields: [
    { ...newField('email', texts), placeholder: 'you@mail.example' },
    newField('first-name', texts),
    newField('topics', texts),
  ] as Field[],
}
content.words = { ...content.words, introduction: richText('Once a month.'), points: bullets(['one', 'two']) }

const code = (made: FormContent = content, spot = 'real') =>
  plainCode({
    content: made,
    form: 'someform' as FormId,
    version: 1,
    spot: spot as SpotId,
    receiver: 'https://forms.example',
  })

/** A page as sites are built: `slot` stands where the code is pasted. */
interface RealPage {
  name: string
  css?: string
  /** The page's body around the slot. */
  around?: (slot: string) => string
  html?: string
}

const inBody: NonNullable<RealPage['around']> = (slot) => `<p>Before.</p>${slot}<p>After.</p>`
const clean: RealPage = { name: 'a clean page' }

async function show(
  page: Page,
  { css = '', around = inBody, html = 'lang="en"' }: RealPage,
  slot = code(),
): Promise<void> {
  await page.setContent(
    `<!DOCTYPE html><html ${html}><head><meta charset="utf-8"><title>A page</title><style>body{margin:0;font:16px/1.6 sans-serif}${css}</style></head><body>${around(slot)}</body></html>`,
  )
}

/** Where each part of the form is, from the form's own corner, in CSS pixels; and how wide the form is. */
function boxes(page: Page): Promise<string[]> {
  return page.locator('.askbox-card').evaluate((form) => {
    const at = form.getBoundingClientRect()
    const parts = form.querySelectorAll('*:not(style, option, input[type=hidden], [hidden], [hidden] *)')
    // Labels around their controls have no box of their own.
    return [form, ...parts]
      .filter((node) => node.getClientRects().length > 0)
      .map((node) => {
        const { left, top, width, height } = node.getBoundingClientRect()
        return [node.className || node.tagName, left - at.left, top - at.top, width, height]
          .map((one) => (typeof one === 'number' ? Math.round(one / 2) * 2 : one))
          .join(' ')
      })
  })
}

test.describe('plain code keeps its shape', () => {
  const pages: RealPage[] = [
    {
      name: 'in a grid with a named column',
      css: 'body{display:grid;grid-template-columns:[full-start] 0 [main-start] minmax(0,1fr) [main-end] 0 [full-end]}body>*{grid-column:main}',
    },
    { name: 'in a grid without columns', css: 'body{display:grid;justify-items:start}body>*{min-width:0}' },
    { name: 'in a flex column', css: 'body{display:flex;flex-direction:column;align-items:flex-start}' },
    { name: 'in a centred flex column', css: 'body{display:flex;flex-direction:column;align-items:center}' },
    {
      name: 'in a flex row',
      css: 'main{display:flex}',
      around: (slot) => `<main>${slot}</main>`,
    },
    {
      name: 'in a constrained column',
      css: '.column>:where(:not(.wide)){max-width:100%;margin-left:auto!important;margin-right:auto!important}.column>*+*{margin-block-start:24px}',
      around: (slot) => `<div class="column"><p>Before.</p>${slot}<p>After.</p></div>`,
    },
  ]
  for (const width of WIDTHS)
    test(`at ${width} px`, async ({ page }) => {
      await page.setViewportSize({ width, height: 1200 })
      await show(page, clean)
      const wanted = await boxes(page)
      for (const one of pages) {
        await show(page, one)
        expect([one.name, await boxes(page)]).toEqual([one.name, wanted])
        expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width)
      }
    })
})

test('pasted twice, each copy’s labels are of its own controls', async ({ page }) => {
  const every: FormContent = {
    ...content,
    fields: [
      ...content.fields,
      { ...newField('address', texts), key: 'home' },
      { ...newField('birthday', texts), key: 'born' },
      { ...newField('text', texts), key: 'words', hint: 'As long as you like.' },
    ] as Field[],
  }
  const slot = code(every)
  await show(page, clean, slot + slot)
  const [first, second] = [page.locator('form.askbox').first(), page.locator('form.askbox').last()]
  // What assistive technology is told: the same names in both.
  expect(await second.ariaSnapshot()).toBe(await first.ariaSnapshot())
  const labels = second.locator('.askbox-label, .askbox-part-label, .askbox-option span').filter({ visible: true })
  const controls = second.locator('input:visible, textarea:visible, select:visible')
  expect(await labels.count()).toBeGreaterThan(6)
  for (const label of await labels.all()) {
    if ((await label.evaluate((node) => node.tagName)) === 'LEGEND') continue
    await label.click()
    expect(await second.evaluate((form) => form.contains(document.activeElement))).toBe(true)
  }
  expect(await controls.count()).toBeGreaterThan(6)
  await expect(second.getByLabel('Email')).toHaveAccessibleName(/^Email/)
  await expect(second.locator('textarea')).not.toHaveAccessibleName(/As long/)
  await expect(second.locator('textarea')).toHaveAccessibleDescription('As long as you like.')
})

test('within three public style sheets, no box moves by more than 2 px, at any width', async ({ page }) => {
  const sheets = ['@picocss/pico/css/pico.css', 'milligram/dist/milligram.css', 'water.css/out/water.css']
  // A place as wide as the page with text of the usual size, so that what differs is what the sheets say of the form.
  const around: RealPage['around'] = (slot) =>
    `<div style="all:initial;position:absolute;left:0;top:0;display:block;width:100%;font:16px/1.6 sans-serif">${slot}</div>`
  for (const width of WIDTHS) {
    await page.setViewportSize({ width, height: 1200 })
    await show(page, { ...clean, around })
    const wanted = await boxes(page)
    for (const name of sheets) {
      await show(page, { name, around, css: readFileSync(`node_modules/${name}`, 'utf8') })
      expect([width, name, await boxes(page)]).toEqual([width, name, wanted])
    }
  }
})

test.describe('plain code takes back what a site says of everything', () => {
  /** What each part of the form looks like, and what stands before and after it. */
  const looks = (page: Page) =>
    page.locator('.askbox-card').evaluate((form) =>
      [form, ...form.querySelectorAll('*:not(option, [hidden], [hidden] *)')].map((node) => {
        const names = [
          'display',
          'color',
          'background-color',
          'border-top-color',
          '-webkit-text-fill-color',
          'font-size',
          'font-variant-caps',
          'color-scheme',
          '-webkit-locale',
        ]
        const style = getComputedStyle(node)
        const around = ['::before', '::after'].map((pseudo) => getComputedStyle(node, pseudo).content)
        const letter = getComputedStyle(node, '::first-letter').fontSize
        return `${node.className || node.tagName}: ${[...names.map((name) => style.getPropertyValue(name)), ...around, letter].join('; ')}`
      }),
    )
  const pages: RealPage[] = [
    { name: 'marks before and after', css: "form::before,form::after,form *::before{content:'x'}" },
    { name: 'large first letters', css: 'form::first-letter,p::first-letter{font-size:60px;float:left}' },
    { name: 'filled letters', css: 'body{-webkit-text-fill-color:#f0f}' },
    { name: 'small capitals', css: 'body{font-variant:small-caps}' },
    { name: 'custom properties of the same names', css: '*{--text:red;--button:red;--field:red;--edge:red}' },
    { name: 'a dark colour scheme', css: ':root{color-scheme:dark}' },
    { name: 'another language', html: 'lang="ar"' },
    {
      name: 'colours with weight, as dark themes have them',
      css: '*{color:#eee!important}div,form{background:#111!important}',
    },
    { name: 'hidden labels', css: 'label{display:none!important}' },
    { name: 'vertical writing', css: 'main{writing-mode:vertical-rl}', around: (slot) => `<main>${slot}</main>` },
    { name: 'a form around it', around: (slot) => `<form action="/search"><input name="q">${slot}</form>` },
  ]
  test('on each page it looks as on one without styles', async ({ page }) => {
    // Browsers drop a form within another.
    const seen = async () => (await looks(page)).filter((part) => !part.startsWith('askbox:'))
    await show(page, clean)
    const wanted = await seen()
    for (const one of pages) {
      await show(page, one)
      expect([one.name, await seen()]).toEqual([one.name, wanted])
    }
  })

  test('a row that does not wrap leaves it room to type in, and columns do not cut it in two', async ({ page }) => {
    await page.setViewportSize({ width: 900, height: 700 })
    const around: RealPage['around'] = (slot) => `<main>${slot}<p>${'A word of the page. '.repeat(40)}</p></main>`
    await show(page, { name: '', css: 'main{display:flex}p{flex:0 0 800px}', around })
    const { width } = (await page.locator('.askbox-card').boundingBox())!
    expect(width).toBeGreaterThanOrEqual(240)
    await show(page, { name: '', css: 'main{columns:3}', around })
    expect(await page.locator('.askbox-card').evaluate((card) => card.getClientRects().length)).toBe(1)
  })

  test('a style sheet is never shown as text, whatever a site says of everything', async ({ page }) => {
    await show(page, { name: '', css: 'form *{display:flex!important}' })
    for (const never of ['.askbox-card style', '.askbox-more input']) {
      await expect(page.locator(never)).toBeAttached()
      await expect(page.locator(never)).toBeHidden()
    }
  })

  test('focus stays to be seen where a site takes every outline away', async ({ page }) => {
    await show(page, { name: '', css: '*:focus,*:focus-visible{outline:0!important}' })
    for (const control of ['input[type=email]', 'input[type=checkbox]', 'button']) {
      await page.locator(control).first().focus()
      await page.keyboard.press('Shift+Tab')
      await page.keyboard.press('Tab')
      await expect(page.locator(control).first()).toHaveCSS('outline-width', '3px')
      await expect(page.locator(control).first()).toHaveCSS('outline-style', 'solid')
    }
  })

  test('a page from right to left turns no English form around; a root of 10 px makes no small text', async ({
    page,
  }) => {
    await show(page, { name: '', html: 'lang="ar" dir="rtl"' })
    await expect(page.locator('form.askbox')).toHaveCSS('direction', 'ltr')
    await show(page, { name: '', html: 'lang="en" style="font-size:62.5%"', css: 'body{font:1rem sans-serif}' })
    const size = await page
      .locator('.askbox-introduction')
      .evaluate((node) => parseFloat(getComputedStyle(node).fontSize))
    expect(size).toBeGreaterThanOrEqual(14)
  })

  test('what is hidden stays hidden, and a picture keeps its place while it loads', async ({ page }) => {
    const pictured = {
      ...content,
      illustration: {
        picture: { id: 'abcdefabcdef', width: 800, height: 400 },
        phonePicture: null,
        alternative: 'A hill',
        isDecoration: false,
        onPhones: true,
      },
    } as FormContent
    await show(page, clean, code(pictured))
    const ratio = await page.locator('form.askbox img').evaluate((node) => {
      const { width, height } = node.getBoundingClientRect()
      return width / height
    })
    expect(ratio).toBeCloseTo(2, 1)
    for (const part of ['.askbox-row', '.askbox-button', '.askbox-card']) {
      await page.locator(part).evaluate((node: HTMLElement) => (node.hidden = true))
      await expect(page.locator(part)).toBeHidden()
    }
  })
})

test('pasted inside another form, it is sent to the receiver all the same, by post', async ({ page }) => {
  await page.route('https://forms.example/**', (route) => route.fulfill({ status: 200, body: 'Taken.' }))
  await show(page, {
    name: 'a builder that wraps the page in a form',
    around: (slot) => `<form action="/search"><input name="q">${slot}</form>`,
  })
  await page.locator('input[type=email]').fill('ada@mail.example')
  const [request] = await Promise.all([
    page.waitForRequest('https://forms.example/**'),
    page.locator('button').first().click(),
  ])
  expect([request.method(), request.url()]).toEqual(['POST', 'https://forms.example/join/real'])
  expect(request.postData()).toContain('email=ada%40mail.example')
  expect(request.postData()).toContain('askbox-version=1')
})

test('where a site strips styles, or attributes, nobody sees the trap', async ({ page }) => {
  const whole = code()
  for (const stripped of [
    whole.replace(/<style>[\s\S]*?<\/style>/, ''),
    whole.replaceAll(/ style="[^"]*"/g, '').replaceAll(' inert', ''),
    whole.replace(/<style>[\s\S]*?<\/style>/, '').replaceAll(' hidden', ''),
  ]) {
    await show(page, clean, stripped)
    await expect(page.locator('.askbox-more input')).toBeHidden()
    await expect(page.locator('input[type=email]')).toBeVisible()
  }
})

test('beside a field with an error, the button stands level with the field; filled buttons are printed', async ({
  page,
}) => {
  const { renderForm, toHtml } = await import('#core/render')
  const inLine = { ...content, fields: [content.fields[0]!], look: { ...content.look, arrangement: 'line' as const } }
  const placed = {
    content: inLine,
    form: 'f' as FormId,
    version: 1,
    spot: 'real' as SpotId,
    receiver: 'https://r.example',
  }
  await page.setViewportSize({ width: 680, height: 800 })
  await show(page, clean, toHtml(renderForm(placed, { values: {}, errors: { email: 'This is no address.' } })))
  const tops = await page
    .locator('.askbox-input, .askbox-button')
    .evaluateAll((nodes) => nodes.map((node) => node.getBoundingClientRect().top))
  expect(Math.abs(tops[0]! - tops[1]!)).toBeLessThanOrEqual(2)
  await expect(page.locator('.askbox-button')).toHaveCSS('print-color-adjust', 'exact')
})

const shaped = (key: string): FormContent =>
  startContent(
    'Our letter',
    shapes.find((shape) => shape.key === key)!,
  )

test('a form without a ground reads well on a light, a dark and a changing page', async ({ page }) => {
  for (const [ground, text] of [
    ['#ffffff', '#222222'],
    ['#14161a', '#e8e6e0'],
  ] as const) {
    await page.setContent(
      `<body style="background:${ground};color:${text};font:18px serif"><main>${code(shaped('footer-line'))}</main></body>`,
    )
    expect([ground, await violationsOn(page, { within: 'form', only: ['color-contrast'] })]).toEqual([ground, []])
    await expect(page.locator('.askbox-heading')).toHaveCSS(
      'color',
      text === '#222222' ? 'rgb(34, 34, 34)' : 'rgb(232, 230, 224)',
    )
  }
})

test('“plain, unstyled” is the site’s own form, wholly; what has to be hidden is', async ({ page }) => {
  const styles =
    'label{color:rgb(1,2,3)}input{border:5px dotted rgb(9,9,9);background:rgb(240,250,240);border-radius:12px;font-size:15px;padding:3px}button{font-size:15px;padding:3px;border:3px outset;border-radius:5px;background:rgb(80,0,80);color:rgb(255,255,255);text-transform:uppercase}'
  await page.setContent(
    `<style>${styles}</style>${code(shaped('bare'))}<form id="own"><label>Own <input></label><button>Own</button></form>`,
  )
  const look = (selector: string) =>
    page
      .locator(selector)
      .first()
      .evaluate((node) => {
        const style = getComputedStyle(node)
        return [
          style.color,
          style.backgroundColor,
          style.borderTopStyle,
          style.borderTopWidth,
          style.borderTopLeftRadius,
          style.textTransform,
          style.fontSize,
          style.padding,
        ]
      })
  expect(await look('form.askbox input[name=email]')).toEqual(await look('#own input'))
  expect(await look('form.askbox .askbox-button')).toEqual(await look('#own button'))
  await expect(page.locator('.askbox-more')).toBeHidden()
  await expect(page.locator('.askbox-card style')).toBeHidden()
})

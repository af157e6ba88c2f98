import type { Browser, Page } from '@playwright/test'
import { sharedLine } from '#core/embed'
import { type Placing, type Rule, selectorProblem, startRule } from '#core/rule'
import { parsePage } from '#core/submission'
import { parsedTree } from '#core/usable'
import type { SpotId } from '#core/ids'
import { changeObject, changeSpot, objectsOf } from '../api'
import type { RunningBox } from '../programs'
import { isOfThisRun } from '../seed'
import { violationsOn } from './axe'
import { go, labels } from './hands'
import { expect, test } from './pages'
import { rulePages } from './rule-pages'
import { shiftOn, watchShifts } from './shifts'
import { clearCache, saveInEditor } from './stand-ins'

const SPOT = 'firstfrost' as SpotId

const published = (changes: Partial<Rule>): Placing => {
  const rule: Rule = { ...startRule, ...changes }
  return { draft: rule, published: rule }
}

/** A spot of the demo's form, placed on a site by a rule; its id. */
async function placedOn(box: RunningBox, address: string, changes: Partial<Rule>, name: string): Promise<SpotId> {
  const { body } = (await objectsOf(box, 'spot')).find(({ key }) => key === SPOT)!
  const site = (await objectsOf(box, 'site')).find(({ key }) => key === body!.site)!
  if (site.body!.address !== address)
    await changeObject(box, 'site', site.key, { ...site.body!, address, kind: 'static-pages' })
  const spot = name as SpotId
  await changeSpot(box, spot, { ...body!, id: spot, code: 'rule', page: '', placing: published(changes) })
  return spot
}

/** Down the page as a reader goes, and back up. */
async function readThrough(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const frame = () => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve, 30)))
    for (let top = 0; top <= document.documentElement.scrollHeight; top += 240) {
      scrollTo({ top, behavior: 'instant' })
      await frame()
    }
    scrollTo({ top: 0, behavior: 'instant' })
    await frame()
  })
}

/** What stands wrong: each form has to come directly below, or above, what a person would say, in its column. */
function wrongOn(page: Page, isListing: boolean): Promise<string[]> {
  return page.evaluate((isListing) => {
    const box = (one: Element) => one.getBoundingClientRect()
    const forms = [...document.querySelectorAll('askbox-form')].filter((one) => box(one).height > 0)
    const wrong: string[] = []
    /** Whether a form follows an element with nothing of the page between them. */
    const follows = (form: Element, before: Element) => {
      const gap = box(form).top - box(before).bottom
      const [left, right] = [box(before).left - 4, box(before).right + 4]
      return gap > -2 && gap < 90 && box(form).left >= left && box(form).right <= right
    }
    const above = (form: Element, after: Element) => {
      const gap = box(after).top - box(form).bottom
      return gap > -2 && gap < 120
    }
    const foot = document.querySelector('[data-foot]')!
    if (forms.filter((one) => above(one, foot)).length !== 1) wrong.push('foot')
    const rest = forms.filter((one) => !above(one, foot))
    const wanted = [...document.querySelectorAll(isListing ? '[data-entry]' : '[data-first]')]
    const missing = wanted.filter((one) => !forms.some((form) => follows(form, one)))
    if (missing.length > 0) wrong.push(`${missing.length} of ${wanted.length} missing`)
    // The last entry’s form may be the one above the foot too.
    if (rest.length > wanted.length) wrong.push(`${rest.length} forms for ${wanted.length} places`)
    if (document.documentElement.scrollWidth > innerWidth) wrong.push('wider than the window')
    return wrong
  }, isListing)
}

test('in 40 pages forms stand where a person would put them, and move nothing', async ({ page, box, site }) => {
  test.setTimeout(240_000)
  const spots = [
    await placedOn(
      box,
      site.address,
      { place: { kind: 'text', of: 'paragraph', number: 1 }, marks: { has: [], lacks: ['[data-entry]'] } },
      'rulefirst',
    ),
    await placedOn(box, site.address, { place: { kind: 'entry', number: 1 }, times: 'each' }, 'ruleentry'),
    await placedOn(box, site.address, { place: { kind: 'foot', at: 'above' } }, 'rulefoot'),
  ]
  expect(spots).toHaveLength(3)
  await watchShifts(page)
  const wrong: unknown[] = []
  const moved: unknown[] = []
  const opened = async (head: string, body: string, forms: readonly string[]) => {
    const address = site.put('/page', { head, body })
    const asked = Promise.all(forms.map((spot) => page.waitForResponse(`**/form/${spot}.json*`)))
    await page.goto(address)
    await asked
    await readThrough(page)
    return shiftOn(page)
  }
  // A third on a phone. A window that has just changed its size moves a page by itself.
  const ofSizes = [1280, 390].map((width) => ({
    width,
    pages: rulePages.filter((_, at) => (at % 3 === 2) === (width === 390)),
  }))
  for (const { width, pages } of ofSizes) {
    await page.setViewportSize({ width, height: 800 })
    await page.goto('about:blank')
    for (const { name, css, body, isListing } of pages) await look(name, css, body, isListing)
  }
  async function look(name: string, css: string, body: string, isListing: boolean): Promise<void> {
    const style = `<style>${css}</style>`
    const forms = isListing ? ['ruleentry', 'rulefoot'] : ['rulefirst', 'rulefoot']
    const shift = await opened(`${style}${sharedLine(box.workshop)}`, body, forms)
    const problems = await wrongOn(page, isListing)
    if (problems.length > 0) wrong.push([name, ...problems])
    if (shift > 0.005) moved.push([name, shift])
  }
  expect(moved).toEqual([])
  expect(rulePages).toHaveLength(40)
  expect(wrong.length, JSON.stringify(wrong, null, 1)).toBeLessThanOrEqual(2)
})

test.describe('a rule', () => {
  test(
    'set on the picture of a real page, published, met by visitors, looked for on the whole site, and rehearsed',
    { tag: '@way' },
    async ({ workshop, box, browser }) => {
      test.setTimeout(300_000)
      // Nothing is pasted at a place any more.
      await saveInEditor(box, 'volunteers', 'body:/posts/first-frost', { code: '' })
      await clearCache(box, 'volunteers')
      await go(workshop, '/forms/blogletterform/spot')
      await workshop.getByText('By rule: nothing is pasted').click()
      await workshop.getByRole('button', { name: 'Use this one' }).click()
      const rule = workshop.getByRole('region', { name: 'The rule' })
      const picture = workshop.frameLocator('iframe[title^="The page."]')

      // By keyboard: into the text, from part to part, and Enter.
      await picture.locator('body').focus()
      await picture.getByText('We had eleven visitors').hover()
      await expect(rule.getByText('paragraph “We had eleven visitors')).toBeVisible()
      await picture.locator('body').press('ArrowUp')
      await expect(rule.getByText(/^(entry|part|main part) “14 November/)).toBeVisible()
      for (const key of ['ArrowDown', 'ArrowRight', 'ArrowRight', 'ArrowRight', 'Enter'])
        await picture.locator('body').press(key)
      await expect(rule.getByText('After the second paragraph of the text, on all pages')).toBeVisible()
      await expect(picture.getByText('The form comes here')).toBeVisible()
      expect(await violationsOn(workshop, { within: '[aria-label="The rule"]' })).toEqual([])

      await rule.getByRole('button', { name: 'Publish the rule' }).click()
      await expect(rule.getByText('Visitors’ pages follow it')).toBeVisible()
      const host = new URL(box.sites).host
      const ruled = async () =>
        ((await (await fetch(`${box.workshop}/rules/${host}.json`)).json()) as { rules: unknown[] }).rules
      await expect.poll(ruled).toContainEqual(expect.objectContaining({ spot: SPOT, under: '/' }))

      await visitorsMeetIt(browser, box)
      await siteIsLookedThrough(workshop, box)
      // Seven pages in a browser: in one short run of eight.
      if (isOfThisRun(0, 8)) await isRehearsed(workshop, box)
    },
  )
})

async function visitorsMeetIt(browser: Browser, box: RunningBox): Promise<void> {
  const visitor = await browser.newPage({ viewport: { width: 390, height: 420 } })
  await watchShifts(visitor)
  for (const [path, isThere] of [
    ['/posts/first-frost', true],
    ['/posts/new-mirror', true],
    ['/posts/counting-meteors', true],
    ['/about', false],
  ] as const) {
    const asked = visitor.waitForResponse('**/place.js')
    await visitor.goto(`${box.sites}${path}`)
    await asked
    await readThrough(visitor)
    if (isThere) await expect(visitor.locator('p + div > askbox-form')).toHaveCount(1)
    else await expect(visitor.locator('askbox-form')).toHaveCount(0)
    expect([path, await shiftOn(visitor)]).toEqual([path, 0])
  }
  // Whoever joins is not asked again, on no page of the site.
  await visitor.goto(`${box.sites}/posts/new-mirror`)
  await readThrough(visitor)
  const form = visitor.locator('askbox-form form')
  await form.getByRole('textbox').first().fill('by-rule@post.example')
  await form.getByRole('button').click()
  await expect(form.getByRole('status')).toBeVisible()
  await visitor.goto(`${box.sites}/posts/counting-meteors`)
  await readThrough(visitor)
  await expect(visitor.locator('askbox-form')).toHaveCount(0)
  await visitor.context().close()
}

async function siteIsLookedThrough(workshop: Page, box: RunningBox): Promise<void> {
  await go(workshop, '/sites')
  await workshop.getByRole('button', { name: 'Pages of Volunteers’ blog' }).click()
  await workshop.getByRole('button', { name: 'Look through the site' }).click()
  const sheet = workshop.getByRole('region', { name: 'Volunteers’ blog, inline: Members’ letter' })
  await expect(sheet.getByText(/all 3 pages under \/posts; no place on 1 of 4 pages/)).toBeVisible({
    timeout: 60_000,
  })
  await sheet.getByRole('button', { name: /at the top/ }).click()
  await expect(sheet.getByRole('link', { name: '/about' })).toBeVisible()
  await workshop.goto(box.workshop)
  const needs = workshop.getByRole('region', { name: 'Needs a hand today' })
  await expect(needs.getByText(/no form stands there/)).toBeVisible()
}

async function isRehearsed(workshop: Page, box: RunningBox): Promise<void> {
  await go(workshop, '/forms/blogletterform/spot')
  await workshop.getByRole('button', { name: labels.whatIsTried }).first().click()
  const cases = workshop.getByRole('dialog')
  for (const one of await cases.getByRole('checkbox').all())
    if (await one.isChecked()) await one.uncheck({ force: true })
  for (const name of ['First time', 'Other pages of the site']) await cases.getByRole('checkbox', { name }).check()
  await cases.getByRole('button', { name: labels.keep }).click()
  await workshop.locator('.page-head').getByRole('button', { name: labels.rehearse, exact: true }).click()
  const dock = workshop.getByRole('complementary', { name: 'Rehearsal' })
  await dock.getByText(/^\d+ (passed|failed|stopped)$/).waitFor({ timeout: 200_000 })
  // It reaches the receiver a moment later.
  const proofOf = async () =>
    (await objectsOf(box, 'proof'))
      .map(({ body }) => body!)
      .findLast(({ spot, code }) => spot === SPOT && code === 'rule')
  await expect.poll(proofOf).toBeDefined()
  const proof = (await proofOf())!
  expect(proof.steps.filter(({ verdict }) => verdict === 'failed')).toEqual([])
  expect(proof.verdict).toBe('passed')
  const shown = proof.steps.filter((step) => step.case === 'elsewhere' && step.verdict === 'passed')
  // Three of each group: of the posts, and of the pages at the top.
  expect(shown.filter(({ what }) => /^\/posts\/.* shows it too$/.test(what))).toHaveLength(3)
  expect(shown).toHaveLength(6)
}

test('at the lower edge it lies over the page and moves nothing; the end can be seen, and whoever closes it is left in peace', async ({
  page,
  box,
  site,
}) => {
  await placedOn(box, site.address, { place: { kind: 'edge' } }, 'ruleedge')
  await watchShifts(page)
  const { body, css } = rulePages[1]!
  const address = site.put('/page', { head: `<style>${css}</style>${sharedLine(box.workshop)}`, body })
  await page.goto(address)
  const over = page.locator('askbox-form .over')
  await expect(over).toBeVisible()
  expect(await over.evaluate((one) => Math.round(innerHeight - one.getBoundingClientRect().bottom))).toBe(0)
  expect(await violationsOn(page)).toEqual([])
  await readThrough(page)
  await page.evaluate(() => scrollTo(0, document.documentElement.scrollHeight))
  const covered = () =>
    page.evaluate(() => {
      const form = document.querySelector('askbox-form')!.shadowRoot!.querySelector('.over')!
      return (
        document.querySelector('[data-foot]')!.getBoundingClientRect().bottom > form.getBoundingClientRect().top + 1
      )
    })
  await expect.poll(covered).toBe(false)
  expect(await shiftOn(page)).toBe(0)
  await over.getByRole('textbox').first().press('Escape')
  await expect(over).toBeHidden()
  const asked = page.waitForResponse('**/form/ruleedge.json*')
  await page.goto(address)
  await asked
  await expect(page.locator('askbox-form')).toHaveCount(0)
})

test('what a rule put there is no part of the page: a page that goes on changing gets no more of it', async ({
  page,
  box,
  site,
}) => {
  const place = { kind: 'selector', at: 'after', selector: 'main > div' } as const
  await placedOn(box, site.address, { place, times: 'each' }, 'ruleeach')
  const part = `<div style="height:900px">A part of the page.</div>`
  await page.goto(site.put('/page', { head: sharedLine(box.workshop), body: `<main>${part.repeat(3)}</main>` }))
  await readThrough(page)
  await expect(page.locator('askbox-form')).toHaveCount(3)
  // A part that comes later gets one too, and shows that the page was looked at anew.
  await page.locator('main').evaluate((main, part) => main.insertAdjacentHTML('beforeend', part), part)
  await expect(page.locator('askbox-form')).toHaveCount(4)
  await page.locator('main').evaluate((main, part) => main.insertAdjacentHTML('beforeend', part), part)
  await expect(page.locator('askbox-form')).toHaveCount(5)
})

test('css-select and Chromium find the same by every selector that a rule may have', async ({ page }) => {
  const selectors = [
    ...['p', 'main > p', 'article h2 + p', 'h1 ~ p', '*', ':root', 'body', 'html[lang]', '[class]', '[class~="entry"]'],
    ...['[class^="ent"]', '[class$="try"]', '[class*="ntr"]', '[lang|=en]', '.entry', '#page', 'p:first-child'],
    ...[
      'p:last-child',
      ':only-child',
      'p:nth-child(2n+1)',
      'p:nth-last-child(3)',
      'h2:first-of-type',
      'p:last-of-type',
    ],
    ...['p:nth-of-type(3)', ':nth-last-of-type(2)', ':not(p, div)', ':is(h1, h2) > a', ':where(main, article) p'],
    ...['article:has(> h2)', 'div:has(p):not(.widget)', 'a:only-of-type', '[data-first]', '[class="site" i]'],
  ]
  expect(selectors.map(selectorProblem).filter(Boolean)).toEqual([])
  for (const { name, body } of rulePages.slice(0, 10)) {
    const html = `<!DOCTYPE html><html lang="en-GB"><head><title>A page</title></head><body>${body}</body></html>`
    await page.setContent(html)
    const inChromium = await page.evaluate((all) => {
      const order = [...document.querySelectorAll('*')]
      return all.map((selector) => [...document.querySelectorAll(selector)].map((one) => order.indexOf(one)))
    }, selectors)
    const tree = parsedTree(parsePage(html))
    const order = tree.select('*')
    const parsed = selectors.map((selector) => tree.select(selector).map((one) => order.indexOf(one)))
    const differ = selectors.flatMap((selector, at) =>
      String(parsed[at]) === String(inChromium[at]) ? [] : [[selector, parsed[at], inChromium[at]]],
    )
    expect([name, differ]).toEqual([name, []])
  }
})

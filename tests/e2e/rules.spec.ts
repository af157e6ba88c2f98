import type { Page } from '@playwright/test'
import { sharedLine } from '#core/embed'
import { type Placing, type Rule, startRule } from '#core/rule'
import type { SpotId } from '#core/ids'
import { changeObject, changeSpot, objectsOf } from '../api'
import type { RunningBox } from '../programs'
import { expect, test } from './pages'
import { rulePages } from './rule-pages'
import { shiftOn, watchShifts } from './shifts'

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

import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import type { RunningBox } from '../programs'
import { violationsOn } from './axe'
import { expect, test } from './box'
import { ask, drawer, picture } from './form-station'
import { go, labels } from './hands'

/** 1280 px at 400 %: WCAG 2.2, 1.4.10 Reflow. */
const NARROW = { width: 320, height: 640 }
const WIDE = { width: 1280, height: 720 }

/** What would have to be scrolled to the side; what scrolls in a box of its own (tables, code) is left out, as 1.4.10 has it. */
function sticksOut(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const edge = document.documentElement.clientWidth
    const scrolls = (element: Element) =>
      ['auto', 'scroll', 'hidden', 'clip'].includes(getComputedStyle(element).overflowX)
    const isBoxed = (element: Element | null): boolean =>
      element !== null && element !== document.body && (scrolls(element) || isBoxed(element.parentElement))
    return [...document.querySelectorAll('body *')]
      .filter((element) => element.getBoundingClientRect().right > edge + 1 && !isBoxed(element.parentElement))
      .map((element) => `${element.localName}.${element.className} “${element.textContent.trim().slice(0, 30)}”`)
  })
}

async function unfold(page: Page): Promise<void> {
  const folded = page.locator('.el-collapse-item__header[aria-expanded=false]')
  while ((await folded.count()) > 0) await folded.first().click()
}

const stations = ['Spot', 'Form', 'Answer', 'Mail', 'List'].map((name) => ({
  path: `/forms/schoolsform/${name.toLowerCase()}`,
  shows: `section[aria-label=${name}]`,
}))
const otherPlaces = [
  '/',
  '/new',
  '/lists',
  '/lists/schoolvisits',
  '/lists/schoolvisits/import',
  '/lists/membersletter/people/member0458',
  '/lists/membersletter/people/member0458/receipts',
  '/forms/writeform/messages',
  '/sites',
  '/mail-room',
  '/help',
  '/help/people',
  '/help/proof',
  '/results',
  '/results/wordings/linksform',
  '/settings',
].map((path) => ({
  path,
  shows: 'h1',
}))

/** Opens the workshop at one place after the other. */
async function* throughPlaces(workshop: Page, box: RunningBox, places: { path: string; shows: string }[]) {
  for (const [at, { path, shows }] of places.entries()) {
    if (at === 0) await workshop.goto(box.workshop + path)
    else await go(workshop, path)
    await workshop.locator(shows).first().waitFor()
    if (path.endsWith('/form')) await picture(workshop).locator('.ProseMirror').first().waitFor()
    yield path
  }
}

test.describe('axe-core finds nothing (WCAG 2.2 A and AA), and at 320 px nothing sticks out', () => {
  for (const { name, places } of [
    { name: 'the form page', places: stations },
    { name: 'the other places', places: otherPlaces },
  ]) {
    test(`workshop, ${name}; the Tab key leads through it from its beginning to its end, in the order in which it stands`, async ({
      paired: workshop,
      box,
    }) => {
      for await (const path of throughPlaces(workshop, box, places)) {
        await workshop.evaluate(beginAtBody)
        expect([path, await violationsOn(workshop)]).toEqual([path, []])
        await tabThrough(workshop, path)
        await workshop.setViewportSize(NARROW)
        await expect.poll(() => sticksOut(workshop), path).toEqual([])
        await workshop.setViewportSize(WIDE)
      }
    })
  }

  test('a rehearsal: at work, its outcome, all that was tried, by hand, its cases, its page; the line that goes anywhere', async ({
    paired: workshop,
    box,
    page,
  }) => {
    const dock = workshop.getByRole('complementary', { name: 'Rehearsal' })
    await workshop.goto(`${box.workshop}/forms/linksform/spot`)
    await workshop.locator('.page-head').getByRole('button', { name: labels.rehearse, exact: true }).click()
    await dock.getByText('1 failed', { exact: true }).waitFor()
    await dock.getByRole('button', { name: labels.close, exact: true }).click()
    await go(workshop, '/forms/schoolsform/spot')
    await workshop.locator('.page-head').getByRole('button', { name: labels.rehearse, exact: true }).click()
    await dock.getByRole('button', { name: 'Stop' }).waitFor()
    expect(await violationsOn(workshop, { within: '.dock, .line' })).toEqual([])
    await dock.getByText('1 passed', { exact: true }).waitFor({ timeout: 180_000 })
    expect(await violationsOn(workshop, { within: '.dock' })).toEqual([])
    await dock.getByRole('button', { name: labels.close, exact: true }).click()
    await workshop.getByRole('button', { name: labels.byHand }).click()
    await workshop.getByRole('button', { name: /^All that was tried/ }).click()
    const saved = workshop.waitForEvent('download')
    await workshop.getByRole('button', { name: 'Save as a page' }).click()
    await workshop.setViewportSize(NARROW)
    await expect.poll(() => sticksOut(workshop)).toEqual([])
    expect(await violationsOn(workshop, { within: '.proof' })).toEqual([])
    await workshop.setViewportSize(WIDE)
    await workshop.getByRole('button', { name: labels.whatIsTried }).click()
    await workshop.getByRole('dialog').waitFor()
    expect(await violationsOn(workshop, { within: '.el-dialog' })).toEqual([])
    await workshop.getByRole('dialog').getByRole('button', { name: labels.keep }).click()
    await workshop.getByRole('dialog').waitFor({ state: 'hidden' })
    await workshop.keyboard.press('Control+k')
    await workshop.keyboard.type('rehearse')
    await workshop.getByRole('option').first().waitFor()
    expect(await violationsOn(workshop, { within: '.el-dialog' })).toEqual([])
    await workshop.keyboard.press('Escape')
    await go(workshop, '/forms/linksform')
    await workshop.getByRole('region', { name: 'Failed at Spot' }).waitFor()
    expect(await violationsOn(workshop, { within: '.failures' })).toEqual([])

    await page.setContent(readFileSync(await (await saved).path(), 'utf8'))
    expect(await violationsOn(page)).toEqual([])
    await page.setViewportSize(NARROW)
    expect(await sticksOut(page)).toEqual([])
  })

  // Nothing but colours is otherwise there, and those come from tokens that all places share.
  test('workshop, in the dark, one of each kind', async ({ paired: workshop, box }) => {
    await workshop.emulateMedia({ colorScheme: 'dark' })
    const kinds = [otherPlaces[0]!, otherPlaces[3]!, stations[0]!, stations[1]!]
    for await (const path of throughPlaces(workshop, box, kinds))
      expect([path, await violationsOn(workshop, { only: ['color-contrast'] })]).toEqual([path, []])
  })

  test('every drawer of the Form station, everything unfolded, at 320 px', async ({ paired: workshop, box }) => {
    await workshop.goto(`${box.workshop}/forms/starchartform/form`)
    await ask(workshop, 'Number')
    await workshop.setViewportSize(NARROW)
    for (const name of ['Shape', 'Words', 'Fields', 'Look', 'Page', 'Checkup'] as const) {
      await drawer(workshop, name)
      await unfold(workshop)
      if (name === 'Fields') await workshop.locator('[data-key=choose-one] .title').click()
      await expect.poll(() => sticksOut(workshop), name).toEqual([])
      expect([name, await violationsOn(workshop, { within: '[role=tabpanel]' })]).toEqual([name, []])
    }
  })

  test('what visitors see, on a phone', async ({ page, box }) => {
    await page.setViewportSize(NARROW)
    await page.goto(`${box.sites}/posts/first-frost`)
    expect(await violationsOn(page)).toEqual([])
    expect(await sticksOut(page)).toEqual([])
    // The answer pages are sandboxed without scripts, so axe looks at their HTML on a page where it can run.
    for (const path of ['/answer/firstfrost/joined', '/answer/schoolvisit/already-on-list', '/answer/nowhere/joined']) {
      await page.setContent(await (await fetch(box.workshop + path)).text())
      expect([path, await violationsOn(page)]).toEqual([path, []])
      expect([path, await sticksOut(page)]).toEqual([path, []])
    }
  })
})

async function tabThrough(workshop: Page, path: string): Promise<void> {
  const count = await workshop.evaluate(numberStops)
  const visited: number[] = []
  for (let press = 0; press < count + 20; press++) {
    await workshop.keyboard.press('Tab')
    const stop = await workshop.evaluate(numberOfFocus)
    // Behind the last one comes the browser itself, and then the page again.
    if (stop === 'none' || stop === visited[0]) break
    // A place that scrolls may be a stop of the browser's own.
    if (stop !== 'other') visited.push(stop)
  }
  const missed = await workshop.evaluate(
    (visited) =>
      (window as unknown as { stops: Element[] }).stops
        .filter((_, at) => !visited.includes(at))
        .map((stop) => stop.outerHTML.slice(0, 200)),
    visited,
  )
  expect([path, missed]).toEqual([path, []])
  expect([path, visited]).toEqual([path, Array.from({ length: count }, (_, at) => at)])
}

/** Lets the next Tab lead to the first stop, as on a page that was just opened. */
function beginAtBody(): void {
  document.body.tabIndex = -1
  document.body.focus()
  document.body.removeAttribute('tabindex')
}

/** Numbers everything that the Tab key should stop at, in the order of the page and the frames in it; says how many. */
function numberStops(): number {
  const stops = (root: Document): HTMLElement[] =>
    [
      ...root.querySelectorAll<HTMLElement>(
        'a[href], button, input, select, textarea, iframe, [tabindex], [contenteditable]',
      ),
    ].flatMap((node) => {
      if (node.tabIndex < 0 || !node.checkVisibility({ visibilityProperty: true }) || node.closest('[inert]')) return []
      if ((node as HTMLButtonElement).disabled || node.getAttribute('contenteditable') === 'false') return []
      const frame = (node as HTMLIFrameElement).contentDocument
      if (frame) return stops(frame)
      const radio = node as HTMLInputElement
      if (radio.type === 'radio') {
        const group = [...root.querySelectorAll<HTMLInputElement>('input[type=radio]')].filter(
          (one) => one.name === radio.name && one.form === radio.form,
        )
        if (radio !== (group.find((one) => one.checked) ?? group[0])) return []
      }
      return [node]
    })
  const all = stops(document)
  Object.assign(window, { stops: all })
  return all.length
}

function numberOfFocus(): number | 'none' | 'other' {
  let active = document.activeElement
  while (active?.tagName === 'IFRAME') active = (active as HTMLIFrameElement).contentDocument!.activeElement
  if (active === null || active === active.ownerDocument.body) return 'none'
  const number = (window as unknown as { stops: Element[] }).stops.indexOf(active)
  return number < 0 ? 'other' : number
}

test('while a longer neighbour is scrolled, picture and controls stay in view', async ({ paired: workshop, box }) => {
  await workshop.goto(`${box.workshop}/forms/clearskyform/form`)
  await drawer(workshop, 'Look')
  await unfold(workshop)
  await workshop.getByRole('button', { name: 'Your own CSS' }).scrollIntoViewIfNeeded()
  await expect(workshop.locator('.form-picture')).toBeInViewport({ ratio: 1 })

  await go(workshop, '/forms/starchartform/form')
  const story = workshop.frameLocator('iframe[title^="The form."]').locator('.askbox-after')
  await story.scrollIntoViewIfNeeded()
  await expect(workshop.locator('.drawer > *').last()).toBeInViewport()
  await story.click()
  await expect(workshop.getByRole('group', { name: 'Format the text in hand' })).toBeInViewport({ ratio: 1 })
})

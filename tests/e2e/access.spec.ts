import type { Page } from '@playwright/test'
import { violationsOn } from './axe'
import { expect, test } from './box'
import { ask, drawer } from './form-station'

/** 1280 px at 400 %: WCAG 2.2, 1.4.10 Reflow. */
const NARROW = { width: 320, height: 640 }
const WIDE = { width: 1280, height: 720 }

const check = (page: Page, scope?: { within: string } | { only: string[] }) =>
  violationsOn(page, { exclude: 'iframe', ...scope })

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

test.describe('axe-core finds nothing (WCAG 2.2 A and AA), and at 320 px nothing sticks out', () => {
  const stations = ['spot', 'form', 'answer', 'mail', 'list'].map((station) => `/forms/schoolsform/${station}`)
  const otherPlaces = ['/', '/new', '/lists', '/lists/schoolvisits', '/sites', '/settings']
  for (const { places, paths } of [
    { places: 'the form page', paths: stations },
    { places: 'the other places', paths: otherPlaces },
  ]) {
    test(`workshop, ${places}`, async ({ workshop, box }) => {
      for (const path of paths) {
        await workshop.setViewportSize(WIDE)
        await workshop.goto(box.workshop + path)
        await workshop.locator('h1').first().waitFor()
        expect([path, await check(workshop)]).toEqual([path, []])
        await workshop.setViewportSize(NARROW)
        await expect.poll(() => sticksOut(workshop), path).toEqual([])
      }
    })
  }

  // Nothing but colours is otherwise there, and those come from tokens that all places share.
  test('workshop, in the dark, one of each kind', async ({ workshop, box }) => {
    await workshop.emulateMedia({ colorScheme: 'dark' })
    for (const path of ['/', '/new', '/lists/schoolvisits', '/settings', stations[0]!, stations[1]!]) {
      await workshop.goto(box.workshop + path)
      await workshop.locator('h1').first().waitFor()
      expect([path, await check(workshop, { only: ['color-contrast'] })]).toEqual([path, []])
    }
  })

  test('every drawer of the Form station, everything unfolded, at 320 px', async ({ workshop, box }) => {
    await workshop.goto(`${box.workshop}/forms/starchartform/form`)
    await ask(workshop, 'Number')
    await workshop.setViewportSize(NARROW)
    for (const name of ['Shape', 'Words', 'Fields', 'Look', 'Page', 'Checkup'] as const) {
      await drawer(workshop, name)
      await unfold(workshop)
      if (name === 'Fields') await workshop.locator('[data-key=choose-one] .title').click()
      await expect.poll(() => sticksOut(workshop), name).toEqual([])
      expect([name, await check(workshop, { within: '[role=tabpanel]' })]).toEqual([name, []])
    }
  })

  test('what visitors see, on a phone', async ({ page, box }) => {
    await page.setViewportSize(NARROW)
    await page.goto(`${box.sites}/posts/first-frost`)
    expect(await check(page)).toEqual([])
    expect(await sticksOut(page)).toEqual([])
    // The answer pages are sandboxed without scripts, so axe looks at their HTML on a page where it can run.
    for (const path of ['/answer/firstfrost/joined', '/answer/schoolvisit/already-on-list', '/answer/nowhere/joined']) {
      await page.setContent(await (await fetch(box.workshop + path)).text())
      expect([path, await check(page)]).toEqual([path, []])
      expect([path, await sticksOut(page)]).toEqual([path, []])
    }
  })
})

test('while a longer neighbour is scrolled, picture and controls stay in view', async ({ workshop, box }) => {
  await workshop.goto(`${box.workshop}/forms/clearskyform/form`)
  await drawer(workshop, 'Look')
  await unfold(workshop)
  await workshop.getByRole('button', { name: 'Your own CSS' }).scrollIntoViewIfNeeded()
  await expect(workshop.locator('.form-picture')).toBeInViewport({ ratio: 1 })

  await workshop.goto(`${box.workshop}/forms/starchartform/form`)
  const story = workshop.frameLocator('iframe[title^="The form."]').locator('.askbox-after')
  await story.scrollIntoViewIfNeeded()
  await expect(workshop.locator('.drawer > *').last()).toBeInViewport()
  await story.click()
  await expect(workshop.getByRole('group', { name: 'Format the text in hand' })).toBeInViewport({ ratio: 1 })
})

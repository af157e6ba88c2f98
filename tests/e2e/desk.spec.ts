import { objectsOf } from '../api'
import { expect, test } from './box'
import { choose, go, labels } from './hands'

test(
  'forms are found and ordered; what is chosen is dressed, paused and archived as one, and each is undone',
  { tag: '@way' },
  async ({ paired: workshop, box }) => {
    await workshop.goto(box.workshop)
    const rows = workshop.getByRole('region', { name: 'Forms and their lines' }).locator('li.form')
    await expect(rows).toHaveCount(9)
    await workshop.getByRole('button', { name: 'Find, order, choose several' }).click()
    await workshop.getByLabel('Find a form, a list or a site').fill('star party')
    await expect(rows).toHaveCount(2)
    await choose(workshop.getByRole('combobox', { name: 'Order' }), 'By name')
    await expect(rows.first()).toContainText('pop-up')
    await workshop.getByRole('button', { name: 'Choose several' }).click()
    await workshop.getByRole('button', { name: 'All that are shown' }).click()
    const chosen = workshop.getByRole('region', { name: 'The chosen forms' })
    await expect(chosen).toContainText('2 forms chosen')
    const undo = workshop.getByRole('alert').getByRole('button', { name: labels.undo })

    const states = async () =>
      (await objectsOf(box, 'spot'))
        .filter(({ key }) => key === 'partysidebar' || key === 'weekendpopup')
        .map(({ body }) => body!.state)
        .join()
    await chosen.getByRole('button', { name: 'Pause' }).click()
    await expect.poll(states).toBe('paused,paused')
    await undo.click()
    await expect.poll(states).toBe('live,live')

    const looks = async () => {
      const forms = (await objectsOf(box, 'form')).filter(({ key }) => key === 'placesform' || key === 'weekendform')
      return forms.map(({ body }) => JSON.stringify([body!.theme, body!.draft.look.colours])).join()
    }
    const before = await looks()
    await choose(chosen.getByRole('combobox', { name: 'Theme for the chosen forms' }), 'Night')
    await expect.poll(async () => (await looks()).match(/nighttheme/g)?.length).toBe(2)
    await undo.click()
    await expect.poll(looks).toBe(before)

    // What is not shown is not touched, though it was chosen.
    await workshop.getByLabel('Find a form, a list or a site').fill('pop-up')
    await expect(chosen).toContainText('1 form chosen')
    await chosen.getByRole('button', { name: 'Archive' }).click()
    await expect(workshop.getByRole('button', { name: 'Archived, 1' })).toBeVisible()
    await undo.click()
    await expect(rows).toHaveCount(1)
  },
)

test('a row is opened for what its signals say; arrow keys go from row to row', async ({ paired: workshop, box }) => {
  await workshop.goto(box.workshop)
  const rows = workshop.getByRole('region', { name: 'Forms and their lines' }).locator('li.form')
  await rows
    .first()
    .getByRole('button', { name: /^More of/ })
    .click()
  await expect(rows.first().locator('dd')).toHaveCount(5)
  await rows.nth(0).getByRole('link').first().focus()
  await workshop.keyboard.press('ArrowDown')
  await expect(rows.nth(1).getByRole('link').first()).toBeFocused()
  await workshop.keyboard.press('End')
  await expect(rows.last().getByRole('link').first()).toBeFocused()
})

test('the line is explained once; folded it stays, and another page begins at its top', async ({
  paired: workshop,
  box,
}) => {
  const explained = workshop.getByText('This is the line of your form:')
  await workshop.goto(`${box.workshop}/forms/clearskyform/form`)
  await expect(explained).toBeVisible()
  const previews = workshop.getByLabel('The line: stations of this form').locator('iframe')
  await expect(previews.first()).toBeVisible()
  await workshop.getByRole('button', { name: /^Understood/ }).click()
  await expect(previews).toHaveCount(0)
  await go(workshop, '/forms/linksform/form')
  await expect(workshop.getByRole('button', { name: 'The line with its previews' })).toBeVisible()
  await expect(explained).toHaveCount(0)
  await go(workshop, '/lists/clearskyalerts')
  await workshop.evaluate(() => scrollTo(0, 400))
  await workshop.getByRole('link', { name: 'Settings', exact: true }).click()
  await expect(workshop.getByRole('heading', { name: 'Settings' })).toBeInViewport()
  expect(await workshop.evaluate(() => scrollY)).toBe(0)
})

test('? opens Help; its pages lead to each other, and Ctrl+K finds them', async ({ paired: workshop, box }) => {
  await workshop.goto(box.workshop)
  await workshop.locator('h1').first().click()
  await workshop.keyboard.press('?')
  await expect(workshop.getByRole('heading', { name: 'Keys' })).toBeVisible()
  await workshop.getByRole('link', { name: 'The first form in five minutes' }).click()
  const picture = workshop.getByRole('article').getByRole('img').first()
  await expect.poll(() => picture.evaluate((image) => (image as HTMLImageElement).naturalWidth)).toBeGreaterThan(0)
  await workshop.getByRole('article').getByRole('link', { name: 'Going online' }).click()
  await expect(workshop).toHaveURL(/\/help\/online$/)
  await expect(workshop.getByRole('heading', { name: 'Going online', level: 1 })).toBeVisible()
  await workshop.keyboard.press('Control+k')
  await workshop.getByLabel('Where to go, or what to do').fill('consent')
  await workshop.getByRole('option', { name: /Lists and rights/ }).click()
  await expect(workshop).toHaveURL(/\/help\/lists$/)
})

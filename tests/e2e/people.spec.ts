import { readFileSync } from 'node:fs'
import { parse } from 'csv-parse/sync'
import { expect, test } from './box'
import { go, labels } from './hands'

test(
  'one person: what is kept is changed, tagged and noted, all of it told in one line of time; off the list and back',
  { tag: '@way' },
  async ({ paired: workshop, box }) => {
    await workshop.goto(`${box.workshop}/lists/membersletter`)
    await workshop.getByRole('link', { name: 'brandt.matteo@school.example' }).click()
    await expect(workshop.getByRole('heading', { level: 1 })).toHaveText('brandt.matteo@school.example')
    const events = workshop.getByRole('region', { name: 'What happened' }).getByRole('listitem')
    await expect(events).toContainText([/Changed by you.*Tagged: brings a telescope, volunteer/s, /Joined.*Through “/s])

    await workshop.getByLabel('First name').fill('Matteo B.')
    await workshop.getByLabel('Tags').fill('school')
    await workshop.getByLabel('Tags').press('Enter')
    await workshop.getByRole('button', { name: labels.save, exact: true }).click()
    await expect(events.first()).toContainText('First name: Matteo → Matteo B.')
    await expect(events.first()).toContainText('Tagged: school')

    await workshop.getByLabel('Write something down').fill('Wants the leaflet.')
    // Without a way to the receiver it is there all the same, and says so.
    await workshop.context().setOffline(true)
    await workshop.getByRole('button', { name: 'Add the note' }).click()
    await expect(events.first()).toContainText(/Your note.*being sent.*Wants the leaflet\./s)
    await workshop.context().setOffline(false)
    await expect(events.first()).not.toContainText('being sent', { timeout: 20_000 })
    await expect(events.first()).toContainText('Wants the leaflet.')

    await workshop.getByRole('button', { name: 'Take off the list' }).click()
    await expect(events.first()).toContainText('Taken off the list by you')
    await workshop.getByRole('button', { name: 'Put back on the list' }).click()
    await expect(events.first()).toContainText('Put back by you')

    // An address of its own, and nobody's where there is nobody.
    const address = new URL(workshop.url()).pathname
    await workshop.reload()
    await expect(events).toHaveCount(6)
    await go(workshop, '/lists')
    await go(workshop, `${address}x`)
    await expect(workshop.getByRole('heading', { name: 'Nothing is at this address' })).toBeVisible()
  },
)

test('columns are made, named, ordered and taken away; one that a form fills stays', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/lists/clearskyalerts`)
  await workshop.getByRole('button', { name: 'Edit name, words and columns' }).click()
  const columns = workshop.getByRole('region', { name: 'Columns' })
  const names = () =>
    columns
      .getByRole('textbox', { name: /^Name of the column/ })
      .evaluateAll((all) => all.map((one) => (one as HTMLInputElement).value))
  await expect(columns.getByRole('listitem')).toHaveCount(2)
  await expect(columns.getByRole('button', { name: 'Take the column First name away' })).toBeDisabled()

  await columns.getByLabel('Name of a new column').fill('Größe des Fernrohrs')
  await columns.getByRole('button', { name: labels.addIt }).click()
  await expect(columns.getByText('gro-e-des-fernrohrs')).toBeVisible()
  await columns.getByRole('button', { name: 'Move Größe des Fernrohrs up' }).click()
  await expect.poll(names).toEqual(['First name', 'Größe des Fernrohrs', 'Watches from'])
  await columns.getByLabel('Name of the column Größe des Fernrohrs').fill('Telescope')
  await columns.getByLabel('Name of the column Größe des Fernrohrs').press('Enter')
  await expect(workshop.getByRole('columnheader', { name: 'Telescope' })).toBeVisible()

  await columns.getByRole('button', { name: 'Take the column Telescope away' }).click()
  await expect.poll(names).toEqual(['First name', 'Watches from'])
  await workshop.getByRole('button', { name: labels.undo, exact: true }).click()
  await expect.poll(names).toEqual(['First name', 'Telescope', 'Watches from'])
})

test('who is looked for is saved as a table, with the columns that are chosen', async ({ paired: workshop, box }) => {
  await workshop.goto(`${box.workshop}/lists/membersletter`)
  await workshop.getByPlaceholder('Find an address').fill('brandt')
  await expect(workshop.getByRole('status').filter({ hasText: 'people' })).toHaveText(/^\d people$/)
  await workshop.getByRole('button', { name: 'Save as a file' }).click()
  const dialog = workshop.getByRole('dialog', { name: /^Save \d people as a file$/ })
  await dialog.getByRole('checkbox', { name: 'Page' }).uncheck()
  const download = workshop.waitForEvent('download')
  await dialog.getByRole('button', { name: 'Save the file' }).click()
  const file = await download
  expect(file.suggestedFilename()).toMatch(/^Members letter \d{4}-\d\d-\d\d\.csv$/)
  const [head, ...rows] = parse(readFileSync(await file.path()), { bom: true }) as string[][]
  expect(head).toEqual(['Email', 'First name', 'Status', 'Tags', 'Joined at', 'Spot'])
  expect(rows.every(([email]) => email!.includes('brandt'))).toBe(true)
  expect(rows.find(([email]) => email === 'brandt.matteo@school.example')).toMatchObject({
    1: 'Matteo',
    2: 'on the list',
    3: 'brings a telescope, volunteer',
  })
})

test.describe('with a mailbox', () => {
  test.use({ withMailbox: true })

  test('a person’s mails stand among what happened, with what the server said', async ({ paired: workshop, box }) => {
    const body = 'email=wren.letters@post.example'
    const headers = { 'Content-Type': 'application/x-www-form-urlencoded', Accept: 'application/json' }
    expect((await fetch(`${box.workshop}/join/opennights`, { method: 'POST', headers, body })).status).toBe(200)
    await workshop.goto(`${box.workshop}/lists/clearskyalerts`)
    await workshop.getByRole('link', { name: 'wren.letters@post.example' }).click()
    const events = workshop.getByRole('region', { name: 'What happened' }).getByRole('listitem')
    await expect(events.filter({ hasText: 'Mail “Welcome” sent' })).toContainText('The server said: “250')
    await expect(events.filter({ hasText: 'Joined' })).toContainText('Through “')
  })
})

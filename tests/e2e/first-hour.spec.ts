import { readdirSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import type { Page } from '@playwright/test'
import { violationsOn } from './axe'
import { expect, test } from './box'
import { countPresses, go, labels } from './hands'
import { drawer } from './form-station'

const PICTURE = { name: 'dome.png', mimeType: 'image/png', buffer: onePixel() }

const press = (workshop: Page, name: string | RegExp) => workshop.getByRole('button', { name }).first().click()
/** What is chosen next has the same words on the Desk. */
async function openNewForm(workshop: Page): Promise<void> {
  await press(workshop, 'New form')
  await expect(workshop.getByRole('button', { name: labels.makeTheForm })).toBeVisible()
}
const choose = (workshop: Page, name: string) => workshop.getByText(name, { exact: true }).first().click()
/** Types where the focus is: a hand that presses “A new list” goes on to name it. */
const type = (workshop: Page, text: string) => workshop.keyboard.insertText(text)
/** A hand presses the place for a file, and then the file in the system's own window. */
async function chooseFile(workshop: Page, place: RegExp, file: typeof PICTURE): Promise<number> {
  const [chooser] = await Promise.all([
    workshop.waitForEvent('filechooser'),
    workshop.locator('.el-upload').filter({ hasText: place }).first().click(),
  ])
  await chooser.setFiles(file)
  return 1
}
async function newForm(workshop: Page, list: string, site: string): Promise<void> {
  await openNewForm(workshop)
  await choose(workshop, 'A new list')
  await expect(workshop.getByLabel('Name of the list')).toBeFocused()
  await type(workshop, list)
  await choose(workshop, site)
}

test.describe('the first hour, in presses', () => {
  test(
    'a form for a new list on a pretend site, with its code on the page: at most 10',
    { tag: '@way' },
    async ({ workshop, page }) => {
      const presses = await countPresses(workshop)
      await newForm(workshop, 'Night-walk dates', 'Volunteers’ blog')
      await press(workshop, 'Make the form')
      await press(workshop, /^Publish (version 1|with)/)
      // The line that all scripts share stands on the site already, and is not asked for.
      await expect(workshop.getByText('The shared line stands on the site already')).toBeVisible()
      await press(workshop, 'Paste it for me')
      const link = workshop.getByRole('link', { name: 'See the page' })
      await expect(link).toBeVisible()
      const address = (await link.getAttribute('href'))!
      const [seen] = await Promise.all([workshop.waitForEvent('popup'), link.click()])
      await seen.close()
      expect(await presses()).toBeLessThanOrEqual(10)
      await page.goto(address)
      await expect(page.getByRole('heading', { name: 'Night-walk dates' })).toBeVisible()
      // The page is known from now on.
      await expect(workshop.getByLabel('Address of the page it sits on')).toHaveValue(address)
    },
  )

  test('a pop-up with a picture: at most 14, and it starts and is drawn as one', async ({ workshop }) => {
    const presses = await countPresses(workshop)
    await newForm(workshop, 'Weekend skies', 'Star party')
    await choose(workshop, 'Pop-up')
    await expect(workshop.getByText('When the pop-up appears')).toBeVisible()
    await press(workshop, 'Make the form')
    await expect(workshop.frameLocator('iframe[title^="The form."]').locator('.over .close')).toBeVisible()
    const more = await chooseFile(workshop, /Picture/, PICTURE)
    await expect(workshop.frameLocator('iframe[title^="The form."]').locator('.over picture')).toBeVisible()
    await workshop.getByLabel('It only decorates').first().click()
    await press(workshop, /^Publish (version 1|with)/)
    await press(workshop, 'Paste it for me')
    await expect(workshop.getByText(/^Pasted: /)).toBeVisible()
    expect((await presses()) + more).toBeLessThanOrEqual(14)
  })

  test('a footer with three fields: at most 11, in one row, each with its label', async ({ workshop }) => {
    const presses = await countPresses(workshop)
    await openNewForm(workshop)
    await choose(workshop, 'Members’ letter')
    await choose(workshop, 'Footer')
    await press(workshop, 'Make the form')
    await drawer(workshop, 'Fields')
    const more = workshop.getByLabel('Ask one thing more')
    await more.getByRole('button', { name: 'First name', exact: true }).click()
    await more.getByRole('button', { name: 'Last name', exact: true }).click()
    await press(workshop, /^Publish (version 1|with)/)
    await press(workshop, 'Copy the code')
    await expect(workshop.getByText('Version 1 is published.')).toBeVisible()
    expect(await presses()).toBeLessThanOrEqual(11)
    await workshop.getByLabel('The line').getByRole('link', { name: 'Form' }).click()
    const form = workshop.frameLocator('iframe[title^="The form."]')
    const tops = await form
      .locator('.askbox-input')
      .evaluateAll((all) => all.map((one) => one.getBoundingClientRect().top))
    expect(new Set(tops.map(Math.round)).size).toBe(1)
    await expect(form.locator('.askbox-label')).toHaveCount(3)
  })

  test('a landing page with a picture and an after-page: at most 10', async ({ workshop, box, page }) => {
    const presses = await countPresses(workshop)
    await openNewForm(workshop)
    await choose(workshop, 'Members’ letter')
    // Of the site that was used last, which is chosen already.
    await choose(workshop, 'Landing page')
    await press(workshop, 'Make the form')
    const more = await chooseFile(workshop, /Picture/, PICTURE)
    await workshop.getByLabel('It only decorates').first().click()
    await workshop.getByLabel('The line').getByRole('link', { name: 'Answer' }).click()
    await choose(workshop, 'A page of your own')
    await type(workshop, `${box.sites}/posts/first-frost`)
    await press(workshop, /^Publish (version 1|with)/)
    await expect(workshop.getByText('Version 1 is published.')).toBeVisible()
    expect((await presses()) + more).toBeLessThanOrEqual(10)
    await page.goto(
      (await workshop
        .getByRole('link', { name: /\/page\// })
        .first()
        .getAttribute('href'))!,
    )
    await page.getByLabel('Email').fill('wren@post.example')
    await page.getByRole('button', { name: 'Send me the letter' }).click()
    await expect(page).toHaveURL(`${box.sites}/posts/first-frost`)
  })

  test('a list with confirmation and a gift: at most 12', async ({ workshop }) => {
    const presses = await countPresses(workshop)
    await newForm(workshop, 'Chart lovers', 'Observatory site')
    await press(workshop, 'Make the form')
    await workshop.getByLabel('The line').getByRole('link', { name: 'Mail' }).click()
    await choose(workshop, 'Everybody')
    await press(workshop, /^Gift/)
    const chart = { ...PICTURE, name: 'chart.png' }
    const more = await chooseFile(workshop, /Choose a file/, chart)
    await expect(workshop.getByText('chart.png')).toBeVisible()
    await press(workshop, /^Sender and addresses/)
    await workshop.getByRole('textbox', { name: 'Address', exact: true }).click()
    await type(workshop, 'letters@hill.example')
    await press(workshop, /^Publish (version 1|with)/)
    await expect(workshop.getByText('Version 1 is published.')).toBeVisible()
    expect((await presses()) + more).toBeLessThanOrEqual(12)
  })
})

test('a field makes its column, named alike; undo takes both back, and what somebody may have filled stays', async ({
  workshop,
}) => {
  await newForm(workshop, 'Column makers', 'Volunteers’ blog')
  await press(workshop, 'Make the form')
  await drawer(workshop, 'Fields')
  const columns = () => storedColumns(workshop, 'Column makers')
  for (const [kind, key, label] of [
    ['Full name', 'full-name', 'Name'],
    ['Telephone', 'phone', 'Telephone'],
    ['Birthday', 'birthday', 'Birthday'],
    ['One line of text', 'your-answer', 'Your answer'],
  ] as const) {
    await press(workshop, kind)
    await expect.poll(columns).toContainEqual({ key, label })
  }
  await workshop.getByLabel('Label', { exact: true }).fill('Your telescope')
  await expect.poll(columns).toContainEqual({ key: 'your-answer', label: 'Your telescope' })
  await press(workshop, 'Undo')
  await expect.poll(columns).toContainEqual({ key: 'your-answer', label: 'Your answer' })
  await press(workshop, 'Undo')
  await expect
    .poll(async () => (await columns()).map(({ key }) => key))
    .toEqual(['first-name', 'full-name', 'phone', 'birthday'])
  await press(workshop, /^Publish (version 1|with)/)
  await expect(workshop.getByText('Version 1 is published.')).toBeVisible()
  await workshop.getByLabel('The line').getByRole('link', { name: 'Form' }).click()
  await press(workshop, 'Undo')
  await expect(workshop.getByRole('button', { name: /^Publish (version 2|with)/ })).toBeVisible()
  expect((await columns()).map(({ key }) => key)).toContain('birthday')
})

test('an after-page that nobody gets to is told, and shown after confirming by one press', async ({ workshop }) => {
  await newForm(workshop, 'Confirmers', 'Volunteers’ blog')
  await press(workshop, 'Make the form')
  await workshop.getByLabel('The line').getByRole('link', { name: 'Answer' }).click()
  await choose(workshop, 'A page of your own')
  await type(workshop, 'https://hill.example/thanks')
  await workshop.getByLabel('The line').getByRole('link', { name: 'Mail' }).click()
  await choose(workshop, 'Everybody')
  await workshop.getByLabel('The line').getByRole('link', { name: 'Answer' }).click()
  await expect(workshop.getByText(/Nobody gets to your page “hill\.example\/thanks”/).first()).toBeVisible()
  await expect(
    workshop.getByText(/After the button, visitors read “Look in your inbox”; after the press/),
  ).toBeVisible()
  await press(workshop, 'Show it after confirming')
  await expect(workshop.getByText(/Nobody gets to your page/)).toHaveCount(0)
  await press(workshop, /^(Your own page.*)?Confirmed/)
  await expect(workshop.getByLabel('Address of the page')).toHaveValue('https://hill.example/thanks')
  // The same page may stand for “look in your inbox” as well.
  await workshop.locator('.also').getByRole('button', { name: 'Look in your inbox' }).click()
  await press(workshop, /Look in your inbox/)
  await expect(workshop.getByLabel('Address of the page')).toHaveValue('https://hill.example/thanks')
})

test('what a site cannot take is not offered: no pop-up without a place in the head, and what works there instead', async ({
  workshop,
}) => {
  await openNewForm(workshop)
  await choose(workshop, 'Quarry Café')
  await expect(workshop.getByRole('radio', { name: 'Pop-up' })).toHaveCount(0)
  await expect(workshop.getByText(/this kind of site has no place for that/)).toBeVisible()
  await expect(workshop.getByText(/a link to the form’s own page/)).toBeVisible()
  // Chosen first, it is refused with the ways, and does not come to be.
  await choose(workshop, 'Volunteers’ blog')
  await choose(workshop, 'Pop-up')
  await choose(workshop, 'Quarry Café')
  await choose(workshop, 'Members’ letter')
  await press(workshop, 'Make the form')
  await expect(workshop).toHaveURL(/\/new$/)
  await press(workshop, 'A landing page to link to')
  await press(workshop, 'Make the form')
  await expect(workshop.getByRole('textbox', { name: 'Name of the form' })).toHaveValue(/landing page/)
})

test('a real site: its colours are read, what it needs is said at once; tried on a pretend site, it moves by one press', async ({
  workshop,
  box,
}) => {
  await openNewForm(workshop)
  await choose(workshop, 'A new list')
  await type(workshop, 'Café letter')
  await choose(workshop, 'A new site')
  await type(workshop, 'My café')
  const address = workshop.getByRole('textbox', { name: 'Address', exact: true })
  await address.fill(`${box.sites}/observatory`)
  await address.blur()
  await expect(workshop.getByText('read from 127.0.0.1')).toBeVisible()
  await expect(workshop.getByText('In the site’s colours, with sample words.')).toBeVisible()
  await address.fill('https://cafe.example')
  await address.blur()
  await expect(workshop.getByText(/Visitors of cafe\.example do not reach Ask Box:/)).toBeVisible()
  await expect(workshop.getByText('In quiet colours of ours until the site’s are known')).toBeVisible()
  await press(workshop, 'How Ask Box goes online')
  await expect(workshop.getByLabel('The three commands')).toContainText('install.sh')
  await choose(workshop, 'Try it on a pretend site now')
  await press(workshop, 'Make the form')
  await press(workshop, /^Publish (version 1|with)/)
  await expect(workshop.getByText('It is tried here, and meant for')).toBeVisible()
  await press(workshop, 'Move it to My café')
  await expect(workshop.getByRole('heading', { name: 'My café inline · not reached by visitors' })).toBeVisible()
  // It is kept and published; its code waits, and names no address of this computer.
  await expect(workshop.getByText('All that you make is kept, and waits until they reach it.')).toBeVisible()
  await expect(workshop.getByLabel('The code', { exact: true })).toHaveCount(0)
})

test('the demo can be looked round in an own place, and left by one press', async ({ workshop, box, browser }) => {
  await go(workshop, '/lists')
  const context = await browser.newContext()
  const page = await context.newPage()
  // Another browser, with nothing of its own yet: the demo's tab shows made-up things, and sends nothing.
  await page.addInitScript(() => sessionStorage.setItem('askbox-demo', 'yes'))
  const sent: string[] = []
  page.on('request', (request) => request.url().includes('/api/') && sent.push(request.url()))
  await page.goto(box.workshop)
  await expect(page.getByText('You are looking round in the demo.')).toBeVisible()
  await expect(page.getByText('Observatory site, landing page: Star chart')).toBeVisible()
  await page.getByRole('button', { name: labels.newForm }).click()
  await page.getByRole('radio', { name: 'Members’ letter' }).check()
  await page.getByRole('radio', { name: 'Volunteers’ blog' }).check()
  await page.getByRole('button', { name: labels.makeTheForm }).click()
  await expect(page.getByLabel('Name of the form')).toBeVisible()
  expect(sent).toEqual([])
  expect(await violationsOn(page)).toEqual([])
  await page.getByRole('button', { name: 'Leave the demo' }).click()
  await context.close()
})

test('an example that is cut off in its field is found; ours fits at every width of its spot', async ({ workshop }) => {
  await newForm(workshop, 'Examples', 'Volunteers’ blog')
  await press(workshop, 'Make the form')
  await drawer(workshop, 'Checkup')
  await expect(workshop.getByText(/Nothing found\./)).toBeVisible()
  const example = workshop.frameLocator('iframe[title^="The form."]').locator('input[name=email]')
  await example.fill('The address that you really read each morning, and not the one for shops')
  await example.blur()
  await expect(workshop.getByText(/The example in a field does not fit at \d+ px/).first()).toBeVisible()
})

test('backups are made by themselves, by one press too, and read through; where alerts go is set on screen', async ({
  workshop,
  box,
}) => {
  await go(workshop, '/settings')
  await expect(workshop.getByLabel('A copy of everything, every day')).toBeChecked()
  await press(workshop, 'Make one now')
  await expect(workshop.getByText(/it was read back, and nothing is missing/)).toBeVisible()
  expect(readdirSync(join(box.folder, 'backups'))).toHaveLength(1)
  const address = workshop.getByLabel('Your address')
  await address.fill('nobody')
  await address.blur()
  await expect(workshop.getByText('This is no email address.')).toBeVisible()
  await address.fill('owner@hill.example')
  await address.blur()
  await expect.poll(() => readFileSync(join(box.folder, 'care.json'), 'utf8')).toContain('owner@hill.example')
})

async function storedColumns(workshop: Page, name: string): Promise<{ key: string; label: string }[]> {
  return workshop.evaluate(async (name) => {
    const database = await new Promise<IDBDatabase>((done) => {
      const asked = indexedDB.open('ask-box')
      asked.onsuccess = () => done(asked.result)
    })
    const lists = await new Promise<{ name: string; columns: { key: string; label: string }[] }[]>((done) => {
      const asked = database.transaction('lists').objectStore('lists').getAll()
      asked.onsuccess = () => done(asked.result as never)
    })
    database.close()
    return lists.find((list) => list.name === name)?.columns ?? []
  }, name)
}

function onePixel(): Buffer {
  return readFileSync(resolve(import.meta.dirname, '../../docs/screenshots/desk.png'))
}

import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { expect, type Page, test } from '@playwright/test'
import { type RunningBox, startBox } from '../programs'
import { type DocumentedService, documentedServices } from '../service-ground'
import { violationsOn } from './axe'
import { countPresses, labels } from './hands'
import { seed } from '../seed'

/*
 * Services that are told of by their help pages alone are connected on screen: what the page shows is pasted, the key is tried,
 * and a made-up person goes there and back.
 */
// One after the other, with one Ask Box: starting one takes longer than most of them.
test.describe.configure({ mode: 'default' })
let box: RunningBox
let workshop: Page

test.beforeAll(async ({ browser }) => {
  box = await startBox({ withService: true })
  const context = await browser.newContext({ serviceWorkers: 'block' })
  workshop = await context.newPage()
  await workshop.goto(box.pairing)
  await expect(workshop.getByText('all saved')).toBeVisible()
})
test.afterAll(async () => {
  await workshop.context().close()
  await box.stop()
})

const serviceAt = (path: string): DocumentedService => documentedServices.find((one) => one.path === path)!
const shownBy = async ({ path, description }: DocumentedService) =>
  (await fetch(`${box.service}/${path}/${description === undefined ? 'help' : 'openapi.yaml'}`)).text()

/** From a list to what the service's help page shows. */
async function openMaking(list: string): Promise<void> {
  await workshop.goto(`${box.workshop}/lists/${list}?view=onward`)
  await workshop.getByRole('button', { name: labels.handOn }).click()
  await expect(workshop.getByRole('heading', { name: 'Where to' })).toBeVisible()
  await workshop.getByText('A new one').click()
  await workshop.getByRole('combobox', { name: 'Service' }).click()
  await workshop.getByRole('option', { name: /Another/ }).click()
}
async function show(text: string): Promise<void> {
  await workshop.getByLabel('What the service’s help page shows').fill(text)
  await workshop.getByRole('button', { name: 'Read it' }).click()
}
async function tryKey(parts: readonly string[]): Promise<void> {
  const inputs = workshop.locator('form.key input[type=password]')
  await expect(inputs).toHaveCount(parts.length)
  for (const [at, part] of parts.entries()) await inputs.nth(at).fill(part)
  await workshop.getByRole('button', { name: labels.tryTheKey }).click()
}
const theirList = (name: string) => workshop.locator('label').filter({ hasText: name })
const step = (name: string) => workshop.getByRole('listitem').filter({ hasText: name })
async function sendMadeUp(): Promise<void> {
  await workshop.getByRole('button', { name: labels.sendMadeUp }).click()
  await expect(workshop.getByText('There, with the right values.')).toBeVisible()
  await expect(workshop.getByText('Taken off again', { exact: true })).toBeVisible()
}

/** Whom a service holds. */
const heldBy = async ({ path }: DocumentedService) =>
  ((await (await fetch(`${box.service}/${path}/held`)).json()) as { email: string }[]).map(({ email }) => email)

// On screen one of them; each is connected from its page in `core/example` and handed over to in `receiver/hand-over`.
for (const service of documentedServices.filter((_, at) => at === seed % documentedServices.length))
  test(`${service.name} is connected from what its help page shows`, async () => {
    await openMaking('membersletter')
    await show(await shownBy(service))
    await tryKey(service.key)
    await expect(workshop.getByText(/^The key works: it opens “Cloudberry Hill at /)).toBeVisible()
    // All of its lists, on however many pages.
    for (const { name } of service.shelf.lists) await expect(theirList(name)).toBeVisible()
    await theirList(service.shelf.lists[0]!.name).click()
    await sendMadeUp()
    // Nobody who was made up stays on a real list.
    expect(await heldBy(service)).toEqual([])
  })

test('the sixth in at most twelve presses, from the list to handing on', async () => {
  await workshop.goto(`${box.workshop}/lists/schoolvisits?view=onward`)
  const presses = await countPresses(workshop)
  const service = serviceAt('foghorn')
  await workshop.getByRole('button', { name: labels.handOn }).click()
  await workshop.getByText('A new one').click()
  await workshop.getByRole('combobox', { name: 'Service' }).click()
  await workshop.getByRole('option', { name: /Another/ }).click()
  await show(await shownBy(service))
  await tryKey(service.key)
  await theirList('Keepers').click()
  await sendMadeUp()
  expect(await violationsOn(workshop)).toEqual([])
  await workshop.getByRole('button', { name: labels.handOn }).click()
  await expect(workshop.getByRole('heading', { name: 'Keepers' })).toBeVisible()
  expect(await presses()).toBeLessThanOrEqual(12)
  // Who is on the list already is forecast.
  await expect(workshop.getByText(/ready (?:today|tomorrow) \d\d:\d\d/)).toBeVisible()
})

test(
  'from pasted examples: somebody who signs up is handed over, found there, and taken off when they leave',
  { tag: '@way' },
  async () => {
    const service = serviceAt('marsh')
    const examples = (await shownBy(service)).split('\n\n').filter((part) => part.includes('curl'))
    await openMaking('membersletter')
    await show(examples.filter((part) => /bulletins"|bulletins\?|readers/.test(part)).join('\n\n'))
    await tryKey(service.key)
    await theirList('Tide tables').click()
    await sendMadeUp()
    await workshop.getByRole('button', { name: labels.handOn }).click()
    await expect(workshop.getByRole('heading', { name: 'Tide tables' })).toBeVisible()

    const email = 'ada@visitor.example'
    const reader = async () => {
      const hash = createHash('md5').update(email).digest('hex')
      const response = await fetch(`${box.service}/marsh/1/bulletins/b57/readers/${hash}`, {
        headers: { Authorization: `Basic ${Buffer.from(`gazette:${service.key[0]!}`).toString('base64')}` },
      })
      return response.ok ? ((await response.json()) as { reader: { address: string } }).reader.address : response.status
    }
    const joined = await fetch(`${box.workshop}/join/firstfrost`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ email, 'first-name': 'Ada' }),
    })
    expect(joined.status).toBe(200)
    await expect.poll(reader).toBe(email)
    // Taken off the list here, they are taken off there.
    await workshop.goto(`${box.workshop}/lists/membersletter`)
    await workshop.getByRole('button', { name: `Remove ${email} from the list` }).click()
    await expect.poll(reader).toBe(404)
  },
)

test('a wrong guess is corrected by a press in the pasted text, for all examples at once', async () => {
  const service = serviceAt('salt')
  await openMaking('membersletter')
  await show((await shownBy(service)).replaceAll(':list_id', 'harbour'))
  await tryKey(service.key)
  await workshop.getByRole('button', { name: 'See the examples, and correct them' }).click()
  const examples = workshop.getByRole('group', { name: /What was read/ })
  await expect(examples.getByRole('button', { name: /^harbour\s+the list$/ })).toHaveCount(0)
  await examples.getByRole('button', { name: 'harbour', exact: true }).first().click()
  await workshop.getByRole('combobox', { name: /What is “harbour”/ }).click()
  await workshop.getByRole('option', { name: 'the list', exact: true }).click()
  await expect(examples.getByRole('button', { name: /^harbour\s+the list$/ })).toHaveCount(5)
  expect(await violationsOn(workshop)).toEqual([])
  await workshop.getByRole('button', { name: labels.tryTheKey }).click()
  await theirList('Salt pans').click()
  await sendMadeUp()
})

test('what an answer holds is pressed where it was not found', async () => {
  const service = serviceAt('copper')
  await openMaking('membersletter')
  await show(await shownBy(service))
  await tryKey(service.key)
  await expect(step('Which lists are there')).toContainText('Shop news')
  await workshop.getByRole('button', { name: 'What came: Which lists are there' }).click()
  const came = workshop.getByRole('group', { name: /What came/ })
  await came.getByRole('button', { name: /"Shop news"/ }).click()
  await workshop.getByRole('combobox', { name: 'What is that?' }).click()
  await workshop.getByRole('option', { name: 'the list’s number' }).click()
  await expect(came.getByRole('button', { name: /^"Shop news"\s+the list’s number$/ })).toBeVisible()
  await workshop.getByRole('button', { name: labels.tryTheKey }).click()
  await expect(came.getByRole('button', { name: /^"Workshop days"\s+the list’s number$/ })).toBeVisible()
})

test('a missing step says what it costs; what is made is saved as a file that others open', async () => {
  const service = serviceAt('salt')
  const text = await shownBy(service)
  await openMaking('membersletter')
  await show(text.slice(0, text.indexOf('GET', text.indexOf('/batch'))))
  await expect(step('Look somebody up')).toContainText('handed over, and not seen')
  await expect(step('Take somebody off')).toContainText('stays on there')
  await tryKey(service.key)
  await theirList('Salt pans').click()
  await workshop.getByRole('button', { name: labels.sendMadeUp }).click()
  await expect(workshop.getByText('Went there')).toBeVisible()
  const [download] = await Promise.all([
    workshop.waitForEvent('download'),
    workshop.getByRole('button', { name: 'Save the service file' }).click(),
  ])
  const file = readFileSync((await download.path())!, 'utf8')
  expect(file).not.toContain(service.key[0])
  await openMaking('membersletter')
  await show(file)
  await expect(workshop.getByText(/^The service file of “.*” is opened\.$/)).toBeVisible()
  await tryKey(service.key)
  await expect(theirList('Salt pans')).toBeVisible()
})

test.describe('what cannot be read', () => {
  for (const [what, text, says] of [
    ['a page', '<!doctype html><script>document.title = "ran"</script>', /No example request/],
    ['an older description', 'swagger: "2.0"\npaths: {}', /older kind/],
    [
      'a file that grows',
      `openapi: 3.0.0\na: &a [x,x,x,x,x,x,x,x,x]\nb: &b [*a,*a,*a,*a,*a,*a,*a,*a,*a]\nc: &c [*b,*b,*b,*b,*b,*b,*b,*b,*b]\nd: &d [*c,*c,*c,*c,*c,*c,*c,*c,*c]\ne: [*d,*d,*d,*d]`,
      /cannot be read as YAML/,
    ],
    ['an address inside', 'http://169.254.169.254/openapi.json', /public|network/i],
  ] as const)
    test(`${what} says why`, async () => {
      await openMaking('membersletter')
      await show(text)
      await expect(workshop.getByRole('alert').filter({ hasText: says })).toBeVisible()
    })
})

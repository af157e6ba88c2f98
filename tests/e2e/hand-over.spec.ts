import { expect, type Page, test } from '@playwright/test'
import { type RunningBox, startBox } from '../programs'
import { violationsOn } from './axe'
import { clearCache, saveInEditor } from './stand-ins'
import { labels } from './hands'

// One Ask Box with the pretend services for all of them: each test takes up what the one before left.
test.describe.configure({ mode: 'serial' })
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

const pressAt = async (page: Page, service: string, name: string) => {
  await page.goto(`${box.service}/`)
  const summary = page.locator(`#${service} summary`)
  if (await summary.isVisible()) await summary.click()
  await page.locator(`#${service}`).getByRole('button', { name, exact: true }).click()
}
const rowAt = (page: Page, service: string, email: string) => page.locator(`#${service} tr`, { hasText: email })
const spotOf = { 'School visits': 'schoolvisit', 'Members’ letter': 'firstfrost' }

async function signUp(spot: string, email: string, more: Record<string, string> = {}): Promise<void> {
  const response = await fetch(`${box.workshop}/join/${spot}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email, ...more }),
  })
  expect(response.status).toBe(200)
}

test(
  'a key is tried wrong and right, a list chosen, fields matched; a visitor signs up and is seen at the service',
  { tag: '@way' },
  async ({ page }) => {
    await workshop.goto(`${box.workshop}/lists/membersletter`)
    await workshop.getByRole('tab', { name: 'Where it is handed on' }).click()
    await workshop.getByRole('button', { name: labels.handOn }).click()
    await workshop.getByText('A new one').click()
    await workshop.getByRole('combobox', { name: 'Service' }).click()
    await workshop.getByRole('option', { name: /Tin Kettle/ }).click()
    await workshop.getByLabel('Account number').fill('7045')
    await workshop.getByLabel('Secret word').fill('not this one')
    await workshop.getByRole('button', { name: labels.tryTheKey }).click()
    await expect(workshop.getByRole('alert')).toContainText('The key is wrong')
    await workshop.getByLabel('Secret word').fill('kettle-demo-word')
    await workshop.getByRole('button', { name: labels.tryTheKey }).click()
    await expect(workshop.getByText('it opens “Cloudberry Hill at Tin Kettle”')).toBeVisible()
    await workshop.getByText('Night owls').click()
    await expect(workshop.getByRole('combobox', { name: 'Where First name goes' })).toHaveAccessibleDescription(
      'Given name (Q1)',
    )
    expect(await violationsOn(workshop)).toEqual([])
    await workshop.getByRole('button', { name: labels.sendMadeUp }).click()
    await expect(workshop.getByText('There, with the right values.')).toBeVisible()
    await workshop.getByRole('button', { name: labels.handOn }).click()
    await expect(workshop.getByRole('heading', { name: 'Night owls' })).toBeVisible()

    await signUp(spotOf['Members’ letter'], 'ada@visitor.example', { 'first-name': 'Ada' })
    await expect(async () => {
      await page.goto(`${box.service}/`)
      await expect(rowAt(page, 'kettle', 'ada@visitor.example')).toContainText('Q1: Ada', { timeout: 1_000 })
    }).toPass()
    // Who is on the list already goes there after it was seen who that is.
    await workshop.getByRole('button', { name: labels.compareNow }).click()
    await workshop.getByRole('button', { name: /^Hand over \d+ people$/ }).click()
    await expect(workshop.getByText(/go there now/)).toBeVisible()
    await workshop.getByRole('button', { name: labels.compareNow }).click()
    await expect(async () => {
      await workshop.getByRole('button', { name: 'Compare again' }).click()
      await expect(workshop.getByText('are the same at both ends')).toBeVisible({ timeout: 2_000 })
      await expect(workshop.getByRole('tab', { name: /Only here/ })).toHaveCount(0, { timeout: 500 })
    }).toPass()
    expect(await violationsOn(workshop)).toEqual([])
  },
)

test('a service that is down loses nobody, and says so; once it is back, they arrive', async ({ page }) => {
  await pressAt(page, 'lantern', 'It is down')
  for (const name of ['bea', 'cleo', 'dora', 'edna'])
    await signUp(spotOf['School visits'], `${name}@visitor.example`, { 'first-name': name })
  await workshop.goto(`${box.workshop}/lists/schoolvisits/onward/schoolshandedon`)
  await expect(workshop.getByText(/The service does not answer\..* Nobody is lost/)).toBeVisible({ timeout: 60_000 })
  await pressAt(page, 'lantern', 'End: It is down')
  await workshop.getByRole('button', { name: 'Try again now' }).click()
  await expect(async () => {
    await page.goto(`${box.service}/`)
    await expect(rowAt(page, 'lantern', 'edna@visitor.example')).toHaveCount(1, { timeout: 1_000 })
  }).toPass()
  // Each person's page tells it too.
  await workshop.goto(`${box.workshop}/lists/schoolvisits`)
  await workshop.getByRole('link', { name: 'edna@visitor.example' }).click()
  await expect(workshop.getByText('is there', { exact: true })).toBeVisible()
})

test('a field that was renamed there is noticed, and matched anew by one press', async ({ page }) => {
  await pressAt(page, 'lantern', 'The first field of each list has another key')
  await signUp(spotOf['School visits'], 'fay@visitor.example', { 'first-name': 'Fay' })
  await workshop.goto(`${box.workshop}/`)
  await expect(workshop.getByRole('link', { name: 'School visits is handed on to Observatory news' })).toBeVisible()
  await workshop.getByRole('link', { name: 'School visits is handed on to Observatory news' }).click()
  await expect(workshop.getByRole('cell', { name: 'There is no field FIRST.' })).toBeVisible()
  await expect(workshop.getByText('not there any more', { exact: true })).toBeVisible()
  await workshop.getByRole('button', { name: 'Match them anew' }).click()
  await expect(workshop.getByText('First name (new)')).toBeVisible()
  await expect(async () => {
    await page.goto(`${box.service}/`)
    await expect(rowAt(page, 'lantern', 'fay@visitor.example')).toContainText('FIRST2: Fay', { timeout: 1_000 })
  }).toPass()
})

test('a service that takes what it does not know without a word is looked at, and the Desk says what changed', async ({
  page,
}) => {
  await pressAt(page, 'kettle', 'The first field of each list has another key')
  await workshop.goto(`${box.workshop}/`)
  const need = workshop.getByRole('link', { name: 'Members’ letter is handed on to Night owls' })
  // The receiver looks by itself; the Desk, each time it is opened.
  await expect(async () => {
    await workshop.reload()
    await expect(need).toBeVisible({ timeout: 2_000 })
  }).toPass()
  await expect(workshop.getByText('not there any more: renamed or taken away')).toBeVisible()
  await need.click()
  await workshop.getByRole('button', { name: 'Match them anew' }).click()
  await expect(workshop.getByText('Given name (new)')).toBeVisible()
  await workshop.goto(`${box.workshop}/`)
  await expect(workshop.getByRole('heading', { name: 'Needs a hand today' })).toBeVisible()
  await expect(need).toHaveCount(0)
})

test('a service where one signs in: said no there, then yes; its list is handed on to', async () => {
  await workshop.goto(`${box.workshop}/lists/clearskyalerts/onward`)
  await workshop.getByText('A new one').click()
  await workshop.getByRole('combobox', { name: 'Service' }).click()
  await workshop.getByRole('option', { name: /Harbour Bulletin/ }).click()
  const signIn = async (answer: string) => {
    const [opened] = await Promise.all([
      workshop.context().waitForEvent('page'),
      workshop.getByRole('button', { name: 'Sign in at Harbour Bulletin' }).click(),
    ])
    await opened.getByRole('button', { name: answer }).click()
    return opened
  }
  const refused = await signIn('Do not')
  await expect(refused.getByText('You said no there.')).toBeVisible()
  await refused.close()
  const taken = await signIn('Let it')
  await expect(taken.getByText(/signed in/i).first()).toBeVisible()
  await taken.close()
  await workshop.getByRole('button', { name: 'I have signed in' }).click()
  await workshop.getByText('The dome bulletin').click()
  await workshop.getByRole('button', { name: labels.sendMadeUp }).click()
  await expect(workshop.getByText('There, with the right values.')).toBeVisible()
  await workshop.getByRole('button', { name: labels.handOn }).click()
  await expect(workshop.getByRole('heading', { name: 'The dome bulletin' })).toBeVisible()
})

test('who is only there, or left there, is seen when both lists are compared, and mended', async ({ page }) => {
  // They leave on a page of the service, which tells nobody.
  await page.goto(`${box.service}/`)
  await rowAt(page, 'lantern', 'fay@visitor.example').getByRole('button', { name: 'Leaves' }).click()
  const form = { EMAIL: 'zoe@visitor.example', FIRST: 'Zoe' }
  await fetch(`${box.service}/forms/l1`, { method: 'POST', body: new URLSearchParams(form) })
  await workshop.goto(`${box.workshop}/lists/schoolvisits/onward/schoolshandedon`)
  await workshop.getByRole('button', { name: labels.compareNow }).click()
  await workshop.getByRole('tab', { name: 'Left there · 1' }).click()
  await workshop.getByRole('button', { name: 'Take them off here' }).click()
  await expect(workshop.getByText('1 person taken off the list.')).toBeVisible()
  await workshop.getByRole('button', { name: labels.compareNow }).click()
  await workshop.getByRole('tab', { name: 'Only there · 1' }).click()
  await workshop.getByRole('button', { name: 'Look at bringing them in' }).click()
  await expect(workshop.getByRole('heading', { name: 'What is in it' })).toBeVisible()
  await workshop.getByRole('button', { name: 'See what it would do' }).click()
  await expect(workshop.getByRole('tab', { name: 'New · 1' })).toBeVisible()
})

test('the code of a form that is there already becomes one of ours, which posts straight to that service', async ({
  page,
}) => {
  await workshop.goto(`${box.workshop}/new`)
  await workshop.getByText('I have a form already').click()
  // What cannot be read does not become an ordinary form unasked.
  await workshop.getByRole('radio', { name: 'School visits' }).check({ force: true })
  await workshop.getByRole('radio', { name: 'Volunteers’ blog' }).check({ force: true })
  await workshop.getByLabel('Code of the form').fill('<p>Our letter, soon</p>')
  await workshop.getByRole('button', { name: labels.makeTheForm }).click()
  await expect(workshop.getByText('The form that you pasted has not been read.')).toBeVisible()
  await workshop.getByRole('button', { name: 'Read it' }).click()
  await expect(workshop.getByRole('alert').filter({ hasText: 'form' }).first()).toBeVisible()
  await workshop.getByRole('button', { name: labels.makeTheForm }).click()
  await expect(workshop).toHaveURL(/\/new$/)
  await workshop.getByLabel('Code of the form').fill(`<script src="https://x.example/a.js"></script>
    <form action="${box.service}/forms/l2" method="post"><table><tr><td>Email</td><td><input name="EMAIL" type="email" required></td></tr>
    <tr><td>First name</td><td><input name="FIRST"></td></tr></table><div style="position:absolute;left:-9999px"><input name="b_trap"></div>
    <input type="hidden" name="tags" value="from the site"><button name="go" value="1">Join us</button></form>`)
  await workshop.getByRole('button', { name: 'Read it' }).click()
  await expect(workshop.getByText('asks for Email (required), First name.')).toBeVisible()
  await expect(workshop.getByText('Not taken along: 1 script, of x.example.')).toBeVisible()
  await workshop.getByLabel('Address of the page').fill(`${box.sites}/posts/counting-meteors`)
  await workshop.getByRole('button', { name: labels.makeTheForm }).click()
  await workshop.waitForURL(/\/form$/)
  await workshop.goto(workshop.url().replace(/\/form$/, '/spot'))
  const code = (await workshop.getByLabel('The code', { exact: true }).textContent())!
  expect(code).toContain(`action="${box.service}/forms/l2"`)
  expect(code).not.toContain(box.workshop)
  // As any page shows it: a browser fills it in and sends it, and the service has it.
  await page.setContent(code)
  await page.getByLabel('Email').fill('gina@visitor.example')
  await page.getByLabel('First name').fill('Gina')
  await page.getByRole('button', { name: 'Join us' }).click()
  await expect(page.getByRole('heading', { name: 'Thank you from Lantern Post' })).toBeVisible()
  await page.goto(`${box.service}/`)
  await expect(rowAt(page, 'lantern', 'gina@visitor.example')).toContainText('from the site')

  // On its page, somebody made up signs up there too: only after its owner said yes, for they stay.
  await saveInEditor(box, 'volunteers', 'body:/posts/counting-meteors', { words: 'Words', code })
  await clearCache(box, 'volunteers')
  await workshop.getByRole('button', { name: /^Publish (version 1|with)/ }).click()
  await workshop.getByText('Version 1 is published').first().waitFor()
  const rehearse = workshop.locator('.page-head').getByRole('button', { name: labels.rehearse, exact: true })
  await rehearse.click()
  const asks = workshop.getByRole('dialog', { name: /^Sign somebody up at/ })
  await asks.getByRole('button', { name: 'Not now' }).click()
  await expect(asks).toBeHidden()
  await rehearse.click()
  await asks.getByLabel('Address to sign up with').fill('ilse@visitor.example')
  await asks.getByRole('button', { name: 'Yes, sign them up' }).click()
  await expect(workshop.getByText('1 passed', { exact: true })).toBeVisible({ timeout: 120_000 })
  await workshop.getByRole('button', { name: labels.close, exact: true }).click()
  await expect(
    workshop.getByRole('navigation', { name: 'The line' }).getByRole('link', { name: /Answer/ }),
  ).toContainText('proven')
  await page.goto(`${box.service}/`)
  await expect(rowAt(page, 'lantern', 'ilse@visitor.example')).toContainText('from the site')
})

test('a rehearsal goes to the end, and finds at List that the key was withdrawn', async ({ page }) => {
  await workshop.goto(`${box.workshop}/forms/schoolsform/list`)
  const rehearse = async () => {
    await workshop.getByRole('button', { name: labels.rehearse, exact: true }).click()
    await expect(workshop.getByText('Rehearsed', { exact: true })).toBeVisible({ timeout: 120_000 })
  }
  await rehearse()
  await expect(
    workshop.getByRole('navigation', { name: 'The line' }).getByRole('link', { name: /List/ }),
  ).toContainText('proven')
  await workshop.getByRole('button', { name: labels.close, exact: true }).click()
  await page.goto(`${box.service}/`)
  await expect(page.getByText('@rehearsal.example')).toHaveCount(0)
  await pressAt(page, 'lantern', 'No key is valid any more')
  await rehearse()
  await expect(workshop.getByText('The key is wrong, or was withdrawn at the service.')).toBeVisible()
  await workshop.getByRole('button', { name: labels.close, exact: true }).click()
  await workshop.getByRole('link', { name: /^To the connection “/ }).click()
  await expect(workshop).toHaveURL(/\/connections\//)
})

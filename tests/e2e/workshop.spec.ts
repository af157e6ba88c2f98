import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import type { Page } from '@playwright/test'
import { honeypotName } from '#core/form'
import type { FormId } from '#core/ids'
import { readWorkspace } from '#core/workspace'
import { entriesAfter, objectsOf } from '../api'
import { type RunningBox, startBox } from '../programs'
import { violationsOn } from './axe'
import { expect, test } from './box'
import { ask, colour, drawer, picture } from './form-station'
import { choose, go, labels } from './hands'

async function signUp(box: RunningBox, email: string, spot = 'firstfrost', more = ''): Promise<void> {
  const response = await fetch(`${box.workshop}/join/${spot}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/x-www-form-urlencoded', Accept: 'application/json' },
    body: `email=${encodeURIComponent(email)}${more}`,
  })
  expect(response.status).toBe(200)
}

async function save(page: Page): Promise<string> {
  await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Settings' }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save everything as a file' }).click()
  return (await download).path()
}

/** Whether the last removal was undone at the receiver, if it got there, and nothing waits here: the screen says so a moment sooner or later. */
async function isWhole(page: Page, box: RunningBox): Promise<boolean> {
  const last = (await entriesAfter<{ kind: string }>(box, 0)).at(-1)!
  const waiting = await page.evaluate(
    () =>
      new Promise<number>((resolve, reject) => {
        const opening = indexedDB.open('ask-box')
        opening.onerror = () => reject(new Error('no database'))
        opening.onsuccess = () => {
          const counting = opening.result.transaction('commands').objectStore('commands').count()
          counting.onsuccess = () => {
            opening.result.close()
            resolve(counting.result)
          }
        }
      }),
  )
  return last.kind !== 'member-removed' && waiting === 0
}

/** Waits until the workshop can be opened without the receiver. */
async function copied(page: Page): Promise<void> {
  const isCopied = () =>
    page.evaluate(
      async () => (await navigator.serviceWorker.ready).active !== null && (await caches.match('/')) !== undefined,
    )
  await expect.poll(isCopied, { timeout: 20_000 }).toBe(true)
}

test('a browser that is not paired is told how to pair, and a wrong key is named', async ({ page, box }) => {
  await page.goto(box.workshop)
  await expect(page.getByRole('heading', { name: 'Connect this browser' })).toBeVisible()
  await page.getByLabel('Owner’s key').fill('wrong-key-wrong-key')
  await page.getByRole('button', { name: 'Connect' }).click()
  await expect(page.getByRole('alert')).toContainText('not its key')
  await page.getByLabel('Owner’s key').fill(box.key)
  await page.getByRole('button', { name: 'Connect' }).click()
  await expect(page.getByText('Volunteers’ blog, inline: Members’ letter').first()).toBeVisible()
})

test(
  'the first screen needs at most 250 KB of gzipped JavaScript, and comes compressed',
  { tag: '@way' },
  async ({ page, box }) => {
    const scripts: Promise<number>[] = []
    const encodings = new Set<string | undefined>()
    page.on('response', (response) => {
      if (response.request().resourceType() !== 'script') return
      scripts.push(response.body().then((body) => gzipSync(body).length))
      encodings.add(response.headers()['content-encoding'])
    })
    await page.goto(box.pairing)
    await expect(page.getByRole('heading', { name: 'Forms and their lines' })).toBeVisible()
    await expect(page.getByText('all saved')).toBeVisible()
    const bytes = (await Promise.all(scripts)).reduce((sum, one) => sum + one, 0)
    expect(bytes).toBeGreaterThan(20_000)
    expect(bytes).toBeLessThanOrEqual(250 * 1024)
    expect([...encodings]).toEqual(['br'])
  },
)

test('pairing takes the key out of the address', async ({ workshop, box }) => {
  await expect(workshop).toHaveURL(`${box.workshop}/`)
})

test('two tabs stay in step, and the second goes on when the first is closed', async ({ paired: workshop, box }) => {
  const second = await workshop.context().newPage()
  await second.goto(`${box.workshop}/forms/schoolsform`)
  await workshop.goto(`${box.workshop}/forms/schoolsform`)
  const heading = (page: Page) => page.frameLocator('iframe[title^="The form."]').locator('.askbox-heading')
  // A tab behind another draws once a second.
  await workshop.bringToFront()
  await heading(workshop).click()
  await heading(workshop).press('End')
  await heading(workshop).pressSequentially(' soon')
  await heading(workshop).press('Escape')
  await expect(heading(second)).toHaveText('Hear of the spring dates first soon')
  await second.bringToFront()
  await second.getByRole('button', { name: labels.undo }).click()
  await expect(heading(workshop)).toHaveText('Hear of the spring dates first')

  // News from the other tab draws the page again, and takes nothing from what is being typed here.
  await workshop.bringToFront()
  await drawer(workshop, 'Look')
  const background = workshop.getByRole('textbox', { name: 'Background', exact: true })
  await background.fill('#0a1')
  await second.bringToFront()
  await drawer(second, 'Look')
  await colour(second, 'Text', '#101010')
  await expect(workshop.getByRole('textbox', { name: 'Text', exact: true })).toHaveValue('#101010')
  await expect(background).toHaveValue('#0a1')
  await workshop.bringToFront()
  await background.press('Enter')
  await expect(background).toHaveValue('#00aa11')
  await second.bringToFront()
  await second.getByRole('button', { name: labels.undo }).click()

  await workshop.close()
  await signUp(box, 'second-tab@mail.example', 'schoolvisit', '&first-name=Two')
  await expect(second.getByLabel('The line').getByText('second-tab@mail.example')).toBeVisible()
})

test('a form begun before the receiver’s lists arrive offers them when they do, and chooses none of several', async ({
  page,
  box,
}) => {
  let arrive = () => {}
  const held = new Promise<void>((resolve) => (arrive = resolve))
  await page.route('**/api/objects*', async (route) => {
    await held
    await route.continue()
  })
  await page.goto(box.pairing)
  await page.getByText('connecting').waitFor()
  await page.keyboard.press('n')
  // Where there is one way, it is not shown as a choice.
  await expect(page.getByLabel('Name of the list')).toBeVisible()
  await expect(page.getByLabel('A new list')).toHaveCount(0)
  arrive()
  await expect(page.getByLabel('Clear-sky alerts')).toBeVisible()
  await expect(page.getByLabel('A new list')).not.toBeChecked()
})

test('two browsers publish the same form: what contradicts is shown with both sides, and both versions are kept', async ({
  paired: workshop,
  box,
  browser,
}) => {
  const second = await (await browser.newContext()).newPage()
  await second.goto(box.pairing)
  await second.getByText('all saved').waitFor()
  await second.goto(`${box.workshop}/forms/blogletterform`)
  const published = second.getByText(/^Version \d+, published/)
  const first = Number(/\d+/.exec((await published.textContent()) ?? '')![0])
  await second.context().setOffline(true)
  await drawer(second, 'Look')
  await colour(second, 'Background', '#553311')

  await workshop.goto(`${box.workshop}/forms/blogletterform`)
  await drawer(workshop, 'Look')
  await colour(workshop, 'Background', '#113355')
  await workshop.getByRole('button', { name: new RegExp(`^Publish (version ${first + 1}|with)`) }).click()
  await expect(workshop.getByRole('heading', { name: `Plain code, version ${first + 1}` })).toBeVisible()

  // The second browser knows nothing of that; its draft is kept, and its owner says which of both goes on.
  await expect(second.getByRole('button', { name: new RegExp(`^Publish (version ${first + 1}|with)`) })).toBeVisible()
  await second.context().setOffline(false)
  const contradiction = second.getByRole('alert').filter({ hasText: 'was changed here and in another browser' })
  await expect(contradiction).toBeVisible({ timeout: 20_000 })
  await second.getByRole('button', { name: /^Publish (version|with)/ }).click()
  await expect(second.getByRole('alert').filter({ hasText: 'choose first which change goes on' })).toBeVisible()
  await contradiction.getByRole('button', { name: 'Look at both' }).click()
  const both = second.getByRole('dialog')
  await expect(both.getByRole('row').filter({ hasText: 'colours background' })).toContainText('#553311')
  await expect(both.getByRole('row').filter({ hasText: 'colours background' })).toContainText('#113355')
  await both.getByRole('button', { name: 'Go on with what is here' }).click()
  await expect(contradiction).toHaveCount(0)
  await second.getByRole('button', { name: new RegExp(`^Publish (version ${first + 2}|with)`) }).click()
  await expect(second.getByRole('heading', { name: `Plain code, version ${first + 2}` })).toBeVisible()
  await expect(second.getByLabel('The code')).toContainText('--askbox-background:#553311')
  await expect(workshop.getByRole('heading', { name: `Plain code, version ${first + 2}` })).toBeVisible()
  await second.context().close()
})

test('undo and redo bring back words and colours, step by step', { tag: '@way' }, async ({ paired: workshop, box }) => {
  await workshop.goto(`${box.workshop}/forms/linksform`)
  const form = picture(workshop).locator('.askbox-card')
  await drawer(workshop, 'Look')
  await colour(workshop, 'Background', '#336699')
  await ask(workshop, 'First name')
  await expect(form.getByLabel('First name')).toBeVisible()
  await workshop.keyboard.press('ControlOrMeta+z')
  await expect(form.getByLabel('First name')).toHaveCount(0)
  await workshop.keyboard.press('ControlOrMeta+z')
  await expect(form).toHaveCSS('background-color', 'rgb(28, 43, 58)')
  await workshop.keyboard.press('ControlOrMeta+Shift+z')
  await expect(form).toHaveCSS('background-color', 'rgb(51, 102, 153)')
  await workshop.getByRole('button', { name: labels.undo }).click()
  // The form's name is a step like all others, though it is no part of what is published.
  const name = workshop.getByLabel('Name of the form')
  const before = await name.inputValue()
  await name.fill('A form by another name')
  await name.press('Enter')
  const undo = workshop.getByRole('button', { name: labels.undo }).first()
  await expect(undo).toHaveAccessibleDescription('Undo: Rename the form')
  // One tooltip serves all: what it says of another does not describe this one.
  for (const name of ['Undo', 'Redo']) {
    await workshop.getByRole('button', { name }).first().hover()
    await expect(workshop.getByRole('tooltip')).toHaveText(new RegExp(`^${name}: `))
    await expect(undo).toHaveAccessibleDescription('Undo: Rename the form')
  }
  await undo.click()
  await expect(name).toHaveValue(before)
  await workshop.getByRole('button', { name: labels.redo }).click()
  await expect(name).toHaveValue('A form by another name')
})

test('list, site and place of a form can be corrected; sign-ups go to the other list once it is published', async ({
  paired: workshop,
  box,
  request,
}) => {
  await workshop.goto(`${box.workshop}/forms/schoolsform/list`)
  await choose(workshop.getByRole('combobox', { name: 'The form feeds' }), 'Members’ letter')
  await expect(workshop.getByText('Visitors join it once the form is published.')).toBeVisible()
  const join = async (email: string) =>
    (
      await request.post(`${box.workshop}/join/schoolvisit`, {
        form: { email, 'first-name': 'Ines' },
        headers: { Accept: 'application/json' },
      })
    ).status()
  expect(await join('before@school.example')).toBe(200)
  await workshop.getByRole('button', { name: /^Publish (version|with)/ }).click()
  await expect(workshop.getByText(/^Version \d+, published/)).toBeVisible()
  expect(await join('after@school.example')).toBe(200)
  await go(workshop, '/lists/membersletter')
  await expect(workshop.getByRole('row', { name: /after@school/ })).toBeVisible()
  await expect(workshop.getByRole('row', { name: /before@school/ })).toHaveCount(0)

  await go(workshop, '/forms/schoolsform/spot')
  // Notices of what was done stand in the bar at the top, and hide nothing that the keyboard reaches.
  await workshop.getByRole('button', { name: 'Pause this spot' }).click()
  await workshop.getByRole('button', { name: 'Make it live again' }).click()
  await workshop.getByRole('button', { name: 'Correct site or place' }).click()
  await expect(workshop.locator('.notice').first()).toBeVisible()
  for (const key of ['Shift+Tab', 'Shift+Tab', 'Shift+Tab']) {
    await workshop.keyboard.press(key)
    const isInSight = await workshop.evaluate(() => {
      const { left, top, width, height } = document.activeElement!.getBoundingClientRect()
      return document.activeElement!.contains(document.elementFromPoint(left + width / 2, top + height / 2))
    })
    expect([key, isInSight]).toEqual([key, true])
  }
  await choose(workshop.getByRole('combobox', { name: 'Where on it' }), 'Sidebar')
  await choose(workshop.getByRole('combobox', { name: 'Site' }), 'Volunteers’ blog')
  await expect(workshop.getByRole('heading', { name: 'Volunteers’ blog' })).toContainText('sidebar · live')
  await expect(workshop.getByText('Open the side column in the blog’s editor')).toBeVisible()
})

test('what is made for a real site is published for later while visitors could not reach the receiver', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/linksform`)
  await ask(workshop, 'First name')
  await workshop.getByRole('button', { name: /^Publish (version 4|with)/ }).click()
  await expect(workshop.getByText(/^Version 4 is published\. It is kept for later\. Visitors of/)).toBeVisible()
  await expect(workshop).toHaveURL(/\/spot$/)
  // No code that names an address of this computer is given out for it.
  await expect(workshop.getByText('All that you make is kept, and waits until they reach it.')).toBeVisible()
  await expect(workshop.getByRole('button', { name: /^Copy/ })).toHaveCount(0)
  expect((await objectsOf(box, 'version')).filter(({ key }) => key.startsWith('linksform/'))).toHaveLength(4)
})

test.describe('members, offline too', () => {
  test.use({ withCopy: true })

  test('members are added, changed, removed and brought back; offline it waits and is sent later', async ({
    paired: workshop,
    box,
  }) => {
    await workshop.goto(`${box.workshop}/lists/schoolvisits`)
    await workshop.getByRole('button', { name: 'Add somebody' }).click()
    await workshop.getByLabel('Email', { exact: true }).fill('by-hand@mail')
    await workshop.getByLabel('First name').fill('Hanne')
    await workshop.getByRole('button', { name: 'Add to the list' }).click()
    await expect(workshop.getByText('Say how they agreed')).toBeVisible()
    await workshop.getByLabel('How did they agree').fill('Asked at the school fair.')
    await workshop.getByRole('button', { name: 'Add to the list' }).click()
    const row = workshop.getByRole('row', { name: /by-hand/ })
    await expect(row).toContainText('added by hand')
    await expect(row).not.toContainText('being sent')
    await copied(workshop)

    await workshop.context().setOffline(true)
    await row.getByRole('button', { name: /^Change/ }).click()
    await workshop.getByLabel('First name').fill('Johanne')
    await workshop.getByRole('button', { name: labels.save, exact: true }).click()
    await expect(row).toContainText('Johanne')
    await expect(row).toContainText('being sent')
    await workshop.context().setOffline(false)
    await expect(row).not.toContainText('being sent', { timeout: 20_000 })
    await expect(row).toContainText('Johanne')

    await row.getByRole('button', { name: /^Remove/ }).click()
    await workshop.getByRole('alert').getByRole('button', { name: labels.undo }).last().click()
    await expect(row).toContainText('on the list')
    await expect.poll(() => isWhole(workshop, box)).toBe(true)

    // Taken back while there is no way to the receiver, in a workshop that was closed in between; and on its way there.
    await workshop.context().setOffline(true)
    await row.getByRole('button', { name: /^Remove/ }).click()
    await expect(row).toContainText('removed, being sent')
    await workshop.reload()
    await row.getByRole('button', { name: 'Take back' }).click()
    await expect(row).toContainText('on the list')
    await workshop.context().setOffline(false)
    await expect(row).toContainText('on the list')
    await expect.poll(() => isWhole(workshop, box)).toBe(true)
    let pass = () => {}
    const held = new Promise<void>((resolve) => (pass = resolve))
    const isHeld = workshop.waitForRequest('**/api/commands')
    await workshop.context().route('**/api/commands', async (route) => {
      await held
      await route.continue()
    })
    await row.getByRole('button', { name: /^Remove/ }).click()
    await isHeld
    await workshop.getByRole('alert').getByRole('button', { name: labels.undo }).last().click()
    pass()
    await expect(row).toContainText('on the list')
    await expect(row).not.toContainText('being sent')
    await expect(workshop.getByText('Not done')).toHaveCount(0)
  })
})

test('somebody whom the trap held back is let in by one press', async ({ workshop, box }) => {
  const response = await fetch(`${box.workshop}/join/opennights`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: 'tansy@post.example', [honeypotName('clearskyform' as FormId)]: 'x' }),
  })
  expect(response.status).toBe(200)
  const arrival = workshop.getByRole('listitem').filter({ hasText: 'tansy@post.example' })
  await expect(arrival).toContainText('held back as a bot')
  await workshop.getByRole('button', { name: 'Put on the list: tansy@post.example' }).click()
  await expect(workshop.getByRole('alert').filter({ hasText: 'is on the list' })).toBeVisible()
  await arrival.getByRole('link').click()
  await expect(workshop.getByRole('row', { name: /tansy@post\.example/ })).toContainText('on the list')
})

test(
  'a spot’s code is what works on its kind of site: the form, a frame of its size, a link; each signs up',
  { tag: '@way' },
  async ({ paired: workshop, box, page }) => {
    await workshop.goto(`${box.workshop}/forms/blogletterform/spot`)
    await workshop.getByRole('radio', { name: 'A link to the form’s page' }).click()
    await expect(workshop.getByText('choose the editor’s link, and paste the address')).toBeVisible()
    await workshop.getByRole('radio', { name: 'In a new one' }).click()
    const code = (await workshop.getByLabel('The code').textContent())!
    await page.setContent(code)
    const [opened] = await Promise.all([page.context().waitForEvent('page'), page.getByRole('link').click()])
    await opened.getByLabel('Email').fill('linked@post.example')
    await opened.getByRole('button', { name: 'Send me the letter' }).click()
    await expect(opened.getByRole('heading', { name: 'You are on the list' })).toBeVisible()

    await workshop.getByRole('radio', { name: 'A frame with the form' }).click()
    await expect(
      workshop.getByText(/As high as the form needs in the width of its place: \d+ px at \d+ px/),
    ).toBeVisible()
    const framed = (await workshop.getByLabel('The code').textContent())!
    await page.setContent(`<body style="margin:20px">${framed}</body>`)
    const frame = page.frameLocator('iframe')
    await expect(frame.getByLabel('Email')).toBeVisible()
    // Of the size that the form needs: nothing of it has to be scrolled to, and no hole is left below.
    for (const width of [1280, 1000, 720, 500, 360]) {
      await page.setViewportSize({ width, height: 900 })
      const size = () =>
        frame.locator('html').evaluate((html) => ({
          isRight: html.clientWidth === window.innerWidth,
          below: html.clientHeight - html.scrollHeight,
          spare: Math.floor(html.clientHeight - html.querySelector('.askbox-card')!.getBoundingClientRect().bottom),
        }))
      await expect.poll(async () => (await size()).isRight).toBe(true)
      const { below, spare } = await size()
      expect([width, below, spare < 24]).toEqual([width, 0, true])
    }
    await frame.getByLabel('Email').fill('framed@post.example')
    // By a key: where a frame of another site lies is known to the mouse only some time after the window was resized.
    await frame.getByLabel('Email').press('Enter')
    await expect(frame.getByRole('heading', { name: 'You are on the list' })).toBeVisible()

    // Looking changes nothing: what checks and rehearsals look for is what was taken, by a press, copied or pasted.
    const kept = async () => (await objectsOf(box, 'spot')).find(({ key }) => key === 'firstfrost')!.body!.code
    const before = await kept()
    expect(before).not.toBe('frame')
    await expect(workshop.getByText('which checks and rehearsals look for')).toBeVisible()
    await workshop.getByRole('button', { name: 'Use this one' }).click()
    await expect(workshop.getByText('which checks and rehearsals look for')).toHaveCount(0)
    await expect.poll(kept).toBe('frame')

    // On a site that takes no code, the link is all there is, and the reason is said.
    await go(workshop, '/sites')
    // By name, the volunteers’ blog is the last.
    await workshop.getByRole('button', { name: 'Edit' }).last().click()
    await choose(workshop.getByLabel('Built with'), 'takes no code')
    // Kept, and on its way: a page that is left within the same moment keeps nothing.
    await expect
      .poll(async () => (await objectsOf(box, 'site')).find(({ key }) => key === 'volunteersblog')?.body?.kind)
      .toBe('builder-without-code')
    await go(workshop, '/forms/blogletterform/spot')
    await expect(workshop.getByText('This kind of site takes forms and styles out of what is pasted.')).toBeVisible()
    await expect(workshop.getByRole('radio', { name: 'The whole form as code' })).toHaveCount(0)
  },
)

test.describe('without the receiver', () => {
  test.use({ withCopy: true })

  test('the workshop opens without the receiver, with everything it knew', async ({ workshop, box }) => {
    await copied(workshop)
    await workshop.context().setOffline(true)
    await workshop.goto(`${box.workshop}/lists/membersletter`)
    await expect(workshop.getByRole('heading', { name: 'Members’ letter' })).toBeVisible()
    await expect(workshop.getByRole('row').nth(3)).toBeVisible()
    await expect(workshop.getByText('not reached')).toBeVisible()
    await workshop.context().setOffline(false)
    await expect(workshop.getByText('all saved')).toBeVisible({ timeout: 20_000 })
  })
})

test(
  'an emptied workshop gets everything back, and a new receiver is filled from a workshop',
  { tag: '@way' },
  async ({ paired: workshop, box }) => {
    test.slow()
    const people = workshop.getByRole('status').filter({ hasText: 'people' })
    await workshop.goto(`${box.workshop}/lists/clearskyalerts`)
    await expect(people).toHaveText(/^[1-9]\d+ people$/)
    const before = await people.textContent()
    await go(workshop, '/settings')
    await workshop.getByRole('button', { name: 'Empty this browser' }).click()
    const asked = workshop.getByRole('alert')
    await expect(asked.getByRole('button', { name: 'Empty it now' })).toHaveCount(0)
    const download = workshop.waitForEvent('download')
    await asked.getByRole('button', { name: 'Save everything as a file' }).click()
    const file = await (await download).path()
    // Only its owner can see that the file has arrived.
    await expect(workshop.getByText('Never saved yet.')).toBeVisible()
    await asked.getByRole('button', { name: 'It is there' }).click()
    await expect(workshop.getByText('Last saved today')).toBeVisible()
    await asked.getByRole('button', { name: 'Empty it now' }).click()
    await workshop.getByRole('link', { name: 'Lists' }).click()
    await workshop.getByRole('link', { name: 'Clear-sky alerts', exact: true }).click()
    await expect(people).toHaveText(before ?? '')

    // A new, empty receiver; the saved file is opened in a browser paired with it.
    const fresh = await startBox({ demo: false })
    try {
      const page = await (await workshop.context().browser()!.newContext()).newPage()
      await page.goto(fresh.pairing)
      await expect(page.getByRole('heading', { name: 'A form on your site, and proof that it works' })).toBeVisible()
      await expect(page.getByRole('heading', { name: 'Still to set up' })).toBeVisible()
      expect(await violationsOn(page)).toEqual([])
      await go(page, '/settings')
      // In step with the receiver while the file is opened: none of it may get there unasked.
      await expect(page.getByText('all saved').first()).toBeVisible()
      await page.locator('input[type=file]').setInputFiles(file)
      await page.getByRole('button', { name: 'Replace what is here' }).click()
      await page.getByRole('button', { name: 'Fill the receiver from here' }).click()
      await expect(page.getByText('all saved').first()).toBeVisible({ timeout: 20_000 })
      const entries = readWorkspace(readFileSync(file, 'utf8'))
      expect(entries.ok).toBe(true)
      const { latest } = (await (
        await fetch(`${fresh.workshop}/api/journal`, { headers: { Authorization: `Bearer ${fresh.key}` } })
      ).json()) as { latest: number }
      expect(latest).toBe(entries.ok && entries.workspace.journal.entries.length)
      // The gift's file has come along, byte for byte.
      const [gift = ''] = readdirSync('demo/gifts')
      const kept = await fetch(`${fresh.workshop}/api/files/${gift}`, {
        headers: { Authorization: `Bearer ${fresh.key}` },
      })
      expect(Buffer.from(await kept.arrayBuffer()).equals(readFileSync(join('demo/gifts', gift)))).toBe(true)
      // The refilled receiver takes sign-ups for the old code, and knows who is on the list.
      const response = await fetch(`${fresh.workshop}/join/opennights`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ email: 'new-receiver@mail.example' }),
      })
      expect(await response.json()).toEqual({ outcome: 'joined' })
      await go(page, '/lists/clearskyalerts')
      await expect(page.getByRole('row', { name: /new-receiver/ })).toBeVisible()
      await page.context().close()
    } finally {
      await fresh.stop()
    }
  },
)

/** The file with a number where a heading's words belong. */
function damaged(file: string): string {
  const workspace = JSON.parse(file)
  workspace.forms[0].draft.words.heading = 5
  return JSON.stringify(workspace)
}

test('a damaged, newer or foreign file is named with its place and changes nothing', async ({ workshop }, info) => {
  const file = await save(workshop)
  const good = readFileSync(file, 'utf8')
  const cases = [
    { name: 'damaged.json', text: damaged(good), says: /forms\[\d\]\.draft\.words\.heading/ },
    { name: 'cut.json', text: good.slice(0, 3000), says: /not JSON/ },
    { name: 'newer.json', text: JSON.stringify({ ...JSON.parse(good), version: 99 }), says: /newer Ask Box/ },
    { name: 'foreign.json', text: '{"format":"something"}', says: /not an Ask Box workspace/ },
  ]
  for (const { name, text, says } of cases) {
    const path = info.outputPath(name)
    writeFileSync(path, text)
    await workshop.locator('input[type=file]').setInputFiles(path)
    await expect(workshop.getByRole('alert')).toContainText(`${name} was not opened; nothing has changed.`)
    await expect(workshop.getByRole('alert')).toContainText(says)
  }
  const same = JSON.parse(readFileSync(await save(workshop), 'utf8'))
  expect({ ...same, exportedAt: '' }).toEqual({ ...JSON.parse(good), exportedAt: '' })
})

const views = [
  ...['/', '/new', '/lists', '/lists/membersletter', '/lists/membersletter/import', '/lists/schoolvisits/onward'],
  ...['/lists/schoolvisits/onward/schoolshandedon', '/lists/membersletter/people/member0458', '/mail-room', '/results'],
  ...['/results/wordings/starchartform', '/sites', '/connections', '/settings'],
  ...['spot', 'form', 'answer', 'mail', 'list'].map((station) => `/forms/clearskyform/${station}`),
]
/** Words that deny; and sentences that hold whatever is still being read. */
const DENIAL = /\b(?:nobody|nothing|no one|never|not yet|no \w+ yet|there (?:is|are) no)\b/i
const HOLDS =
  /do not reach Ask Box|No mail server is set up|no backup file yet|Never saved yet|Nothing but the fields|Nothing is changed|nobody has to confirm|nobody: on the list|^Nobody$|^nothing$|^Never$|put on a list by a stranger/

test('while something is read, no screen says that there is nothing', async ({ paired, box }) => {
  await paired.goto(box.workshop)
  await expect(paired.getByText('joined in 7 days').first()).toBeVisible()
  // Workers and the receiver never answer; then the browser's own database does not either.
  const held = await paired.context().newPage()
  await held.route('**/api/**', () => {})
  await held.addInitScript(() => {
    Worker.prototype.postMessage = () => {}
  })
  const said: string[] = []
  for (const view of views) {
    await held.goto(box.workshop + view)
    await expect(held.locator('main > *').first()).toBeVisible()
    for (const line of (await held.locator('main').innerText()).split('\n'))
      if (DENIAL.test(line) && !HOLDS.test(line)) said.push(`${view}: ${line}`)
  }
  expect(said).toEqual([])
  await held.addInitScript(() => {
    const { getAll } = IDBObjectStore.prototype
    IDBObjectStore.prototype.getAll = function (...asked) {
      return Object.defineProperty(getAll.apply(this, asked), 'onsuccess', { set() {} })
    }
  })
  for (const view of views) {
    await held.goto(box.workshop + view)
    await expect(held.locator('.el-skeleton').first()).toBeVisible()
    expect((await held.locator('main').innerText()).trim()).toBe('')
  }
  await held.close()
})

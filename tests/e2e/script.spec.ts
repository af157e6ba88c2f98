import { readFileSync } from 'node:fs'
import { gzipSync } from 'node:zlib'
import type { Page } from '@playwright/test'
import { type PlaceHeights, placePart, plainCode, popUpPart, sharedLine } from '#core/embed'
import { reshaped, shapes, type Version } from '#core/form'
import type { SpotId } from '#core/ids'
import type { Arrival, Entry } from '#core/journal'
import { quietPalette } from '#core/look'
import { formWithSpace, landingPage, toDocument } from '#core/render'
import { type Spot, startPopUp } from '#core/spot'
import { richText } from '#core/text'
import { changeSpot, entriesAfter, objectsOf, publishNext } from '../api'
import type { RunningBox } from '../programs'
import { violationsOn } from './axe'
import { expect, test } from './pages'
import { shiftOn, watchShifts } from './shifts'
import { labels } from './hands'

const SPOT = 'firstfrost' as SpotId
const TEXT = '<p>Some text of the page.</p>'

async function versionOf(box: RunningBox, spot: SpotId): Promise<Version> {
  const { form } = (await objectsOf(box, 'spot')).find(({ key }) => key === spot)!.body!
  return (await objectsOf(box, 'version')).map(({ body }) => body!).findLast((one) => one.form === form)!
}

async function place(box: RunningBox, spot = SPOT): Promise<string> {
  const { content } = await versionOf(box, spot)
  return placePart(content, box.workshop, spot, [
    { width: 320, height: 400 },
    { width: 680, height: 300 },
  ])
}

async function openPopUp(box: RunningBox, more: Partial<Spot> = {}): Promise<SpotId> {
  const spot = 'somepopup' as SpotId
  const { body } = (await objectsOf(box, 'spot')).find(({ key }) => key === SPOT)!
  await changeSpot(box, spot, { ...body!, id: spot, kind: 'pop-up', code: 'script', page: '', ...more })
  return spot
}

test('the visitors’ script is at most 6 KB, gzipped', { tag: '@way' }, () => {
  expect(gzipSync(readFileSync('dist/visitors/askbox.js')).length).toBeLessThanOrEqual(6 * 1024)
})

const form = (page: Page) => page.locator('askbox-form form.askbox')

test(
  'a link to the form becomes the form; it answers in place, and what brought the visitor is kept',
  { tag: '@way' },
  async ({ page, box, site }) => {
    const errors = watchErrors(page)
    const address = site.put('/post', { head: sharedLine(box.workshop), body: `${TEXT}${await place(box)}${TEXT}` })
    const asked = watchRequests(page)
    await page.goto(`${address}?utm_source=poster&utm_campaign=autumn`, {
      referer: 'https://search.example/found?q=frost',
    })
    await expect(form(page)).toBeVisible()
    await expect(page.getByRole('link')).toHaveCount(0)
    await expect(page.locator('svg')).toBeHidden()
    await form(page).getByLabel('Email').fill('not an address')
    await form(page).getByRole('button').click()
    const error = form(page).getByText('not a complete email address')
    await expect(error).toBeVisible()
    await form(page).getByLabel('Email').fill('an-address@post.example')
    await expect(error).toHaveCount(0)
    await form(page).getByLabel('Email').fill('script@post.example')
    await form(page).getByRole('button').click()
    await expect(form(page).getByRole('status')).toBeVisible()
    expect(page.url()).toContain(address)
    const last = (await entriesAfter<Arrival>(box, 0)).at(-1)!
    expect(last?.personal).toMatchObject({
      email: { typed: 'script@post.example' },
      page: `${address}?utm_source=poster&utm_campaign=autumn`,
      cameFrom: { referrer: 'https://search.example/found', campaign: 'poster, autumn' },
    })
    // A guest: nothing is asked but of the receiver, no cookie, nothing remembered.
    expect(asked().filter((url) => !url.startsWith(box.workshop) && !url.startsWith(site.address))).toEqual([])
    expect(await page.context().cookies()).toEqual([])
    expect(await page.evaluate(() => localStorage.length + sessionStorage.length)).toBe(0)
    expect(errors).toEqual([])
  },
)

test('words and look reach the page without pasting again; paused, it says so, and retired it leaves no hole', async ({
  page,
  box,
  site,
}) => {
  const address = site.put('/post', { head: sharedLine(box.workshop), body: `<main>${await place(box)}</main>` })
  await page.goto(address)
  await expect(form(page)).toBeVisible()
  const { form: id } = await versionOf(box, SPOT)
  await publishNext(box, id, (content) => ({ ...content, words: { ...content.words, button: 'Count me in' } }))
  await page.reload()
  await expect(form(page).getByRole('button', { name: 'Count me in' })).toBeVisible()
  await changeSpot(box, SPOT, { state: 'paused' })
  await page.reload()
  await expect(page.getByText('This form is closed for now')).toBeVisible()
  await expect(page.locator('form')).toHaveCount(0)
  await changeSpot(box, SPOT, { state: 'retired' })
  await page.reload()
  await expect.poll(() => page.locator('main').evaluate((main) => (main as HTMLElement).offsetHeight)).toBe(0)
})

test('a place that comes after the page was loaded is filled too', async ({ page, box, site }) => {
  const code = await place(box)
  await page.goto(site.put('/app', { head: sharedLine(box.workshop), body: '<main>Loading …</main>' }), {
    waitUntil: 'load',
  })
  await expect(form(page)).toHaveCount(0)
  await page.locator('main').evaluate((main, html) => (main.innerHTML = html), code)
  await expect(form(page)).toBeVisible()
})

test(
  'a slip in the address is asked about, and nothing is refused because of it',
  { tag: '@way' },
  async ({ page, box, site }) => {
    const address = site.put('/post', { head: sharedLine(box.workshop), body: await place(box) })
    await page.goto(address)
    const email = form(page).getByLabel('Email')
    await email.fill('wren@gmial.com')
    await email.blur()
    const question = form(page).getByRole('button', { name: 'Did you mean wren@gmail.com?' })
    await question.click()
    await expect(email).toHaveValue('wren@gmail.com')
    await expect(question).toHaveCount(0)
    await email.fill('wren@gmial.com')
    await email.blur()
    await expect(question).toBeVisible()
    await form(page).locator('.askbox-button').click()
    await expect(form(page).locator('.askbox-result')).toBeVisible()
    expect((await entriesAfter<Arrival>(box, 0)).at(-1)!.personal?.email?.typed).toBe('wren@gmial.com')
  },
)

test('the puzzle is solved without anybody’s doing: in place, and on a page of its own where nothing could', async ({
  page,
  box,
  site,
}) => {
  const { form: id } = await versionOf(box, SPOT)
  await publishNext(box, id, (content) => ({
    ...content,
    guard: { leastSeconds: 0, noThrowAway: false, puzzle: true },
  }))
  const address = site.put('/post', { head: sharedLine(box.workshop), body: await place(box) })
  await page.goto(address)
  await form(page).getByLabel('Email').fill('solved@post.example')
  await form(page).getByRole('button').click()
  await expect(form(page).getByRole('status')).toBeVisible()
  expect(page.url()).toBe(address)

  const { content, number } = await versionOf(box, SPOT)
  const plain = plainCode({ content, form: id, version: number, spot: SPOT, receiver: box.workshop })
  await page.goto(site.put('/plain', { body: plain }))
  await page.getByLabel('Email').fill('plain@post.example')
  await page.getByRole('button').click()
  await page.waitForURL(/\/answer\/firstfrost\/joined/)
  const arrivals = (await entriesAfter<Arrival>(box, 0)).slice(-2)
  expect(arrivals.map(({ personal }) => [personal?.email?.typed, personal?.page])).toEqual([
    ['solved@post.example', address],
    // Of another origin, browsers tell no more.
    ['plain@post.example', `${site.address}/`],
  ])
})

test('who signed up here before is greeted, and can still sign somebody else up; the after-page gets what was chosen', async ({
  page,
  box,
  site,
}) => {
  const { form: id } = await versionOf(box, SPOT)
  const thanks = site.put('/thanks', { body: '<h1>Thank you</h1>' })
  await publishNext(box, id, (content) => ({
    ...content,
    known: { heading: 'Good to see you', message: '', link: { words: 'The newest letter', address: thanks } },
    answers: {
      ...content.answers,
      joined: { ...content.answers.joined, show: 'address', address: `${thanks}?from=form`, pass: ['email'] },
    },
  }))
  const address = site.put('/post', { head: sharedLine(box.workshop), body: await place(box) })
  await page.goto(address)
  await form(page).getByLabel('Email').fill('wren+1@post.example')
  await form(page).getByRole('button').click()
  await expect(page.getByRole('heading', { name: 'Thank you' })).toBeVisible()
  expect(page.url()).toBe(`${thanks}?from=form&email=wren%2B1%40post.example`)

  await page.goto(address)
  await expect(page.getByRole('heading', { name: 'Good to see you' })).toBeVisible()
  await expect(page.getByRole('link', { name: 'The newest letter' })).toHaveAttribute('href', thanks)
  expect(await violationsOn(page, { within: 'askbox-form', also: ['best-practice'] })).toEqual([])
  await page.getByRole('button', { name: 'Sign up with another address' }).click()
  await expect(form(page).getByLabel('Email')).toBeFocused()
  await expect(page.getByRole('heading', { name: 'Good to see you' })).toHaveCount(0)
})

test.describe('the page is a guest room', () => {
  const strict = (receiver: string, more = '') =>
    `default-src 'none'; script-src ${receiver}; style-src 'self'; connect-src ${receiver}; form-action ${receiver}; require-trusted-types-for 'script'${more}`

  /** As the workshop measures it; in the font of the page, which the form takes over. */
  const measured = async (page: Page, box: RunningBox, font: string): Promise<PlaceHeights> => {
    const version = await versionOf(box, SPOT)
    const placed = { content: version.content, form: version.form, version: 1, spot: SPOT, receiver: box.workshop }
    await page.setViewportSize({ width: 1280, height: 800 })
    await page.setContent(toDocument(formWithSpace(placed, font)))
    return page.locator('body > div').evaluate((place) =>
      Array.from({ length: 76 }, (_, at) => {
        const width = 136 + at * (at < 16 ? 8 : 15)
        ;(place as HTMLElement).style.width = `${width}px`
        return { width, height: Math.ceil(place.getBoundingClientRect().height) }
      }),
    )
  }

  test('nothing moves when the form arrives, whatever the site’s style sheet, width and size of text', async ({
    page,
    box,
    site,
  }) => {
    await watchShifts(page)
    const { content } = await versionOf(box, SPOT)
    const sheets = {
      none: ['', 'serif'],
      resets: ['img,svg,video,canvas{display:block;vertical-align:middle;max-width:100%;height:auto}', 'serif'],
      pico: [readFileSync('node_modules/@picocss/pico/css/pico.css', 'utf8'), 'system-ui, sans-serif'],
      milligram: [readFileSync('node_modules/milligram/dist/milligram.css', 'utf8'), 'Helvetica, Arial, sans-serif'],
      water: [readFileSync('node_modules/water.css/out/water.css', 'utf8'), 'system-ui, sans-serif'],
    } satisfies Record<string, [css: string, font: string]>
    const moved: unknown[] = []
    for (const [name, [css, font]] of Object.entries(sheets)) {
      const part = placePart(content, box.workshop, SPOT, await measured(page, box, font))
      for (const [at, size] of [16, 18, 20].entries()) {
        const address = site.put('/post', {
          head: `<style>${css}</style><style>html,body{font-size:${size}px}</style>${sharedLine(box.workshop)}`,
          body: `<main>${TEXT}${part}${TEXT.repeat(30)}</main>`,
        })
        for (const [number, width] of [170, 280, 320, 390, 680, 1000, 1280].entries()) {
          // Every sheet at every width and in every size; without one, all of them together.
          if (name !== 'none' && number % 3 !== at) continue
          await page.setViewportSize({ width, height: 800 })
          await page.goto(address)
          await expect(form(page)).toBeVisible()
          const shift = await shiftOn(page)
          if (shift >= 0.005) moved.push([name, size, width, shift])
        }
      }
    }
    expect(moved).toEqual([])
  })

  test('a landing page moves nothing while it arrives', async ({ page, box, site }) => {
    await watchShifts(page)
    for (const pictured of [true, false]) {
      const { content, form } = await versionOf(box, 'starchart' as SpotId)
      const placed = { content, form, version: 1, spot: 'starchart' as SpotId, receiver: box.workshop }
      const whole = toDocument(
        landingPage(pictured ? placed : { ...placed, content: { ...content, illustration: null } }),
      )
      for (const width of [390, 1280]) {
        await page.setViewportSize({ width, height: 800 })
        await page.goto(site.put('/landing', { body: '', whole }), { waitUntil: 'load' })
        expect([pictured, width, await shiftOn(page)]).toEqual([pictured, width, 0])
      }
    }
  })

  test('under a strict policy, which allows no style attribute, hardly anything moves', async ({ page, box, site }) => {
    await watchShifts(page)
    const { content } = await versionOf(box, SPOT)
    const part = placePart(content, box.workshop, SPOT, await measured(page, box, 'serif'))
    const address = site.put('/post', {
      head: sharedLine(box.workshop),
      body: `<table width="100%"><tr><td>${TEXT}${part}${TEXT.repeat(30)}</td></tr></table>`,
      headers: { 'Content-Security-Policy': strict(box.workshop) },
    })
    await page.setViewportSize({ width: 700, height: 800 })
    await page.goto(address)
    await expect(form(page)).toBeVisible()
    expect(await shiftOn(page)).toBeLessThan(0.005)
    await expect(form(page)).toHaveCSS('display', 'block')
    await form(page).getByLabel('Email').fill('strict@post.example')
    await form(page).getByRole('button').click()
    await expect(form(page).getByRole('status')).toBeVisible()
  })

  test('a script that comes after the room was given back takes none from what is read: by a press, or out of sight', async ({
    page,
    box,
    site,
  }) => {
    await watchShifts(page)
    for (const isSeen of [true, false]) {
      const part = await place(box)
      const address = site.put('/post', {
        head: sharedLine(box.workshop),
        body: `<main>${isSeen ? '' : TEXT.repeat(60)}${part}${TEXT.repeat(30)}</main>`,
      })
      let letGo = () => {}
      await page.unroute('**/askbox.js')
      await page.route('**/askbox.js', async (route) => {
        await new Promise<void>((resolve) => (letGo = resolve))
        await route.continue()
      })
      await page.goto(address, { waitUntil: 'commit' })
      const link = page.locator('a[href*="/page/"]')
      const room = () =>
        page
          .locator('main svg')
          .first()
          .evaluate((svg) => svg.getBoundingClientRect().height)
      await expect.poll(room).toBeGreaterThan(100)
      await expect.poll(async () => (await page.screenshot()) && room(), { timeout: 30_000 }).toBeLessThan(2)
      const before = await shiftOn(page)
      const answered = page.waitForResponse('**/late.js')
      letGo()
      await answered
      // Until it is there, a press opens the form's page. The script asked for it first, and goes on first.
      await page.evaluate((address) => import(address) as Promise<unknown>, `${box.workshop}/late.js`)
      if (isSeen) {
        await expect(link).toBeVisible()
        await link.click()
        await expect(form(page).getByLabel('Email')).toBeFocused()
        expect(page.url()).toBe(address)
      } else await expect(page.locator('askbox-form')).toHaveCount(1)
      expect([isSeen, (await shiftOn(page)) - before]).toEqual([isSeen, 0])
    }
  })

  test('the place gives its room back where the script is blocked, hangs or may not run, and shrinks to the answer', async ({
    page,
    browser,
    box,
    site,
  }) => {
    const address = site.put('/post', { head: sharedLine(box.workshop), body: `<main>${await place(box)}</main>` })
    const height = (on: Page) => on.locator('main').evaluate((main) => (main as HTMLElement).offsetHeight)
    await Promise.all(
      ['blocked', 'hangs', 'no scripts'].map(async (way) => {
        const context = await browser.newContext({ javaScriptEnabled: way !== 'no scripts' })
        const visitor = await context.newPage()
        await visitor.route('**/askbox.js', (route) =>
          way === 'blocked' ? route.abort() : way === 'hangs' ? undefined : route.continue(),
        )
        await visitor.goto(address, { waitUntil: 'commit' })
        await expect.poll(() => height(visitor)).toBeGreaterThan(200)
        // The animation's clock goes on with each frame that is drawn, and beside other pages few may be.
        const drawn = async () => {
          await visitor.screenshot()
          return height(visitor)
        }
        await expect.poll(drawn, { timeout: 30_000 }).toBeLessThan(60)
        await expect(visitor.getByRole('link')).toBeVisible()
        await context.close()
      }),
    )
    await page.goto(address)
    await expect(form(page)).toBeVisible()
    const before = await height(page)
    await form(page).getByLabel('Email').fill('shrinks@post.example')
    await form(page).getByRole('button').click()
    await expect(form(page).getByRole('status')).toBeVisible()
    expect(await height(page)).toBeLessThan(before)
  })

  test('a page that a program makes keeps its link; the form comes and goes with it, in shadow roots too', async ({
    page,
    box,
    site,
  }) => {
    const errors = watchErrors(page)
    const link = `${box.workshop}/page/${SPOT}?utm_source=poster#askbox`
    const vue = readFileSync('node_modules/vue/dist/vue.global.prod.js', 'utf8').replaceAll('</', '<\\/')
    await page.goto(
      site.put('/app', {
        head: sharedLine(box.workshop),
        body: `<div id="app"></div><div id="shadow"></div><script>${vue}</script><script>
const { createApp, h, ref } = Vue
window.shown = ref(true); window.words = ref('Our letter')
createApp(() => h('main', [h('p', 'Before'), shown.value ? h('a', { href: '${link}' }, words.value) : null, h('p', 'After')])).mount('#app')
document.getElementById('shadow').attachShadow({ mode: 'open' }).innerHTML = '<a href="${link}">Our letter</a>'</script>`,
      }),
    )
    const own = page.locator('main form.askbox')
    await expect(page.locator('#shadow form.askbox')).toBeVisible()
    await own.getByLabel('Email').fill('half@typed')
    await page.evaluate(() => ((window as never as { words: { value: string } }).words.value = 'Other words'))
    await expect(page.getByRole('link', { name: 'Other words' })).toHaveCount(0)
    await page.evaluate(() => ((window as never as { shown: { value: boolean } }).shown.value = false))
    await expect(own).toHaveCount(0)
    await page.evaluate(() => ((window as never as { shown: { value: boolean } }).shown.value = true))
    await expect(own.getByLabel('Email')).toHaveValue('half@typed')
    expect(errors).toEqual([])
  })

  test('a place in what is closed is filled however late the script comes: whoever opens it finds the form', async ({
    page,
    box,
    site,
  }) => {
    let letGo = () => {}
    await page.route('**/askbox.js', async (route) => {
      await new Promise<void>((resolve) => (letGo = resolve))
      await route.continue()
    })
    const body = `<details><summary>Join us</summary>${await place(box)}</details>`
    await page.goto(site.put('/post', { head: sharedLine(box.workshop), body }), { waitUntil: 'commit' })
    await page.waitForFunction(() => performance.now() > 5_500)
    letGo()
    await expect(page.locator('askbox-form')).toHaveCount(1)
    await page.getByText('Join us').click()
    await expect(form(page).getByLabel('Email')).toBeVisible()
  })

  test('a shadow root that comes late is found, by an element that is defined late or by a program', async ({
    page,
    box,
    site,
  }) => {
    const part = JSON.stringify(await place(box)).replaceAll('</', '<\\/')
    await page.goto(
      site.put('/post', {
        head: sharedLine(box.workshop),
        body: `<late-card></late-card><div id="plain"></div><script>
          const fill = (host) => (host.attachShadow({ mode: 'open' }).innerHTML = ${part})
          window.later = { define: () => customElements.define('late-card', class extends HTMLElement { constructor() { super(); fill(this) } }),
            attach: () => fill(document.querySelector('#plain')) }</script>`,
      }),
    )
    // The script has come, and has looked round.
    await page.waitForFunction(
      () => customElements.get('askbox-form') !== undefined && document.readyState === 'complete',
    )
    for (const [way, host] of [
      ['define', 'late-card'],
      ['attach', '#plain'],
    ] as const) {
      await page.evaluate((how) => (window as never as { later: Record<string, () => void> }).later[how]!(), way)
      await expect(page.locator(`${host} askbox-form`).getByLabel('Email')).toBeVisible()
    }
  })

  test('a receiver that hangs is given up after ten seconds, and what was typed stays', async ({ page, box, site }) => {
    await page.addInitScript(() => {
      const waits = ((window as never as { waits: number[] }).waits = [] as number[])
      const original = AbortSignal.timeout.bind(AbortSignal)
      AbortSignal.timeout = (ms) => {
        waits.push(ms)
        return original(ms / 20)
      }
    })
    await page.route(`${box.workshop}/join/**`, () => undefined)
    await page.goto(site.put('/post', { head: sharedLine(box.workshop), body: await place(box) }))
    await form(page).getByLabel('Email').fill('patient@post.example')
    await form(page).getByRole('button').click()
    await expect(form(page).getByRole('alert')).toContainText('did not get through')
    await expect(form(page).getByLabel('Email')).toHaveValue('patient@post.example')
    expect(await page.evaluate(() => (window as never as { waits: number[] }).waits)).toContain(10_000)
  })

  test('a policy that forbids connecting after loading leaves the browser to send it', async ({ page, box, site }) => {
    const { content } = await versionOf(box, SPOT)
    const address = site.put('/post', { head: sharedLine(box.workshop), body: await place(box) })
    await page.goto(address)
    await expect(form(page)).toBeVisible()
    await page.evaluate((receiver) => {
      const policy = document.createElement('meta')
      policy.httpEquiv = 'Content-Security-Policy'
      policy.content = `connect-src 'none'; form-action ${receiver}`
      document.head.append(policy)
    }, box.workshop)
    await form(page).getByLabel('Email').fill('plainly@post.example')
    await form(page).getByRole('button').click()
    await expect(page.getByRole('heading', { name: content.answers.joined.heading })).toBeVisible()
    expect(page.url()).toContain('/answer/')
  })

  test('without the receiver the link stands there, without a hole; without network what was typed stays', async ({
    page,
    box,
    site,
  }) => {
    const errors = watchErrors(page)
    const address = site.put('/post', { head: sharedLine(box.workshop), body: `<main>${await place(box)}</main>` })
    await page.route(`${box.workshop}/form/**`, (route) => route.abort())
    await page.goto(address)
    await expect(page.locator('svg')).toBeHidden()
    await expect(page.getByRole('link')).toBeVisible()
    await page.unroute(`${box.workshop}/form/**`)

    await page.reload()
    await page.route(`${box.workshop}/join/**`, (route) => route.abort())
    await form(page).getByLabel('Email').fill('tunnel@post.example')
    await form(page).getByRole('button').click()
    await expect(form(page).getByRole('alert')).toContainText('did not get through')
    await expect(form(page).getByLabel('Email')).toHaveValue('tunnel@post.example')
    await page.unroute(`${box.workshop}/join/**`)
    await form(page).getByRole('button').click()
    await expect(form(page).getByRole('status')).toBeVisible()
    expect(errors).toEqual([])
  })

  test('included twice, before or after, several forms on a page, storage blocked: no harm', async ({
    page,
    box,
    site,
  }) => {
    const errors = watchErrors(page)
    const popUp = await openPopUp(box, { popUp: { ...startPopUp, when: { kind: 'at-once' } } })
    const line = sharedLine(box.workshop)
    const address = site.put('/post', {
      head: `<script>Object.defineProperty(window,'localStorage',{get(){throw new Error('blocked')}})</script>${line}${popUpPart(box.workshop, popUp)}`,
      body: `${line}${await place(box)}${await place(box)}${await place(box, 'starchart' as SpotId)}${line}`,
    })
    await page.goto(address)
    await expect(page.locator('askbox-form')).toHaveCount(3)
    await expect(page.getByRole('dialog')).toHaveCount(0)
    expect(
      await page.locator('askbox-form').evaluateAll((all) => all.map((one) => one.shadowRoot!.childElementCount)),
    ).toEqual([1, 1, 1])
    expect(errors).toEqual([])
  })

  test('where a site styles everything, the form keeps its looks', async ({ page, box, site }) => {
    const part = await place(box)
    const look = async (path: string, head: string) => {
      await page.goto(site.put(path, { head: `${sharedLine(box.workshop)}${head}`, body: part }))
      await expect(form(page)).toBeVisible()
      return form(page).evaluate((node) =>
        [node, ...node.querySelectorAll('*')].map((one) => {
          const { color, fontVariant, direction, textTransform, letterSpacing, display, borderTopWidth } =
            getComputedStyle(one)
          return [one.tagName, color, fontVariant, direction, textTransform, letterSpacing, display, borderTopWidth]
        }),
      )
    }
    const plain = await look('/plain', '')
    const styled = await look(
      '/styled',
      '<style>html{direction:rtl;font-variant:small-caps;text-transform:uppercase;letter-spacing:4px;-webkit-text-fill-color:red}*{border:3px solid red!important;color:red!important}askbox-form{display:none!important;filter:blur(9px)!important}</style>',
    )
    expect(styled).toEqual(plain)
  })
})

test('plain code is made better where it stands', { tag: '@way' }, async ({ page, box, site }) => {
  const posted = await (await fetch(`${box.sites}/posts/first-frost`)).text()
  const plain = posted.slice(posted.indexOf('<form class="askbox'), posted.indexOf('</form>') + 7)
  await page.goto(site.put('/post', { head: sharedLine(box.workshop), body: plain }))
  const email = page.getByLabel('Email')
  await expect(page.locator('form.askbox')).toHaveJSProperty('noValidate', true)
  await email.fill('nobody')
  await page.getByRole('button').click()
  await expect(page.getByText('not a complete email address')).toBeVisible()
  await email.fill('better@post.example')
  await page.getByRole('button').click()
  await expect(page.getByRole('status')).toBeVisible()
  expect(page.url()).toContain(site.address)
})

test('a form of every shape is posted once, by script, plain, in a frame and as a pop-up', async ({
  page,
  box,
  site,
}) => {
  test.setTimeout(400_000)
  const popUp = await openPopUp(box, { popUp: { ...startPopUp, when: { kind: 'at-once' } } })
  const { form: formId } = await versionOf(box, SPOT)
  for (const [at, shape] of shapes.entries()) {
    await publishNext(box, formId, (content) => ({
      ...reshaped(content, shape, quietPalette),
      fields: content.fields.filter(({ kind }) => kind === 'email'),
    }))
    const version = await versionOf(box, SPOT)
    const plain = plainCode({
      ...{ content: version.content, form: version.form, version: version.number, spot: SPOT, receiver: box.workshop },
    })
    const ways = {
      script: { body: await place(box), frame: null },
      plain: { body: plain, frame: null },
      frame: {
        body: `<iframe title="F" width="680" height="700" src="${box.workshop}/frame/${SPOT}"></iframe>`,
        frame: 'iframe',
      },
      'pop-up': { body: TEXT, frame: null, head: popUpPart(box.workshop, popUp) },
    }
    for (const [way, { body, frame, ...more }] of Object.entries(ways)) {
      let posts = 0
      page.removeAllListeners('request')
      page.on('request', (request) => {
        if (request.method() === 'POST' && request.url().includes('/join/')) posts += 1
      })
      const head = `${sharedLine(box.workshop)}${'head' in more ? more.head : ''}`
      // Shown though it was shown before.
      const again = way === 'pop-up' ? '#askbox-again' : ''
      await page.goto(site.put(`/${shape.key}-${way}`, { head, body }) + again)
      const within = frame === null ? page : page.frameLocator(frame)
      const email = within.locator('form.askbox input[type=email]').first()
      await email.fill(`${way}${at}@every.example`)
      await email.press('Enter')
      // Nobody who has just joined reads that they were there already.
      await expect(
        within
          .locator('.askbox-heading, h1')
          .filter({ hasText: /You are on the list|Thank you|Nearly|inbox/i })
          .first(),
      ).toBeVisible()
      expect([shape.key, way, posts]).toEqual([shape.key, way, 1])
    }
  }
})

test('sent by Enter, a slip is asked about after the answer; one press mends it, and the wrong address is off', async ({
  page,
  box,
  site,
}) => {
  await page.goto(site.put('/post', { head: sharedLine(box.workshop), body: await place(box) }))
  await form(page).getByLabel('Email').fill('ｗren.slip@gmial.com')
  await form(page).getByLabel('Email').press('Enter')
  const answer = form(page).locator('.askbox-result')
  await answer.getByRole('button', { name: 'Did you mean wren.slip@gmail.com?' }).click()
  await expect(answer).toContainText('wren.slip@gmail.com')
  await expect(answer.getByRole('button', { name: 'Did you mean' })).toHaveCount(0)
  // One person, corrected by themselves: nobody came a second time, and nobody was taken off.
  const [arrival, correction] = (await entriesAfter(box, 0)).slice(-2) as [Arrival, Entry]
  expect([arrival.kind, arrival.personal?.email?.typed]).toEqual(['arrival', 'wren.slip@gmial.com'])
  expect(correction).toMatchObject({
    kind: 'member-corrected',
    member: arrival.member,
    personal: { email: { typed: 'wren.slip@gmail.com' } },
  })
})

test('without a net it says so, keeps what was typed, and sends it once there is one', async ({ page, box, site }) => {
  await page.goto(site.put('/post', { head: sharedLine(box.workshop), body: await place(box) }))
  await form(page).getByLabel('Email').fill('offline@post.example')
  await page.context().setOffline(true)
  await form(page).getByLabel('Email').press('Enter')
  await expect(form(page).getByText('You are offline.')).toBeVisible()
  await form(page).getByRole('button', { name: 'Do not send it' }).click()
  await expect(form(page).getByLabel('Email')).toHaveValue('offline@post.example')
  await form(page).getByLabel('Email').press('Enter')
  await expect(form(page).getByText('You are offline.')).toBeVisible()
  await page.context().setOffline(false)
  await expect(form(page).getByRole('status')).toBeVisible()
  // Loaded anew, what was typed is there again.
  await page.goto(site.put('/again', { head: sharedLine(box.workshop), body: await place(box) }))
  await form(page).getByLabel('Email').fill('typed@post.example')
  await page.reload()
  await expect(form(page).getByLabel('Email')).toHaveValue('typed@post.example')
})

test.describe('a pop-up', () => {
  const dialog = (page: Page) => page.getByRole('dialog')

  test(
    'is a dialog as the ARIA Authoring Practices describe it, left by Escape, button and ground',
    { tag: '@way' },
    async ({ page, box, site }) => {
      const popUp = await openPopUp(box, {
        popUp: { ...startPopUp, when: { kind: 'half' }, often: { kind: 'every-visit' } },
      })
      const address = site.put('/post', {
        head: popUpPart(box.workshop, popUp),
        body: `<a href="#here">A link</a>${TEXT.repeat(80)}<button>Behind</button>`,
      })
      const leave: Record<string, () => Promise<void>> = {
        Escape: () => page.keyboard.press('Escape'),
        button: () => dialog(page).getByRole('button', { name: labels.close }).click(),
        ground: () => page.mouse.click(5, 5),
      }
      for (const [name, act] of Object.entries(leave)) {
        await test.step(name, async () => {
          await page.goto(address)
          await page.evaluate(() => sessionStorage.clear())
          await page.goto(address)
          await expect(page.locator('askbox-form')).toHaveCount(0)
          await page.getByRole('link', { name: 'A link' }).focus()
          await expect(async () => {
            await page.mouse.wheel(0, 900)
            await expect(dialog(page)).toBeVisible({ timeout: 200 })
          }).toPass()
          // Named, over the page, with the focus in it; nothing behind it can be reached.
          await expect(dialog(page)).toHaveAccessibleName(/./)
          expect(await page.evaluate(() => document.activeElement?.localName)).toBe('askbox-form')
          for (let count = 0; count < 8; count++) {
            await page.keyboard.press('Tab')
            expect(await page.evaluate(() => document.activeElement?.localName ?? 'body')).toMatch(/askbox-form|body/)
          }
          if (name === 'Escape')
            expect(await violationsOn(page, { within: 'askbox-form', also: ['best-practice'] })).toEqual([])
          await act()
          await expect(dialog(page)).toHaveCount(0)
          await expect.poll(() => page.evaluate(() => document.activeElement?.textContent)).toBe('A link')
        })
      }
    },
  )

  test('appears as often, on those pages, and again when its owner asks', async ({ page, box, site }) => {
    const head = popUpPart(box.workshop, 'somepopup' as SpotId)
    const visit = async (path: string, isShown: boolean) => {
      await page.goto('about:blank')
      await page.goto(
        site.put(path.split('#')[0]!, { head, body: TEXT }) + (path.includes('#') ? `#${path.split('#')[1]}` : ''),
      )
      await page.waitForLoadState('networkidle')
      await expect(dialog(page)).toHaveCount(isShown ? 1 : 0)
    }
    const rules = { ...startPopUp, when: { kind: 'at-once' as const } }
    await openPopUp(box, {
      popUp: { ...rules, often: { kind: 'once' }, pages: { which: 'only', patterns: ['/posts/*'] } },
    })
    await visit('/about', false)
    await visit('/posts/one', true)
    await visit('/posts/two', false)
    await visit('/about#askbox-again', true)
    await openPopUp(box, { popUp: { ...rules, often: { kind: 'days', days: 3 } } })
    await visit('/about', false)
    // Four days later.
    await page.evaluate(() => localStorage.setItem('askbox-somepopup', String(Date.now() - 4 * 86_400_000)))
    await visit('/about', true)
    await dialog(page).getByLabel('Email').fill('popped@post.example')
    await dialog(page).locator('.askbox-button').click()
    await expect(dialog(page).getByRole('status')).toBeVisible()
    await openPopUp(box, { popUp: { ...rules, often: { kind: 'every-visit' } } })
    await visit('/about', false)
    await openPopUp(box, { state: 'paused' })
    await page.evaluate(() => localStorage.clear())
    await visit('/about', false)
  })

  test('on touch screens, which nothing leaves, it comes with whoever comes back to the page', async ({
    browser,
    box,
    site,
  }) => {
    const popUp = await openPopUp(box, {
      popUp: { ...startPopUp, when: { kind: 'leaving' }, often: { kind: 'every-visit' } },
    })
    const address = site.put('/post', { head: popUpPart(box.workshop, popUp), body: TEXT })
    for (const isTouch of [true, false]) {
      const context = await browser.newContext({ hasTouch: isTouch, isMobile: isTouch })
      const page = await context.newPage()
      await page.goto(address)
      await page.waitForLoadState('networkidle')
      await page.evaluate(() => document.dispatchEvent(new Event('visibilitychange')))
      await expect(dialog(page)).toHaveCount(isTouch ? 1 : 0)
      await context.close()
    }
  })

  test('in a corner leaves the focus and the page alone; on leaving it comes', async ({ page, box, site }) => {
    const popUp = await openPopUp(box, {
      popUp: { ...startPopUp, position: 'bottom-end', when: { kind: 'leaving' }, often: { kind: 'every-visit' } },
    })
    await page.goto(
      site.put('/post', { head: popUpPart(box.workshop, popUp), body: `<button>Of the page</button>${TEXT}` }),
    )
    await page.waitForLoadState('networkidle')
    await page.getByRole('button', { name: 'Of the page' }).focus()
    await expect(dialog(page)).toHaveCount(0)
    await page.evaluate(() => document.documentElement.dispatchEvent(new MouseEvent('mouseleave', { clientY: -1 })))
    await expect(dialog(page)).toBeVisible()
    expect(await page.evaluate(() => document.activeElement?.textContent)).toBe('Of the page')
    await page.getByRole('button', { name: 'Of the page' }).click()
    await dialog(page).getByLabel('Email').focus()
    await page.keyboard.press('Escape')
    await expect(dialog(page)).toHaveCount(0)
    // The dialog tells of its closing in a task of its own.
    await expect.poll(() => page.evaluate(() => document.activeElement?.textContent)).toBe('Of the page')
  })

  test('comes when nobody is typing, nothing lies over the page, and its address is one of those', async ({
    page,
    box,
    site,
  }) => {
    const popUp = await openPopUp(box, {
      popUp: {
        ...startPopUp,
        when: { kind: 'at-once' },
        often: { kind: 'every-visit' },
        pages: { which: 'only', patterns: ['/posts/*'] },
      },
    })
    const address = site.put('/start', {
      head: popUpPart(box.workshop, popUp),
      body: `<input aria-label="Search"><div role="dialog" aria-label="Of the page" id="own">About cookies</div>${TEXT.repeat(80)}`,
    })
    const ours = page.locator('askbox-form.pop-up').getByRole('dialog')
    const waiting = page.waitForResponse('**/form/*.json')
    await page.goto(address)
    await waiting
    await page.getByLabel('Search').pressSequentially('What is')
    await page.evaluate(() => history.pushState(null, '', '/posts/one'))
    await page.getByLabel('Search').pressSequentially(' seen through the large telescope in spring?', { delay: 30 })
    await expect(page.getByLabel('Search')).toHaveValue('What is seen through the large telescope in spring?')
    await expect(ours).toHaveCount(0)
    await page.getByLabel('Search').fill('')
    await page.getByLabel('Search').blur()
    await page.locator('#own').evaluate((own) => own.remove())
    await expect(ours).toBeVisible()
    // The page behind stays where it is.
    await page.mouse.move(600, 10)
    await page.mouse.wheel(0, 900)
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))))
    expect(await page.evaluate(() => scrollY)).toBe(0)
  })

  test('whoever joined in a form of the page is not asked', async ({ page, box, site }) => {
    const popUp = await openPopUp(box, { popUp: { ...startPopUp, when: { kind: 'half' }, often: { kind: 'once' } } })
    await page.goto(
      site.put('/post', { head: popUpPart(box.workshop, popUp), body: `${await place(box)}${TEXT.repeat(99)}` }),
    )
    await form(page).getByLabel('Email').fill('in-the-form@post.example')
    await form(page).getByRole('button').click()
    await expect(form(page).getByRole('status')).toBeVisible()
    expect(await page.evaluate((spot) => localStorage.getItem(`askbox-${spot}`), popUp)).toBe('joined')
  })

  test('its cross stays in sight on a small screen, and its corner is the window’s', async ({ page, box, site }) => {
    await page.setViewportSize({ width: 320, height: 480 })
    for (const position of ['middle', 'bottom-end'] as const) {
      const popUp = await openPopUp(box, {
        popUp: { ...startPopUp, position, when: { kind: 'at-once' }, often: { kind: 'every-visit' } },
      })
      const { form: id } = await versionOf(box, popUp)
      await publishNext(box, id, (content) => ({
        ...content,
        words: { ...content.words, introduction: richText('What was seen, and what is to be seen. '.repeat(20)) },
      }))
      const address = site.put('/post', {
        head: `${popUpPart(box.workshop, popUp)}<style>body{transform:translateY(0)}</style>`,
        // Its owner, who asks for it by the address, sees it beside whatever else is open.
        body: `<dialog open aria-hidden="true">About cookies</dialog>${TEXT.repeat(80)}`,
      })
      await page.goto('about:blank')
      await page.goto(`${address}#askbox-again`)
      await expect(dialog(page)).toBeVisible()
      await dialog(page).evaluate((node) => node.scrollTo(0, node.scrollHeight))
      const close = dialog(page).getByRole('button', { name: labels.close })
      await expect(close).toBeInViewport({ ratio: 1 })
      const { y, height } = (await dialog(page).boundingBox())!
      expect(y >= 0 && y + height <= 480).toBe(true)
      await close.click()
      await expect(dialog(page)).toHaveCount(0)
    }
  })
})

function watchErrors(page: Page): string[] {
  const errors: string[] = []
  page.on('pageerror', (error) => errors.push(String(error)))
  return errors
}

function watchRequests(page: Page): () => string[] {
  const asked: string[] = []
  page.on('request', (request) => asked.push(request.url()))
  return () => asked.filter((url) => url.startsWith('http'))
}

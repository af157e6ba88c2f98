import { readFileSync } from 'node:fs'
import { request } from 'node:http'
import { type Browser, type BrowserContext, type BrowserContextOptions, chromium, type Page } from '@playwright/test'
import { placePart, plainCode, sharedLine } from '#core/embed'
import type { Seen } from '#core/api'
import type { Version } from '#core/form'
import type { SpotId, TrialId } from '#core/ids'
import type { Entry } from '#core/journal'
import { sourceOf } from '#core/signup'
import { changeObject, entriesAfter, objectsOf } from '../api'
import { chromiumLaunch } from '../chromium'
import type { RunningBox } from '../programs'
import { violationsOn } from './axe'
import { expect, type MadeSite, test } from './pages'
import { picture, rewrite } from './form-station'

const SCRIPT = 'firstfrost' as SpotId
const FRAME = 'schoolvisit' as SpotId
const LANDING = 'starchart' as SpotId
const PLAIN = 'opennights' as SpotId
const BROWSER = 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Safari/537.36'

async function versionOf(box: RunningBox, spot: SpotId): Promise<Version> {
  const { form } = (await objectsOf(box, 'spot')).find(({ key }) => key === spot)!.body!
  return (await objectsOf(box, 'version')).map(({ body }) => body!).findLast((one) => one.form === form)!
}
async function seenBy(box: RunningBox): Promise<Seen> {
  const day = (ms: number) => new Date(ms).toISOString().slice(0, 10)
  const path = `/api/seen?from=${day(Date.now() - 86_400_000)}&to=${day(Date.now() + 86_400_000)}&closely=yes`
  const response = await fetch(`${box.workshop}${path}`, { headers: { Authorization: `Bearer ${box.key}` } })
  return (await response.json()) as Seen
}
async function wholeJournal(box: RunningBox): Promise<Entry[]> {
  const entries: Entry[] = []
  for (;;) {
    const page = await entriesAfter<Entry>(box, entries.at(-1)?.n ?? 0)
    if (page.length === 0) return entries
    entries.push(...page)
  }
}

async function sumsOf(box: RunningBox, spot: SpotId) {
  const { rows } = await seenBy(box)
  const sum = (part: 'views' | 'starts') =>
    rows.filter((row) => row.spot === spot).reduce((all, row) => all + row[part], 0)
  return { views: sum('views'), starts: sum('starts') }
}

/** As a visitor's browser is: neither a program, nor driven by one. What a page sends as it is left has the browser's own name. */
const visitorsBrowser = () =>
  chromium.launch({ ...chromiumLaunch, args: [...chromiumLaunch.args, `--user-agent=${BROWSER}`] })
const TABLET = {
  viewport: { width: 820, height: 1_180 },
  userAgent: BROWSER.replace('X11; Linux x86_64', 'Linux; Android 15; Tablet'),
}
const contextIn = async (browser: Browser, options: BrowserContextOptions = {}): Promise<BrowserContext> => {
  const context = await browser.newContext(options)
  await context.addInitScript("Object.defineProperty(Navigator.prototype, 'webdriver', { get: () => false })")
  return context
}

test('views, beginnings and sign-ups are counted by script, frame and page, and by plain code said to be unknown', async ({
  box,
  site,
}) => {
  const browser = await visitorsBrowser()
  const context = await contextIn(browser)
  const version = await versionOf(box, SCRIPT)
  const part = placePart(version.content, box.workshop, SCRIPT, [{ width: 680, height: 300 }])
  const far = '<p style="height:3000px">Far above it.</p>'
  const near = site.put('/post', { head: sharedLine(box.workshop), body: part })
  const below = site.put('/long', { head: sharedLine(box.workshop), body: `${far}${part}` })
  const heard = `<script>for (const name of ['seen','started','joined']) addEventListener('askbox:' + name, ({ detail }) => document.title += ' ' + name + ':' + detail.spot)</script>`
  const listening = site.put('/listening', { head: sharedLine(box.workshop) + heard, body: part })
  const before = { [SCRIPT]: await sumsOf(box, SCRIPT), [LANDING]: await sumsOf(box, LANDING) }
  const form = (page: Page) => page.locator('form.askbox')

  // Seen and left; then not seen, because nobody scrolled to it.
  let page = await context.newPage()
  await page.goto(near)
  await expect(form(page)).toBeVisible()
  await page.goto(below)
  await expect(form(page)).toBeVisible()
  await page.close({ runBeforeUnload: true })
  // Seen, begun and joined; the page's own programs hear of it, and of no address.
  page = await context.newPage()
  await page.goto(`${listening}?utm_source=poster`)
  await expect(page).toHaveTitle(/ seen:firstfrost/)
  await form(page).getByLabel('Email').fill('results@visitor.example')
  await form(page).getByRole('button').click()
  await expect(page.getByRole('status')).toBeVisible()
  await expect(page).toHaveTitle(/seen:firstfrost started:firstfrost joined:firstfrost$/)
  await page.goto('about:blank')
  await expect
    .poll(async () => (await seenBy(box)).rows.filter(({ spot, source }) => spot === SCRIPT && source === 'poster'))
    .toMatchObject([{ views: 1, starts: 1, device: 'computer' }])

  await countsFrames({ box, site, context, before: before[LANDING]! })
  // Of the two pages that were only opened, at most the one where it was on screen is counted.
  expect((await sumsOf(box, SCRIPT)).views).toBeLessThanOrEqual(before[SCRIPT]!.views + 2)
  await browser.close()
})

/** A form in a frame, a page of its own, and plain code on a page without a script. */
async function countsFrames({
  box,
  site,
  context,
  before,
}: {
  box: RunningBox
  site: MadeSite
  context: BrowserContext
  before: { views: number; starts: number }
}): Promise<void> {
  const form = (page: Page) => page.locator('form.askbox')
  const plain = plainCode({
    ...{ content: (await versionOf(box, PLAIN)).content, form: (await versionOf(box, PLAIN)).form },
    ...{ version: (await versionOf(box, PLAIN)).number, spot: PLAIN, receiver: box.workshop },
  })
  // What the document tells site owners to write, as it stands there.
  const documented = /```js\n(const isOurs[\s\S]*?)```/.exec(readFileSync('docs/how/results.md', 'utf8'))![1]!
  const listens = `<script>
    const count = (what, spot) => (document.title += ' ' + what.replace('form ', '') + ':' + spot)
    ${documented.replaceAll('https://forms.example', box.workshop)}
  </script>`
  // To the site of its spot and to no other.
  const framed = (path: string) =>
    site.put(path, {
      head: listens,
      body: `<iframe title="A form" width="680" height="600" src="${box.workshop}/frame/${FRAME}"></iframe>`,
    })
  const elsewhere = await context.newPage()
  await elsewhere.goto(framed('/elsewhere'))
  await expect(elsewhere.frameLocator('iframe').locator('form.askbox')).toBeVisible()
  const { site: own } = (await objectsOf(box, 'spot')).find(({ key }) => key === FRAME)!.body!
  await changeObject(box, 'site', own, { address: `${site.address}/` })
  let page = await context.newPage()
  await page.goto(framed('/framed'))
  await expect(page).toHaveTitle(/ seen:schoolvisit/)
  await page.frameLocator('iframe').getByLabel('Email').fill('framed@visitor.example')
  await expect(page).toHaveTitle(/ seen:schoolvisit started:schoolvisit/)
  await expect(elsewhere).toHaveTitle('A page')
  await elsewhere.close()
  await page.goto(site.put('/plain', { body: plain }))
  await expect(form(page)).toBeVisible()
  await page.goto(`${box.workshop}/page/${LANDING}`)
  await form(page).getByLabel('Email').fill('a')
  await page.goto('about:blank')
  await expect.poll(async () => (await sumsOf(box, FRAME)).views).toBe(2)
  await expect.poll(async () => (await sumsOf(box, FRAME)).starts).toBe(1)
  await expect.poll(async () => (await sumsOf(box, LANDING)).starts).toBe(before.starts + 1)
  expect((await sumsOf(box, LANDING)).views).toBe(before.views + 1)
  expect(await sumsOf(box, PLAIN)).toEqual({ views: 0, starts: 0 })
  // A form that is answered in its frame tells of that as well.
  page = await context.newPage()
  await page.goto(
    site.put('/joining', {
      head: listens,
      body: `<iframe title="A form" width="680" height="600" src="${box.workshop}/frame/${PLAIN}"></iframe>`,
    }),
  )
  await page.frameLocator('iframe').getByLabel('Email').fill('in.a.frame@visitor.example')
  await page.frameLocator('iframe').getByRole('button').click()
  await expect(page).toHaveTitle(/ started:opennights joined:opennights$/)
}

const words = (code: string) => `utm_source=${code}&utm_medium=paper&utm_campaign=autumn&utm_term=stars&utm_content=b`
const inWords = (code: string) => `${code}, paper, autumn, stars, b`
const before = 'https://www.search.example/found?q=private'
/** Where people come from, by every code, and the source that is told of them. */
const cameFrom = ({
  own,
  page,
  around,
  posted,
}: Record<'own' | 'page' | 'around' | 'posted', string>): {
  name: string
  spot: SpotId
  address: string
  referer?: string
  source: string
  views: number
}[] => [
  { name: 'five words', spot: SCRIPT, address: `${page}?${words('script')}`, source: inWords('script'), views: 1 },
  {
    name: 'a mark before the words',
    spot: SCRIPT,
    address: `${page}?source=fair&${words('no')}`,
    source: 'fair',
    views: 1,
  },
  {
    name: 'the page before',
    spot: SCRIPT,
    address: `${page}?by=search`,
    referer: before,
    source: 'search.example',
    views: 1,
  },
  {
    name: 'a page of its own',
    spot: LANDING,
    address: `${own}/page/${LANDING}?${words('landing')}`,
    source: inWords('landing'),
    views: 1,
  },
  {
    name: 'its mark',
    spot: LANDING,
    address: `${own}/page/${LANDING}?source=card`,
    source: 'card',
    views: 1,
  },
  {
    name: 'the page before it',
    spot: LANDING,
    address: `${own}/page/${LANDING}`,
    referer: before,
    source: 'search.example',
    views: 1,
  },
  {
    name: 'a frame, with the words of the page around it',
    spot: PLAIN,
    address: `${around}?source=gate`,
    source: 'gate',
    views: 1,
  },
  { name: 'a frame with the mark of its spot', spot: PLAIN, address: around, source: 'shop window', views: 1 },
  {
    name: 'plain code, whose views nobody tells',
    spot: PLAIN,
    address: `${posted}?source=leaflet&${words('plain')}`,
    source: 'leaflet',
    views: 0,
  },
]

test('a view and its sign-up have one source, whatever code shows the form', async ({ box, site }) => {
  const version = await versionOf(box, SCRIPT)
  const plain = await versionOf(box, PLAIN)
  const part = placePart(version.content, box.workshop, SCRIPT, [{ width: 680, height: 300 }])
  const page = site.put('/from', { head: sharedLine(box.workshop), body: part })
  const around = site.put('/around', {
    body: `<iframe title="A form" width="680" height="900" referrerpolicy="unsafe-url" src="${box.workshop}/frame/${PLAIN}"></iframe>`,
  })
  const posted = site.put('/posted', {
    head: '<meta name="referrer" content="unsafe-url" />',
    body: plainCode({
      ...{ content: plain.content, form: plain.form, version: plain.number },
      spot: PLAIN,
      receiver: box.workshop,
    }),
  })
  await changeObject(box, 'spot', PLAIN, { source: 'shop window' })
  const asked = cameFrom({ own: box.workshop, page, around, posted })
  const browser = await visitorsBrowser()
  const ours = async () =>
    (await wholeJournal(box)).flatMap((entry) =>
      entry.kind === 'arrival' && /^from\d+@/.test(entry.personal?.email?.typed ?? '') ? [entry] : [],
    )
  const counted = async (spot: SpotId, source: string) =>
    (await seenBy(box)).rows
      .filter((row) => row.spot === spot && row.source === source)
      .map(({ device, views }) => ({ device, views }))
  for (const [at, { name, spot, address, referer, source, views }] of asked.entries()) {
    const context = await contextIn(browser, TABLET)
    const opened = await context.newPage()
    await opened.goto(address, referer === undefined ? {} : { referer })
    const place = name.startsWith('a frame') ? opened.frameLocator('iframe') : opened
    await place.locator('form.askbox').getByLabel('Email').fill(`from${at}@visitor.example`)
    if (spot === LANDING) await place.locator('form.askbox').getByRole('checkbox').check()
    await place.locator('form.askbox').locator('.askbox-button').click()
    await expect.poll(async () => (await ours()).length, name).toBe(at + 1)
    await opened.goto('about:blank')
    await context.close()
    await expect.poll(() => counted(spot, source), name).toEqual(views === 0 ? [] : [{ device: 'tablet', views }])
  }
  const arrivals = await ours()
  expect(arrivals.map(({ personal }) => sourceOf(personal!.cameFrom ?? {}))).toEqual(asked.map(({ source }) => source))
  expect(arrivals.at(-1)!.personal!.cameFrom!.campaign).toBe(inWords('plain'))
  expect(arrivals.map(({ viewed = false }) => viewed)).toEqual(asked.map(({ views }) => views === 1))
  await browser.close()
})

test(
  'results are shown by spot, form and source, as a table too, and saved',
  { tag: '@way' },
  async ({ box, browser }) => {
    const context = await browser.newContext({ serviceWorkers: 'block' })
    const page = await context.newPage()
    await page.goto(box.pairing)
    await expect(page.getByText('all saved')).toBeVisible()
    await page.getByRole('link', { name: 'Results' }).click()
    await expect(page.getByText(/people signed up, and \d+ came onto a list/)).toBeVisible()
    const row = page.getByRole('row', { name: /Observatory site, landing page/ })
    await expect(row).toContainText(/between \d+ and \d+ in 100/)
    await expect(page.getByRole('row', { name: /Volunteers’ blog, inline/ })).toContainText('not counted')
    await expect(page.getByRole('img', { name: /Sign-ups by day/ })).toBeVisible()
    expect(await violationsOn(page)).toEqual([])
    await page.getByRole('button', { name: 'As a table: Sign-ups by day' }).click()
    await expect(page.getByRole('columnheader', { name: 'What happened' })).toBeVisible()
    // The table, the sentence and the file tell of the same people.
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save as CSV' }).click(),
    ])
    const csv = (await (await download.createReadStream()).toArray()).join('')
    const signUps = csv
      .trim()
      .split('\r\n')
      .slice(1)
      .reduce((all, line) => all + Number(line.split(',').at(-8)), 0)
    await expect(page.getByText(new RegExp(`^${signUps} people signed up`))).toBeVisible()
    await expect(page.getByText(/sign-ups, most were on a \w+day \(\d+\), and between/)).toBeVisible()
    await expect(page.getByText(/people confirmed by mail; most often it took/)).toBeVisible()
    await expect(page.getByText(/came onto a list(, \d+ of them by a file or by hand)?; \d+ left/)).toBeVisible()
    await page.getByRole('button', { name: 'As a chart: Sign-ups by day' }).click()
    await expect(page.getByRole('img', { name: /Sign-ups by day/ }).locator('.apexcharts-svg')).toBeVisible()

    await savesCharts(page)
    await savesAPage(page, signUps)
    await page.getByRole('tab', { name: 'By source' }).click()
    await expect(page.getByRole('row', { name: /Nothing told/ })).toBeVisible()
    await page.getByRole('combobox', { name: 'Which forms' }).click()
    await page.getByRole('option', { name: /Star chart/ }).click()
    await expect(page.getByText(new RegExp(`^${signUps} people signed up`))).toHaveCount(0)
    await expect(page.getByRole('link', { name: 'Try other words' })).toBeVisible()
    expect(await violationsOn(page)).toEqual([])
    await page.emulateMedia({ colorScheme: 'dark' })
    await page.setViewportSize({ width: 360, height: 780 })
    await expect(page.locator('html')).toHaveClass(/dark/)
    expect(await violationsOn(page)).toEqual([])
    await context.close()
  },
)

/** As one of many visitors, each with an address of their own. */
function asVisitor(n: number, address: string, body?: string): Promise<string> {
  return new Promise((resolve, reject) => {
    const asked = request(
      address,
      {
        method: body === undefined ? 'GET' : 'POST',
        localAddress: `127.${1 + (n % 200)}.${1 + Math.floor(n / 200)}.7`,
        headers: {
          'User-Agent': BROWSER,
          Accept: body === undefined ? 'text/html' : 'application/json',
          ...(body !== undefined && { 'Content-Type': 'application/x-www-form-urlencoded' }),
        },
      },
      (response) => {
        let text = ''
        response.on('data', (piece) => (text += piece))
        response.on('end', () => resolve(text))
      },
    )
    asked.on('error', reject)
    asked.end(body)
  })
}

test('other words are tried beside those of a page: planned, shown in turn to a crowd, judged, and published', async ({
  paired: workshop,
  box,
}) => {
  await workshop.goto(`${box.workshop}/forms/starchartform/form`)
  await rewrite(picture(workshop).getByRole('heading').first(), 'Your sky, on one sheet')
  await workshop.goto(`${box.workshop}/results/wordings/starchartform`)
  await expect(workshop.getByText(/Now between \d+ and \d+ in 100 of those who see it sign up there/)).toBeVisible()
  await expect(workshop.getByText(/Up to [\d,]+ views of each wording, [\d,]+ in all: at today’s pace/)).toBeVisible()
  await workshop.getByLabel('Name of these words').fill('One sheet')
  expect(await violationsOn(workshop)).toEqual([])
  await workshop.getByRole('button', { name: 'Begin the trial' }).click()
  await expect(workshop.getByText(/The trial has begun/)).toBeVisible()
  const trial = workshop.getByRole('region', { name: /Trial at Observatory site, landing page/ })
  await expect(trial.getByRole('status')).toHaveText('Too early to say anything.')

  // Each who comes is shown one of the two by chance; the new words bring more.
  const shown = { before: 0, new: 0 }
  const joined = { before: 0, new: 0 }
  const versions = { before: '', new: '' }
  for (let n = 0; n < 320; n++) {
    const page = await asVisitor(n, `${box.workshop}/page/${LANDING}`)
    const which = page.includes('Your sky, on one sheet') ? 'new' : 'before'
    shown[which] += 1
    if (shown[which] % (which === 'new' ? 2 : 8) > 0) continue
    const version = /name="askbox-version"[^>]*value="(\d+)"/.exec(page)![1]!
    versions[which] = version
    const view = /name="askbox-view"[^>]*value="([^"]+)"/.exec(page)![1]!
    const typed = `email=crowd${n}%40visitor.example&consent=yes&askbox-version=${version}&askbox-seconds=20`
    const answer = await asVisitor(n, `${box.workshop}/join/${LANDING}`, `${typed}&askbox-view=${view}`)
    expect(JSON.parse(answer)).toMatchObject({ outcome: 'joined' })
    joined[which] += 1
  }
  expect(shown.before + shown.new).toBe(320)
  // Who was shown nothing chooses no wording.
  for (let n = 0; n < 20; n++)
    await asVisitor(
      ...([400 + n, `${box.workshop}/join/${LANDING}`] as const),
      `email=stuffed${n}%40visitor.example&consent=yes&askbox-version=${versions.new}&askbox-seconds=20`,
    )
  await expect(trial.getByRole('status')).toContainText('“One sheet” is better')
  const numbers = (name: string) => trial.getByRole('row', { name: new RegExp(`^${name}`) }).getByRole('cell')
  await expect(numbers('As it was').nth(1)).toHaveText(`${shown.before}`)
  await expect(numbers('One sheet').nth(1)).toHaveText(`${shown.new}`)
  await expect(numbers('As it was').nth(2)).toHaveText(`${joined.before}`)
  await expect(numbers('One sheet').nth(2)).toHaveText(`${joined.new}`)
  expect(await violationsOn(workshop)).toEqual([])

  await trial.getByRole('button', { name: 'Publish “One sheet”' }).click()
  await workshop.getByRole('button', { name: 'Publish it' }).click()
  await expect(workshop.getByText(/Version 4 is published/)).toBeVisible()
  await expect(trial.getByText('chosen')).toBeVisible()
  for (let n = 0; n < 6; n++)
    expect(await asVisitor(n, `${box.workshop}/page/${LANDING}`)).toContain('Your sky, on one sheet')
  // What was only tried is not shown any more, even to whom it was shown.
  const asked = await asVisitor(1, `${box.workshop}/form/${LANDING}.json?version=2`)
  expect(JSON.parse(asked)).toMatchObject({ version: 4 })
})

test('a browser keeps which words it was shown where their owner allows storage, and nothing else; the page hears the address where chosen', async ({
  box,
  site,
  browser,
}) => {
  const version = await versionOf(box, SCRIPT)
  const { form, number } = version
  const wordings = [number + 1, number + 2].map((one) => ({ version: one, name: `Words ${one}` }))
  for (const { version: one, name } of wordings)
    await changeObject(box, 'version', `${form}/${one}`, {
      ...{ ...version, number: one, isTried: true },
      content: { ...version.content, words: { ...version.content.words, heading: name }, tellsAddress: true },
    })
  const trial = (isKept: boolean, isOver = false) =>
    changeObject(box, 'trial', 'keptwords', {
      ...{ id: 'keptwords' as TrialId, form, spot: SCRIPT, wordings, isKept },
      ...{ plan: { rate: 0.1, difference: 0.05, views: 1_000 }, startedAt: new Date().toISOString() },
      ...(isOver && { ended: { at: new Date().toISOString(), counts: [], chosen: null } }),
    })
  const heard = `<script>addEventListener('askbox:joined', ({ detail }) => (document.title = detail.address))</script>`
  const address = site.put('/trial', {
    head: sharedLine(box.workshop) + heard,
    body: placePart(version.content, box.workshop, SCRIPT, [{ width: 680, height: 300 }]),
  })
  const context = await browser.newContext()
  const page = await context.newPage()
  const visit = async () => {
    await page.goto(address)
    const field = page.locator('form.askbox [name="askbox-version"]')
    await expect(field).toBeAttached()
    return Number(await field.getAttribute('value'))
  }
  const stored = () => page.evaluate(() => JSON.stringify({ ...localStorage }))

  await trial(false)
  const shown = new Set<number>()
  // By chance at each view: that 30 of them show the same comes once in 500 million times.
  for (let view = 0; view < 30 && shown.size < 2; view++) shown.add(await visit())
  expect([...shown].toSorted()).toEqual(wordings.map((one) => one.version))
  expect(await stored()).toBe('{}')

  await trial(true)
  const kept = await visit()
  expect(JSON.parse(await stored())).toEqual({ [`askbox-wording-${SCRIPT}`]: `${kept}` })
  for (let view = 0; view < 8; view++) expect(await visit()).toBe(kept)
  await page.locator('form.askbox').getByLabel('Email').fill('Kept.Words@visitor.example')
  await page.locator('form.askbox').getByRole('button').click()
  await expect(page).toHaveTitle('Kept.Words@visitor.example')

  await trial(true, true)
  expect(await visit()).toBe(number)
  await context.close()
})

async function savesCharts(page: Page): Promise<void> {
  for (const name of ['Sign-ups by day', 'How lists grew', 'When people sign up', 'How long confirming takes'])
    for (const kind of ['PNG', 'SVG']) {
      const [picture] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('button', { name: `${kind}: ${name}` }).click(),
      ])
      expect(picture.suggestedFilename()).toMatch(kind === 'PNG' ? /\.png$/ : /\.svg$/)
      const [first] = (await (await picture.createReadStream()).toArray()) as Buffer[]
      expect(first!.subarray(0, 4).toString('latin1')).toBe(kind === 'PNG' ? '\x89PNG' : '<svg')
    }
}

/** The page for a client needs nothing else, runs nothing, and says the same. */
async function savesAPage(page: Page, signUps: number): Promise<void> {
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as a page' }).click(),
  ])
  const report = await page.context().newPage()
  const asked: string[] = []
  report.on('request', (request) => asked.push(request.url()))
  await report.setContent((await (await saved.createReadStream()).toArray()).join(''))
  await expect(report.getByText(new RegExp(`^${signUps} people signed up`))).toBeVisible()
  await expect(report.getByRole('img', { name: /Sign-ups by day/ })).toBeVisible()
  await expect(report.getByRole('cell', { name: /^Observatory site, landing page/ })).toBeVisible()
  expect(await report.locator('script').count()).toBe(0)
  expect(asked.filter((address) => !address.startsWith('data:'))).toEqual([])
  expect(await violationsOn(report)).toEqual([])
  await report.close()
}

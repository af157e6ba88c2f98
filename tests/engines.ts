import { spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { resolve } from 'node:path'
import { Builder, type WebDriver, type WebElement } from 'selenium-webdriver'
import { codeAs, pageAddress, sharedLine } from '#core/embed'
import type { Form, FormContent, Version } from '#core/form'
import type { FormId, SpotId } from '#core/ids'
import { personFor, rehearsalAddress } from '#core/proof'
import { visitOf } from '#core/rehearsal'
import type { CodeKind, Spot } from '#core/spot'
import { fillsOf } from '#core/usable'
import { BrowserProcess } from '../src/receiver/browser'
import { until } from '../src/receiver/browser/waiting'
import { builtScripts, type Ground, openGround, page } from './rehearsal-ground'
import * as samples from './tables/samples'
import { popUpSpot } from './verdicts/cases'

/*
 * `npm run engines`: each kind of code, a pop-up, a landing page and a side column, tried in Firefox (Debian's firefox-esr,
 * WebDriver BiDi) and in WebKit (Debian's webkit2gtk-driver on a virtual screen, xvfb). Not part of the tests: neither engine
 * has to be installed for them.
 */

const MINI_BROWSER = '/usr/lib/x86_64-linux-gnu/webkit2gtk-4.1/MiniBrowser'
const DRIVER = '/usr/bin/WebKitWebDriver'
const WAIT_MS = 15_000
/** Where this runs through a compiler that names functions. */
const NAMED = 'const __name = (named) => named;'

interface Try {
  name: string
  html: string
  spot: Spot
  content: FormContent
  /** What is read in the end. */
  expects: string
}

const OWN_PAGE = 'Thanks from the owner’s own page'
const ownForm: Form = { ...samples.form, id: 'ownform' as FormId }
const ownSpot: Spot = { ...samples.spot, id: 'ownspot' as SpotId, form: ownForm.id }
const ownLanding: Spot = { ...ownSpot, id: 'ownlanding' as SpotId, kind: 'landing' }

function triesOn(ground: Ground): Try[] {
  const { publicUrl } = ground.settings
  const { spot, version } = samples
  const as = (code: CodeKind, of = spot) =>
    codeAs(code, { spot: of, version, heights: null, title: 'Sign up' }, publicUrl)
  const line = sharedLine(publicUrl)
  const own = (code: CodeKind) =>
    codeAs(code, { spot: ownSpot, version: ownVersion, heights: null, title: 'Sign up' }, publicUrl)
  const tries: Omit<Try, 'content' | 'expects'>[] = [
    { name: 'plain code', html: page(as('plain')), spot },
    { name: 'plain code with the shared line', html: page(as('plain'), line), spot },
    { name: 'script', html: page(as('script'), line), spot },
    { name: 'frame', html: page(as('frame')), spot },
    { name: 'link', html: page(as('link')), spot },
    { name: 'side column', html: page(`<aside style="width:260px;float:right">${as('script')}</aside>`, line), spot },
    { name: 'pop-up', html: page('<p>Words</p>', as('script', popUpSpot)), spot: popUpSpot },
    { name: 'landing page', html: '', spot: { ...spot, kind: 'landing' } },
  ]
  // Answered by a page of the owner's that forwards to another origin.
  const answeredElsewhere: typeof tries = [
    { name: 'plain code, own page', html: page(own('plain')), spot: ownSpot },
    { name: 'script, own page', html: page(own('script'), line), spot: ownSpot },
    { name: 'frame, own page', html: page(own('frame')), spot: ownSpot },
    { name: 'landing page, own page', html: '', spot: ownLanding },
  ]
  return [
    ...tries.map((one) => ({ ...one, content: samples.content, expects: samples.content.answers.joined.heading })),
    ...answeredElsewhere.map((one) => ({ ...one, content: ownVersion.content, expects: OWN_PAGE })),
  ]
}

// As it was built: what is carried into pages is as the compiler leaves it.
const browsers: { port?: BrowserProcess } = {}
const elsewhere = createServer((_, response) => {
  response.writeHead(200, { 'Content-Type': 'text/html; charset=utf-8' }).end(page(`<h1>${OWN_PAGE}</h1>`))
})
await new Promise<void>((listening) => elsewhere.listen(0, '127.0.0.1', listening))
const elsewhereAddress = `http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}`
const ground = await openGround(
  (settings) =>
    (browsers.port = new BrowserProcess(
      { ...settings, serviceStandIns: elsewhereAddress },
      resolve(builtScripts, '../server/browser-process.js'),
    )),
)
const ownVersion: Version = {
  ...samples.version,
  form: ownForm.id,
  content: {
    ...samples.content,
    answers: {
      ...samples.content.answers,
      joined: { show: 'address', heading: '', message: '', address: `${ground.siteAddress}/out` },
    },
  },
}
await ground.ledger.takeChanges([
  samples.change('spot', popUpSpot),
  samples.change('form', ownForm),
  samples.change('version', ownVersion),
  samples.change('spot', ownSpot),
  samples.change('spot', ownLanding),
])
const tries = triesOn(ground)
ground.answers((request, response) => {
  if (request.url === '/out') return void response.writeHead(302, { Location: `${elsewhereAddress}/thanks` }).end()
  const html = tries[Number(/^\/try-(\d+)$/.exec(request.url ?? '')?.[1] ?? NaN)]?.html
  response.writeHead(html === undefined ? 404 : 200, { 'Content-Type': 'text/html; charset=utf-8' }).end(html)
})
let failed = 0

/** Somebody made up signs up; said whether the answer was read, and whether the list has them. */
async function inEach(
  engine: string,
  signUp: (address: string, one: Try, email: string) => Promise<string>,
): Promise<void> {
  for (const [at, one] of tries.entries()) {
    const rehearsal = (await ground.rehearsals.start(one.spot.id))!
    const email = rehearsalAddress(rehearsal.code, 'engine')
    const address =
      one.spot.kind === 'landing'
        ? pageAddress(ground.settings.publicUrl, one.spot.id)
        : `${ground.siteAddress}/try-${at}`
    const read = await signUp(address, one, email).catch((error: Error) => error.message.split('\n')[0]!)
    const isIn = (await rehearsal.space.known(email)).member !== null
    const isRight = read === one.expects && isIn
    if (!isRight) failed += 1
    console.log(
      `${engine}: ${one.name}: ${isRight ? 'joined, and read it' : `${isIn ? 'joined' : 'not joined'}, read “${read}”`}`,
    )
    await ground.rehearsals.end(rehearsal.code)
  }
}

if (browsers.port!.hasFirefox())
  await inEach('Firefox', async (address, { spot, content, expects }, email) => {
    const fills = fillsOf(content, personFor(content, email))
    const wish = visitOf(spot, ground.settings.publicUrl, content, {
      address,
      viewer: 'firefox',
      fills,
      presses: 1,
    })
    const seen = await browsers.port!.visit('engine', wish)
    if (!seen.isTried) return seen.reason
    const html = seen.answer?.html ?? ''
    return seen.inPlace?.heading ?? (html.includes(expects) ? expects : (seen.obstacle?.code ?? 'nothing'))
  })
else console.log('Firefox: not tried, there is no firefox-esr.')

if (existsSync(DRIVER) && existsSync(MINI_BROWSER)) await inWebKit()
else console.log('WebKit: not tried, there is no webkit2gtk-driver.')

async function inWebKit(): Promise<void> {
  const screen = spawn('Xvfb', [':97', '-screen', '0', '1280x900x24'], { stdio: 'ignore' })
  const driverProcess = spawn(DRIVER, ['--port=4397', '--host=127.0.0.1'], {
    stdio: 'ignore',
    env: { ...process.env, DISPLAY: ':97', WEBKIT_DISABLE_SANDBOX_THIS_IS_DANGEROUS: '1' },
  })
  try {
    await until(
      () =>
        fetch('http://127.0.0.1:4397/status').then(
          (response) => (response.ok ? true : null),
          () => null,
        ),
      WAIT_MS,
    )
    const capabilities = {
      browserName: 'MiniBrowser',
      'webkitgtk:browserOptions': { binary: MINI_BROWSER, args: ['--automation'] },
    }
    const driver = await new Builder().usingServer('http://127.0.0.1:4397').withCapabilities(capabilities).build()
    await inEach('WebKit', (address, { spot, expects }, email) =>
      signUpByDriver(driver, { address, spot, email, expects }),
    )
    await driver.quit()
  } finally {
    driverProcess.kill()
    screen.kill()
  }
}

async function signUpByDriver(
  driver: WebDriver,
  { address, spot, email, expects }: { address: string; spot: Spot; email: string; expects: string },
): Promise<string> {
  const action = `${ground.settings.publicUrl}/join/${spot.id}`
  await driver.switchTo().defaultContent()
  await driver.get(spot.kind === 'pop-up' ? `${address}#askbox-rehearsal=${spot.id}` : address)
  const form = await until(() => formIn(driver, action), 5_000)
  if (form === null) {
    // Behind its link, on the page of ours.
    await driver.executeScript(`document.querySelector('a[href*="/page/"]')?.click()`)
    if ((await until(() => formIn(driver, action), 8_000)) === null) return 'no form'
  }
  for (const { name, value } of fillsOf(samples.content, personFor(samples.content, email))) {
    const control = await inForm(driver, action, `[name="${name}"]`)
    if (value === null) await control.click()
    // Its driver gives the focus to what stands in a tree of scripts by the one way, in a frame by the other.
    else
      await control.sendKeys(value).catch(async () => {
        await control.click()
        await driver.actions().sendKeys(value).perform()
      })
  }
  await (await inForm(driver, action, '.askbox-button, button, [type=submit]')).click()
  const read = await until(
    () =>
      driver.executeScript<string[]>(`${NAMED} return (${texts.toString()})()`).then(
        (lines) => lines.find((line) => line === expects) ?? null,
        () => null,
      ),
    WAIT_MS,
  )
  return read ?? 'no answer'
}

/** Looks in the page, then in its frames; stays where it found it. */
async function formIn(driver: WebDriver, action: string): Promise<true | null> {
  const look = () =>
    inForm(driver, action, '*').then(
      () => true as const,
      () => null,
    )
  await driver.switchTo().defaultContent()
  if (await look()) return true
  for (const frame of await driver.findElements({ css: 'iframe' })) {
    await driver.switchTo().frame(frame)
    if (await look()) return true
    await driver.switchTo().defaultContent()
  }
  return null
}

async function inForm(driver: WebDriver, action: string, selector: string): Promise<WebElement> {
  const found = await driver.executeScript<WebElement | null>(
    `${NAMED} return (${within.toString()})(arguments[0], arguments[1])`,
    action,
    selector,
  )
  if (found === null) throw new Error(`There is no ${selector}.`)
  return found
}

/** Carried into pages: what of a form's parts a selector names, in trees of scripts too. */
function within(action: string, selector: string): Element | null {
  const look = (root: Document | ShadowRoot): Element | null => {
    const form = root.querySelector(`form[action="${action}"]`)
    if (form !== null && form.getBoundingClientRect().height > 2) return form.querySelector(selector)
    for (const one of root.querySelectorAll('*')) {
      const found = one.shadowRoot === null ? null : look(one.shadowRoot)
      if (found !== null) return found
    }
    return null
  }
  return look(document)
}

/** Carried into pages: headings that can be read. */
function texts(): string[] {
  const all: string[] = []
  const look = (root: Document | ShadowRoot) => {
    for (const one of root.querySelectorAll('*')) {
      if (/^h[12]$/.test(one.localName)) all.push((one.textContent ?? '').trim())
      if (one.shadowRoot !== null) look(one.shadowRoot)
    }
  }
  look(document)
  return all
}

await ground.close()
process.exit(failed === 0 ? 0 : 1)

import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { chromium } from 'playwright'
import { placePart, sharedLine } from '#core/embed'
import type { Version } from '#core/form'
import type { SpotId } from '#core/ids'
import { objectsOf } from '../api'
import { chromiumLaunch } from '../chromium'
import type { RunningBox } from '../programs'

const ROUNDS = 15
const FORMS = ['opennights', 'firstfrost', 'schoolvisit']

/**
 * What three forms by script cost a page: main-thread milliseconds (scripts, styles and layout, as Chromium counts them) more
 * than the same page with three links, and its first paint with and without them. Middle values of turns.
 */
export async function measureScriptForms(box: RunningBox) {
  const versions = (await objectsOf(box, 'version')).map(({ body }) => body as Version)
  const spots = (await objectsOf(box, 'spot')).map(({ body }) => body!)
  const places = FORMS.map((id) => {
    const spot = spots.find((one) => one.id === id)!
    const version = versions.findLast(({ form }) => form === spot.form)!
    return placePart(version.content, box.workshop, id as SpotId, null)
  })
  const words = '<p>Words of a page, as there are many on every page of every site.</p>'.repeat(60)
  const page = (head: string) =>
    `<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>A page</title>${head}</head><body>${words}${places.join(words)}</body></html>`
  const server = createServer((request, response) =>
    response
      .writeHead(200, { 'Content-Type': 'text/html; charset=utf-8' })
      .end(page(request.url === '/with' ? sharedLine(box.workshop) : '')),
  ).listen(0, '127.0.0.1')
  await new Promise((resolve) => server.once('listening', resolve))
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  const browser = await chromium.launch(chromiumLaunch)
  const costs = { with: [] as number[], without: [] as number[] }
  const paints = { with: [] as number[], without: [] as number[] }
  try {
    for (let round = 0; round < ROUNDS; round++)
      for (const kind of ['without', 'with'] as const) {
        const context = await browser.newContext()
        // With the first page of a profile Chromium makes a window, beside which nothing can be measured.
        await context.newPage()
        await new Promise((resolve) => setTimeout(resolve, 700))
        const tab = await context.newPage()
        const session = await context.newCDPSession(tab)
        await session.send('Performance.enable')
        await tab.goto(`${address}/${kind}`)
        if (kind === 'with') await tab.locator('askbox-form').nth(2).locator('form').waitFor()
        await tab.waitForLoadState('networkidle')
        const { metrics } = await session.send('Performance.getMetrics')
        const of = (name: string) => metrics.find((one) => one.name === name)?.value ?? 0
        costs[kind].push(1000 * (of('ScriptDuration') + of('LayoutDuration') + of('RecalcStyleDuration')))
        paints[kind].push(
          await tab.evaluate(() => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0),
        )
        await context.close()
      }
  } finally {
    await browser.close()
    server.closeAllConnections()
    server.close()
  }
  const middle = (all: number[]) => all.toSorted((one, other) => one - other)[Math.floor(all.length / 2)]!
  return {
    perForm: (middle(costs.with) - middle(costs.without)) / FORMS.length,
    paint: middle(paints.with) / middle(paints.without),
  }
}

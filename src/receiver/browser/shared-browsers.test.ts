import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Visited, VisitWish } from '#core/rehearsal'
import { type Ledger, openLedger } from '../ledger'
import { openStore } from '../subjects'
import { type BrowserPort, SharedBrowsers } from '.'

const wish = { address: 'https://hill.example/' } as unknown as VisitWish
/** A browser that says by which it was visited. @param name null for a receiver without one */
function browser(name: string | null): BrowserPort & { ended: string[] } {
  const ended: string[] = []
  return {
    ended,
    state: async () => (name === null ? { state: 'none' } : { state: 'ready', version: '1', path: `/usr/bin/${name}` }),
    isThere: () => name !== null,
    hasFirefox: () => false,
    visit: async (code) =>
      name === null
        ? { isTried: false, reason: 'none' }
        : { isTried: true, ...({ seen: `${code} by ${name}` } as unknown as Visited) },
    read: async () => ({ isTried: false, reason: 'none' }),
    end: async (code) => void ended.push(code),
    stop: async () => {},
  } as BrowserPort & { ended: string[] }
}

let folder: string
let ledger: Ledger
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'shared-browsers-'))
  ledger = await openLedger(await openStore(folder), Date.now)
})
afterEach(async () => {
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})

test('a receiver without a browser has the visit done by another’s, once however many have one, and until they stop', async () => {
  // A commit of one is heard by all, as over a database server.
  const heard = new Set<() => void>()
  const listen = (hear: () => void) => {
    heard.add(hear)
    return () => heard.delete(hear)
  }
  const keep = ledger.values.keep
  const values = {
    ...ledger.values,
    keep: async (...given: Parameters<typeof keep>) => {
      await keep(...given)
      heard.forEach((hear) => hear())
    },
  }
  const owns = [browser(null), browser('one'), browser('two')]
  const all = owns.map((own) => new SharedBrowsers(own, values, Date.now))
  // Those with a browser say so before the other looks.
  const stops = all.toReversed().map((one) => one.start(listen))
  const [without] = all as [SharedBrowsers]
  while ((await values.named('browser at ')).length < 2) await new Promise((resolve) => setImmediate(resolve))
  const stopAnew = without.start(listen)
  while (!without.isThere()) await new Promise((resolve) => setImmediate(resolve))
  expect(await without.state()).toMatchObject({ state: 'ready' })

  const visited = await without.visit('somecode', wish)
  expect(visited).toMatchObject({ isTried: true, seen: expect.stringMatching(/^somecode by (one|two)$/) })
  expect(await all[1]!.visit('owncode', wish)).toMatchObject({ seen: 'owncode by one' })
  await Promise.all(all.map((one) => one.stop()))
  for (const stop of [...stops, stopAnew]) stop()
  expect(owns.flatMap(({ ended }) => ended)).toEqual(['somecode'])
  // Nothing is left of it for the next.
  for (const left of ['browser at ', 'visit wished ', 'visit done '])
    expect([left, await values.named(left)]).toEqual([left, []])
})

import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { type Browser, chromium } from '@playwright/test'
import type { SpotId } from '#core/ids'
import { rehearsalAddress } from '#core/proof'
import { chromiumLaunch } from '../chromium'
import { type Ground, openGround } from '../rehearsal-ground'
import { setUpsOn } from '../rehearsal-set-ups'
import { change } from '../tables/samples'
import * as samples from '../tables/samples'
import { type PageCase, pageCases, popUpSpot } from './cases'
import { signsUpAsAPerson } from './person-visitor'
import { signsUp, type Verdict } from './visitor'

/** Where the verdicts are kept: by name of the case. */
export const VERDICTS = resolve(import.meta.dirname, 'verdicts.json')
export const keptVerdicts = (): Record<string, Verdict> =>
  existsSync(VERDICTS) ? (JSON.parse(readFileSync(VERDICTS, 'utf8')) as Record<string, Verdict>) : {}

/** A ground on which all pages stand, each at an address of its own, and what a visitor can do on each. */
export async function openCourt() {
  const ground = await openGround()
  await ground.ledger.takeChanges([change('spot', popUpSpot)])
  const cases = await pageCases(ground.settings.publicUrl)
  const { sound, broken } = setUpsOn(ground)
  const setUps = [...sound, ...broken].filter(({ spot }) => spot.kind !== 'landing')
  const pages = new Map<string, { html: string }>([
    ...cases.map((one, at) => [`/case-${at}`, one] as const),
    ...setUps.map((one, at) => [`/set-up-${at}`, one] as const),
  ])
  const load = `const s = document.createElement('script'); s.async = true; s.src = '${ground.settings.publicUrl}/askbox.js'; document.head.append(s)`
  ground.answers((request, response) => {
    const path = request.url ?? ''
    const script = { '/tags.js': load, '/counter.js': 'window.count = 1' }[path]
    const html = pages.get(path)?.html
    if (script !== undefined) response.writeHead(200, { 'Content-Type': 'text/javascript' }).end(script)
    else if (html === undefined) response.writeHead(404).end()
    else response.writeHead(200, { 'Content-Type': 'text/html; charset=utf-8' }).end(html)
  })
  const browser = await chromium.launch(chromiumLaunch)
  const looks = new Map<string, string>()
  return {
    cases,
    /** Pages that rehearsals are tried on; see rehearsal-set-ups.ts. */
    setUps,
    /** @param at of the page in `setUps` */
    canSignUp: async (at: number): Promise<boolean> => {
      const { spot } = setUps[at]!
      const one = { spot: { ...samples.spot, ...spot }, code: spot.code ?? 'plain' } as const
      return within(ground, one.spot.id, false, (who) =>
        signsUpAsAPerson(browser, `${ground.siteAddress}/set-up-${at}`, one, who),
      )
    },
    /** @param at of the case in `cases` */
    async judge(at: number): Promise<Verdict> {
      const one = cases[at]!
      const kind = one.spot.kind === 'pop-up' ? 'pop-up' : one.code
      if (!looks.has(kind)) {
        const whole = cases.findIndex(
          ({ name }) => name === `${kind}: ${kind === 'pop-up' ? 'in the head' : 'as it is'}`,
        )
        looks.set(kind, (await visited(browser, ground, cases[whole]!, `/case-${whole}`, null)).looks)
      }
      return (await visited(browser, ground, one, `/case-${at}`, looks.get(kind)!)).verdict
    },
    async close() {
      await browser.close()
      await ground.close()
    },
  }
}

const LONGEST_MS = 15_000

async function visited(
  browser: Browser,
  ground: Ground,
  one: Pick<PageCase, 'spot' | 'code'>,
  path: string,
  looks: string | null,
) {
  const late = { verdict: 'not' as Verdict, looks: 'never done' }
  return within(ground, one.spot.id, late, (who) => signsUp(browser, `${ground.siteAddress}${path}`, one, who, looks))
}

/** Somebody made up for one visit. Where a page keeps the browser itself from answering, nobody signs up. */
async function within<T>(
  ground: Ground,
  spot: SpotId,
  late: T,
  visit: (who: { email: string; isIn(): Promise<boolean> }) => Promise<T>,
): Promise<T> {
  const rehearsal = (await ground.rehearsals.start(spot))!
  const email = rehearsalAddress(rehearsal.code, 'visitor')
  const isIn = async () => (await rehearsal.space.known(email)).member !== null
  try {
    const over = new Promise<T>((resolve) => setTimeout(() => resolve(late), LONGEST_MS).unref())
    return await Promise.race([visit({ email, isIn }), over])
  } finally {
    await ground.rehearsals.end(rehearsal.code)
  }
}

/** `npm run verdicts`: judges every case anew and keeps what came of it. */
if (process.argv[1]?.endsWith('judge.ts')) {
  const court = await openCourt()
  const verdicts: Record<string, Verdict> = {}
  let next = 0
  const work = async () => {
    while (next < court.cases.length) {
      const at = next++
      const begun = performance.now()
      verdicts[court.cases[at]!.name] = await court.judge(at)
      if (performance.now() - begun > 8_000) console.log(`slow: ${court.cases[at]!.name}`)
      if (at % 50 === 0) console.log(`${at} of ${court.cases.length}`)
    }
  }
  await Promise.all([work(), work(), work()])
  await court.close()
  const sorted = Object.fromEntries(court.cases.map(({ name }) => [name, verdicts[name]!]))
  writeFileSync(VERDICTS, `${JSON.stringify(sorted, null, 1)}\n`)
  const counts = Object.values(sorted).reduce<Record<string, number>>(
    (sum, verdict) => ({ ...sum, [verdict]: (sum[verdict] ?? 0) + 1 }),
    {},
  )
  console.log(counts)
}

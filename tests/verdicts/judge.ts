import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { randomInt } from 'node:crypto'
import { resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { chromium } from 'playwright-core'
import { inTagsCode } from '#core/inlining'
import { checkInstall } from '#core/install'
import { rehearsalAddress } from '#core/proof'
import { processorTimes, RUN, takenByOthers } from '../../src/receiver/browser/processes'
import { chromiumLaunch } from '../chromium'
import { openGround } from '../rehearsal-ground'
import { setUpsOn } from '../rehearsal-set-ups'
import * as samples from '../tables/samples'
import { type PageCase, pageCases, popUpSpot } from './cases'
import { recipeAt } from './generated'
import { type KeptPage, pageOf } from './recipe'
import { signsUp, type Verdict } from './visitor'

/** Where the verdicts are kept: by name of the case. */
export const VERDICTS = resolve(import.meta.dirname, 'verdicts.json')
export const keptVerdicts = (): Record<string, Verdict> =>
  existsSync(VERDICTS) ? (JSON.parse(readFileSync(VERDICTS, 'utf8')) as Record<string, Verdict>) : {}
/** Generated pages that once came out wrong. */
const GENERATED = resolve(import.meta.dirname, 'generated.json')
export const keptPages = (): KeptPage[] => JSON.parse(readFileSync(GENERATED, 'utf8')) as KeptPage[]

/** A page with a spot's code on it, as a visitor comes to it. */
type Visited = Pick<PageCase, 'spot' | 'code' | 'html'> & { headers?: Record<string, string> | undefined }

/** Longest time of a visit. Where others had more than this share of the processors meanwhile, it has more time. */
const LONGEST_MS = 20_000
const BUSY_FROM = 0.4
const MORE_TIME = 3

/** A ground on which pages stand, and what a visitor can do on each. */
export async function openCourt() {
  const ground = await openGround()
  await ground.ledger.takeChanges([samples.change('spot', popUpSpot)])
  const cases = await pageCases(ground.settings.publicUrl)
  const { sound, broken } = setUpsOn(ground)
  const setUps = [...sound, ...broken].filter(({ spot }) => spot.kind !== 'landing')
  const pages = new Map<string, Visited>()
  let count = 0
  const load = `const s = document.createElement('script'); s.async = true; s.src = '${ground.settings.publicUrl}/askbox.js'; document.head.append(s)`
  ground.answers((request, response) => {
    const path = request.url ?? ''
    const script = { '/tags.js': load, '/counter.js': 'window.count = 1' }[path]
    const one = pages.get(path)
    if (script !== undefined) response.writeHead(200, { 'Content-Type': 'text/javascript' }).end(script)
    else if (one === undefined) response.writeHead(404).end()
    else response.writeHead(200, { 'Content-Type': 'text/html; charset=utf-8', ...one.headers }).end(one.html)
  })
  const run = `verdicts-${process.pid}`
  const browser = await chromium.launch({ ...chromiumLaunch, env: { ...process.env, [RUN]: run } })

  async function visit(one: Visited, looks: string | null): Promise<{ verdict: Verdict; looks: string }> {
    const path = `/page-${count++}`
    pages.set(path, one)
    const once = async (patience: number) => {
      const rehearsal = (await ground.rehearsals.start(one.spot.id))!
      const email = rehearsalAddress(rehearsal.code, 'visitor')
      const isIn = async () => (await rehearsal.space.known(email)).member !== null
      const late = { verdict: 'not' as Verdict, looks: 'never done' }
      try {
        // A page may keep the browser itself from answering.
        const over = new Promise<typeof late>((resolve) =>
          setTimeout(() => resolve(late), LONGEST_MS * patience).unref(),
        )
        const address = `${ground.siteAddress}${path}`
        return await Promise.race([signsUp(browser, address, one, { email, isIn }, { looks, patience }), over])
      } catch (error) {
        return { verdict: 'not' as Verdict, looks: String(error) }
      } finally {
        await ground.rehearsals.end(rehearsal.code)
      }
    }
    const before = processorTimes(run)
    const seen = await once(1)
    const isBusy = takenByOthers(before, processorTimes(run)) > BUSY_FROM
    const last = seen.verdict === 'not' && isBusy ? await once(MORE_TIME) : seen
    pages.delete(path)
    return last
  }

  const looks = new Map<string, Promise<string>>()
  const wholeLooks = (one: Visited) => {
    const kind = one.spot.kind === 'pop-up' ? 'pop-up' : one.code
    if (!looks.has(kind)) {
      const whole = cases.find(({ name }) => name === `${kind}: ${kind === 'pop-up' ? 'in the head' : 'as it is'}`)!
      looks.set(
        kind,
        visit(whole, null).then((seen) => seen.looks),
      )
    }
    return looks.get(kind)!
  }
  return {
    cases,
    /** Pages that rehearsals are tried on; see rehearsal-set-ups.ts. */
    setUps,
    receiver: ground.settings.publicUrl,
    siteAddress: ground.siteAddress,
    async judge(one: Visited): Promise<Verdict> {
      return (await visit(one, await wholeLooks(one))).verdict
    },
    /** @param at of the page in `setUps` */
    async canSignUp(at: number): Promise<boolean> {
      const { spot, html, headers } = setUps[at]!
      const one = { html, headers, spot: { ...samples.spot, ...spot }, code: spot.code ?? 'plain' } as const
      return (await visit(one, null)).verdict !== 'not'
    },
    async close() {
      await browser.close()
      await ground.close()
    },
  }
}
type Court = Awaited<ReturnType<typeof openCourt>>

/** Works through numbers from 0, a few at a time: most of a visit is waiting. */
async function each(count: number, work: (at: number) => Promise<void>): Promise<void> {
  let next = 0
  const lane = async () => {
    while (next < count) {
      const at = next++
      await work(at)
      if (at % 50 === 0) console.log(`${at} of ${count}`)
    }
  }
  await Promise.all([lane(), lane(), lane()])
}

/** A verdict that differs from the one before is looked for once more: a moment may have been too short. */
async function judgedLike(court: Court, page: Visited, before: Verdict | undefined): Promise<Verdict> {
  const verdict = await court.judge(page)
  return before === undefined || verdict === before ? verdict : court.judge(page)
}

/** Judges every page of the table anew and keeps what came of it. */
async function judgeTable(court: Court): Promise<void> {
  const verdicts: Record<string, Verdict> = {}
  const kept = keptVerdicts()
  await each(court.cases.length, async (at) => {
    const begun = performance.now()
    const one = court.cases[at]!
    verdicts[one.name] = await judgedLike(court, one, kept[one.name])
    if (performance.now() - begun > 12_000) console.log(`slow: ${court.cases[at]!.name}`)
  })
  const sorted = Object.fromEntries(court.cases.map(({ name }) => [name, verdicts[name]!]))
  for (const [name, verdict] of Object.entries(sorted))
    if (kept[name] !== verdict) console.log(`${name}: ${kept[name] ?? 'new'} before, ${verdict} now`)
  writeFileSync(VERDICTS, `${JSON.stringify(sorted, null, 1)}\n`)
  console.log(
    Object.values(sorted).reduce<Record<string, number>>(
      (sum, verdict) => ({ ...sum, [verdict]: (sum[verdict] ?? 0) + 1 }),
      {},
    ),
  )
}

const SIGNS_UP: Record<Verdict, string> = { well: 'sign up', poorly: 'sign up poorly', not: 'not sign up' }

/** Judges the pages anew that once came out wrong. */
async function judgeKept(court: Court): Promise<void> {
  const kept = keptPages()
  await each(kept.length, async (at) => {
    const verdict = await judgedLike(court, pageOf(kept[at]!.recipe, court.receiver), kept[at]!.verdict)
    if (verdict !== kept[at]!.verdict) console.log(`${kept[at]!.from}: ${kept[at]!.verdict} before, ${verdict} now`)
    kept[at] = { ...kept[at]!, verdict }
  })
  writeFileSync(GENERATED, `${JSON.stringify(kept, null, 1)}\n`)
}

/** Invents pages and holds the install check against what a visitor can do on them; keeps what comes out wrong. */
async function judgeGenerated(court: Court, seed: number, count: number): Promise<void> {
  console.log(`seed ${seed}`)
  const wrong: KeptPage[] = []
  const sums = { well: 0, poorly: 0, not: 0, 'not, called fine': 0, 'well, called worse': 0, 'well, not seen': 0 }
  await each(count, async (at) => {
    const recipe = recipeAt(seed, at)
    const page = pageOf(recipe, court.receiver)
    let verdict = await court.judge(page)
    const { state } = checkInstall(
      { html: page.html, address: court.siteAddress, policies: [] },
      {
        spot: page.spot,
        code: page.code,
        receiver: court.receiver,
        versions: [samples.version],
        others: new Map(),
        inTags: inTagsCode,
      },
    )
    const isFine = state === 'whole' || state === 'edited'
    const isAlarm = state === 'damaged' || state === 'absent'
    // What would come out wrong is looked at once more.
    if ((verdict === 'not' && isFine) || (verdict === 'well' && isAlarm)) verdict = await court.judge(page)
    sums[verdict] += 1
    if (verdict === 'well' && !isFine && !isAlarm) sums['well, not seen'] += 1
    if (verdict === 'not' && isFine) sums['not, called fine'] += 1
    else if (verdict === 'well' && isAlarm) sums['well, called worse'] += 1
    else return
    wrong.push({ from: `${seed}/${at}`, verdict, recipe })
    console.log(`${seed}/${at}: a visitor can ${SIGNS_UP[verdict]}, and the check says “${state}”`)
    console.log(JSON.stringify(recipe))
  })
  console.log(sums)
  const kept = keptPages()
  const fresh = wrong.filter(({ from }) => !kept.some((one) => one.from === from))
  writeFileSync(GENERATED, `${JSON.stringify([...kept, ...fresh], null, 1)}\n`)
}

/** `npm run verdicts [-- --pages 500 --seed 7 --only-generated]` */
if (process.argv[1]?.endsWith('judge.ts')) {
  const { values } = parseArgs({
    options: {
      pages: { type: 'string', default: '100' },
      seed: { type: 'string', default: String(randomInt(1, 100_000)) },
      'only-generated': { type: 'boolean', default: false },
    },
  })
  const court = await openCourt()
  if (!values['only-generated']) await judgeTable(court)
  await judgeKept(court)
  await judgeGenerated(court, Number(values.seed), Number(values.pages))
  await court.close()
}

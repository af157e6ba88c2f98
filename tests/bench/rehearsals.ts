import { type ChildProcess, spawn } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { plainCode } from '#core/embed'
import type { Version } from '#core/form'
import type { SpotId } from '#core/ids'
import type { Spot } from '#core/spot'
import { changeSpot, objectsOf } from '../api'
import { end, type RunningBox } from '../programs'
import { load } from './load'

/** Twenty spots on one pretend site, each with its code on a page of its own part of it. */
const SPOTS = 20
const PAGES = ['/posts/november', '/posts/october', '/book', '/about']
const ROUNDS = 5

/** How long rehearsals take, and what they cost sign-ups that come meanwhile. */
export async function measureRehearsals(box: RunningBox, target: string) {
  const bodies = async <Kind extends 'site' | 'version' | 'list' | 'form' | 'mail'>(kind: Kind) =>
    (await objectsOf(box, kind)).map(({ body }) => body!)
  const site = (await bodies('site')).find(({ id }) => id === 'fieldguide')!
  const form = (await bodies('form')).find(({ id }) => id === 'clearskyform')!
  const versions = ((await bodies('version')) as Version[]).filter((one) => one.form === form.id)
  const version = versions.at(-1)!
  const list = (await bodies('list')).find(({ id }) => id === version.list)!
  const spots = Array.from({ length: SPOTS }, (_, at): Spot => ({
    id: `rehearsed${String.fromCharCode(97 + at)}` as SpotId,
    form: form.id,
    site: site.id,
    kind: 'inline',
    code: 'plain',
    page: `${site.address}${PAGES[at % PAGES.length]}`,
    state: 'live',
    createdAt: form.createdAt,
  }))
  for (const spot of spots) await changeSpot(box, spot.id, spot)
  for (const path of PAGES)
    await fetch(`${box.sites}/editor/field-guide/${encodeURIComponent(`body:${path}`)}`, {
      method: 'POST',
      headers: { Origin: box.sites, 'Content-Type': 'application/x-www-form-urlencoded' },
      body: new URLSearchParams({
        words: 'Words',
        code: spots
          .filter(({ page }) => page.endsWith(path))
          .map((spot) =>
            plainCode({
              content: version.content,
              form: form.id,
              version: version.number,
              spot: spot.id,
              receiver: box.workshop,
            }),
          )
          .join('\n'),
      }),
    })
  // The demo's own sound forms, twenty times in a row.
  const all = {
    versions: (await bodies('version')) as Version[],
    lists: await bodies('list'),
    sites: await bodies('site'),
    mails: await bodies('mail'),
  }
  const mailOf = (id: string) => all.mails.find((one) => one.list === id)?.published ?? null
  const demo = (await objectsOf(box, 'spot'))
    .map(({ body }) => body!)
    .filter(({ id }) => ['opennights', 'firstfrost', 'schoolvisit', 'starchart'].includes(id))
    .map((spot) => {
      const ofForm = all.versions.filter((one) => one.form === spot.form)
      const feeds = ofForm.at(-1)!.list
      return {
        spot,
        site: all.sites.find(({ id }) => id === spot.site)!,
        list: all.lists.find(({ id }) => id === feeds)!,
        mail: mailOf(feeds),
        versions: ofForm,
        receiver: box.workshop,
      }
    })
  const subjects = spots.map((spot) => ({ spot, site, list, mail: mailOf(list.id), versions, receiver: box.workshop }))
  let files = 0
  // By a file: a program takes only so much on its command line.
  const child = (more: string[], given: unknown[] = subjects) => {
    const file = join(box.folder, `subjects-${(files += 1)}.json`)
    writeFileSync(file, JSON.stringify(given))
    const script = resolve(import.meta.dirname, 'rehearser.ts')
    return spawn(process.execPath, ['--import', 'tsx', script, box.workshop, box.key, file, ...more], {
      stdio: ['ignore', 'pipe', 'inherit'],
    })
  }

  const started = performance.now()
  const lines = await outputOf(child([]))
  const seconds = (performance.now() - started) / 1000
  const outcomes = lines.filter((line) => line !== 'ready').map((line) => line.split(' '))
  const inARow = await outputOf(child([], Array.from({ length: 20 }, () => demo).flat()))
  const slowed: number[] = []
  const waits: number[] = []
  for (let round = 0; round < ROUNDS; round++) {
    const alone = await load(target, { seconds: 4, connections: 20, rate: 200 })
    const going = child(['for-ever'])
    await new Promise((done) => going.stdout!.once('data', done))
    const meanwhile = await load(target, { seconds: 4, connections: 20, rate: 200 })
    await end(going)
    slowed.push(meanwhile.perSecond / alone.perSecond)
    waits.push(meanwhile.percentile(50) / alone.percentile(50))
  }
  for (const ratios of [slowed, waits]) ratios.sort((one, other) => one - other)
  return {
    seconds,
    passed: outcomes.filter(([verdict]) => verdict === 'passed').length,
    of: SPOTS,
    /** Of the demo's sound spots, each twenty times. */
    inARow: { passed: inARow.filter((line) => line.startsWith('passed')).length, of: 20 * demo.length },
    longest: Math.max(...outcomes.map(([, ms]) => Number(ms))) / 1000,
    /** Sign-ups a second with rehearsals going on, to those without. */
    ratio: slowed[Math.floor(ROUNDS / 2)]!,
    /** The middle answer's time, the same way. */
    wait: waits[Math.floor(ROUNDS / 2)]!,
  }
}

function outputOf(child: ChildProcess): Promise<string[]> {
  return new Promise((done, reject) => {
    let said = ''
    child.stdout!.on('data', (chunk: Buffer) => (said += chunk.toString()))
    child.once('error', reject)
    child.once('exit', (code) => (code === 0 ? done(said.trim().split('\n')) : reject(new Error(`ended with ${code}`))))
  })
}

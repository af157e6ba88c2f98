import { mkdtempSync, readFileSync } from 'node:fs'
import { spawn } from 'node:child_process'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { gzipSync } from 'node:zlib'
import { plainCode } from '#core/embed'
import type { SpotId } from '#core/ids'
import { shapes, startContent } from '#core/form'
import { renderForm, toHtml } from '#core/render'
import { version } from '../tables/samples'
import { measureCrowd, measureReading, type ReadingFigures } from './crowd'
import { measureHandOvers } from './hand-overs'
import { measureDryRun, measureImport } from './imports'
import { load } from './load'
import { measureLetters, measureSettling } from './letters'
import { measureMails } from './mails'
import { measureRehearsals } from './rehearsals'
import { measureResults, measureSeen } from './results'
import { measureSeveral } from './several'
import { measureScriptForms } from './script-forms'
import { twentyFields, typingTimes } from './typing'
import { startPostgres } from '../postgres-server'
import { end, type RunningBox, startBox } from '../programs'
import { build } from '../../scripts/ready.mjs'
import { viewsForAnyLook } from '#core/trial'
import { called } from '../trials'

/**
 * `npm run bench`: every figure a ratio, a share or a size, taken in one run on one machine. All of it takes hours;
 * `npm run bench -- typing results` takes parts, by their names below.
 */
const parts: Record<string, () => Promise<void> | void> = {
  'sign-ups': withBareRoute(async (box, targets) => {
    await signUps(targets)
    await importBeside(box, targets)
    await mails(targets)
  }),
  several,
  'hand-overs': handOvers,
  results,
  typing: () => withBox(typing),
  script: () => withBox(script),
  rehearsals: () => withBox(rehearsals),
  files,
  crowd,
  million,
  rendering,
  trials,
  sizes,
}

const ROUNDS = 9
const SECONDS = 2
const CONNECTIONS = 64

const wanted = process.argv.slice(2)
const unknown = wanted.filter((name) => !(name in parts))
if (unknown.length > 0) {
  console.error(`There is no part ${unknown.join(', ')}. There are: ${Object.keys(parts).join(', ')}.`)
  process.exit(1)
}
await build()
for (const [name, measure] of Object.entries(parts)) if (wanted.length === 0 || wanted.includes(name)) await measure()

interface Targets {
  receiver: string
  bare: string
}

/** A box of its own: another one's journal would be full of made-up people. */
async function withBox(measure: (box: RunningBox) => Promise<void>): Promise<void> {
  const box = await startBox()
  try {
    await measure(box)
  } finally {
    await box.stop()
  }
}

/** Beside a route that does nothing but parse and write. */
function withBareRoute(measure: (box: RunningBox, targets: Targets) => Promise<void>) {
  return () =>
    withBox(async (box) => {
      const bare = await startBare()
      try {
        await measure(box, {
          receiver: `${box.workshop.replace('localhost', '127.0.0.1')}/join/firstfrost`,
          bare: `${bare.address}/join/firstfrost`,
        })
      } finally {
        await end(bare.child)
      }
    })
}

async function signUps(targets: Targets): Promise<void> {
  await load(targets.receiver, { seconds: 2, connections: CONNECTIONS })
  await load(targets.bare, { seconds: 2, connections: CONNECTIONS })
  const ratios: number[] = []
  for (let round = 1; round <= ROUNDS; round++) {
    // Taken in turns, so that a machine that slows down slows down both.
    const ours = await load(targets.receiver, { seconds: SECONDS, connections: CONNECTIONS })
    const theirs = await load(targets.bare, { seconds: SECONDS, connections: CONNECTIONS })
    if (ours.failed + theirs.failed > 0) throw new Error('Not every sign-up was answered with success.')
    ratios.push(ours.perSecond / theirs.perSecond)
    console.log(
      `round ${round}: receiver ${Math.round(ours.perSecond)}/s, bare route ${Math.round(theirs.perSecond)}/s`,
    )
  }
  ratios.sort((one, other) => one - other)
  console.log(
    `durable sign-ups a second, receiver : bare route with one row and one commit each = ${ratios[Math.floor(ROUNDS / 2)]!.toFixed(2)} : 1 (aim 1.5 or better)`,
  )

  const calm = await load(targets.receiver, { seconds: 10, connections: 20, rate: 200 })
  console.log(
    `at 200 sign-ups a second: 99 in 100 answered within ${calm.percentile(99).toFixed(1)} ms (aim 20), the middle one within ${calm.percentile(50).toFixed(1)} ms`,
  )
  // What the disk allows: a route that does nothing but parse and write waits for the same sync.
  const calmBare = await load(targets.bare, { seconds: 10, connections: 20, rate: 200 })
  console.log(
    `  the bare route at the same rate and on the same disk: ${calmBare.percentile(99).toFixed(1)} ms and ${calmBare.percentile(50).toFixed(1)} ms`,
  )
}

async function importBeside(box: RunningBox, targets: Targets): Promise<void> {
  const imported = await measureImport(box, targets.receiver, 60_000)
  console.log(
    `an import applied at ${Math.round(imported.perSecond)} people a second (aim 5,000); sign-ups at 200 a second meanwhile, to those without: ${imported.busy.toFixed(2)} : 1 (aim 0.9 or better), 99 in 100 of their answers ${imported.wait.toFixed(2)} : 1 (aim 2 or better)`,
  )
}

async function mails(targets: Targets): Promise<void> {
  const mailBox = await startBox({ withMailbox: true })
  try {
    const { ratio, perSecond, busy, wait } = await measureMails(mailBox, targets.bare)
    console.log(
      `sign-ups a second with confirmation by mail, to the bare route = ${ratio.toFixed(2)} : 1 (aim 1.2 or better)`,
    )
    console.log(
      `  10,000 queued mails drain at ${Math.round(perSecond)} a second; sign-ups at 200 a second meanwhile, to those without: ${busy.toFixed(2)} : 1 (aim 0.9 or better), the middle answer's time ${wait.toFixed(2)} : 1`,
    )
    const letters = await measureLetters(mailBox)
    console.log(
      `  letters drain at ${(letters.perSecond / perSecond).toFixed(2)} of those mails’ rate (aim 1); sign-ups a second while a letter goes, to those without: ${letters.atOwnersPace.toFixed(2)} at ten a second (aim 0.95), ${letters.atFullSpeed.toFixed(2)} at full speed (aim 0.7)`,
    )
    const { seconds, megabytes } = await measureSettling()
    console.log(
      `  100,000 readers of a letter put down in ${seconds.toFixed(1)} s (aim 10), with ${Math.round(megabytes)} MB more`,
    )
  } finally {
    await mailBox.stop()
  }
}

async function several(): Promise<void> {
  const several = await measureSeveral()
  console.log(
    `durable sign-ups a second into PostgreSQL with a standby, one receiver : bare route = ${several.one.toFixed(2)} : 1 (aim 2), three receivers on this machine : one = ${several.three.toFixed(2)} : 1 (aim 0.8)`,
  )
  console.log(
    `  sign-ups at 200 a second while a workshop pulls ${several.entries} entries, ${Math.round(several.pulledPerSecond)} a second, to those without: ${several.pulled.toFixed(2)} : 1 (aim 0.9), the middle answer's time ${several.wait.toFixed(2)} : 1`,
  )
}

async function handOvers(): Promise<void> {
  const handed = await measureHandOvers(100_000)
  for (const { name, busy, wait } of handed.states)
    console.log(
      `sign-ups at 200 a second while they are handed over to a service that is ${name}, to those without: ${busy.toFixed(2)} : 1 (aim 0.95 or better), 99 in 100 of their answers ${wait.toFixed(2)} : 1 (aim 2 or better)`,
    )
  console.log(
    `  100,000 people are handed over at ${Math.round(handed.perSecond)} a second (aim 200); the receiver held ${Math.round(handed.megabytes.before)} MB before, and at most ${Math.round(handed.megabytes.most)} MB meanwhile`,
  )
}

async function results(): Promise<void> {
  const seen = await measureSeen()
  console.log(
    `views counted at ${Math.round(seen.perSecond)} a second (aim 2,000), ${seen.failed} failed; sign-ups at 200 a second meanwhile, to those without: ${seen.busy.toFixed(2)} : 1, the middle answer's time ${seen.wait.toFixed(2)} : 1`,
  )
  const shown = await measureResults()
  console.log(
    `results of 60 days, 200 spots and ten million views, in Chromium: open in ${Math.round(shown.opened)} ms (aim 1000), by source in ${Math.round(shown.filtered)} ms (aim 200)`,
  )
}

async function typing(box: RunningBox): Promise<void> {
  const times = await typingTimes(box, 200)
  const at = (share: number) => times[Math.floor((times.length * share) / 100)]!.toFixed(1)
  console.log(
    `a key in the picture of a form with 20 fields: 95 in 100 within ${at(95)} ms (aim 16), the middle one within ${at(50)} ms`,
  )
}

async function script(box: RunningBox): Promise<void> {
  const { perForm, paint } = await measureScriptForms(box)
  console.log(
    `three forms by script on a page: ${perForm.toFixed(1)} ms of the main thread each (aim 10), first paint with to without ${paint.toFixed(2)} : 1`,
  )
}

async function rehearsals(box: RunningBox): Promise<void> {
  const { seconds, passed, of, longest, inARow, ratio, wait } = await measureRehearsals(
    box,
    `${box.workshop.replace('localhost', '127.0.0.1')}/join/firstfrost`,
  )
  console.log(
    `rehearsals without a browser: ${passed} of ${of} spots passed in ${seconds.toFixed(1)} s (aim 120), the longest took ${longest.toFixed(2)} s (aim 15)`,
  )
  console.log(`  the demo’s sound forms, each twenty times in a row: ${inARow.passed} of ${inARow.of} passed`)
  console.log(
    `  sign-ups at 200 a second meanwhile, to those without: ${ratio.toFixed(2)} : 1 (aim 0.9 or better); the middle answer's time ${wait.toFixed(2)} : 1`,
  )
}

function files(): void {
  const reading = measureDryRun(100_000, 1_000_000)
  console.log(
    `a table of 100,000 rows read and tried: ${reading.ratio.toFixed(1)} times what the CSV package alone takes (aim 6 or less), ${Math.round(reading.perSecond)} rows a second; a million rows in at most ${Math.round(reading.megabytes)} MB (aim 300)`,
  )
}

async function crowd(): Promise<void> {
  const CROWD = Number(process.env.CROWD ?? 100_000)
  const server = await startPostgres()
  const shared = await measureCrowd(CROWD, await server.url('crowd'))
  const alone = await measureCrowd(CROWD)
  await server.stop()
  console.log(
    `with ${CROWD} members, in Chromium: first pull ${Math.round(alone.pulledPerSecond)} entries a second (aim 10,000); Desk open in ${Math.round(alone.desk)} ms and a list in ${Math.round(alone.list)} ms (aim 1000)`,
  )
  console.log(
    `  a key of a search: 95 in 100 within ${Math.round(alone.search[Math.floor(alone.search.length * 0.95)]!)} ms (aim 100); a sign-up seen in the open list after ${Math.round(alone.arrival)} ms, a saved edit after ${Math.round(alone.edit)} ms (aim 200)`,
  )
  console.log(
    `  a filter found within ${Math.round(alone.filter)} ms (aim 200); all of them tagged as one in ${(alone.bulkTag / 1000).toFixed(1)} s (aim 5); a file of 20,000 people tried in ${Math.round(alone.dryRun)} ms, the longest task of the page ${Math.round(alone.longest)} ms (aim 50)`,
  )
  console.log(
    `  with PostgreSQL : with a file of the receiver’s: ${readingRatios(shared, alone)}, all tagged ${(shared.bulkTag / alone.bulkTag).toFixed(2)} : 1`,
  )
}

async function million(): Promise<void> {
  const server = await startPostgres()
  const MILLION = 1_000_000
  const millionAtServer = await measureReading(MILLION, await server.url('million'))
  await server.stop()
  const alone = await measureReading(MILLION)
  console.log(
    `with ${MILLION} members: first pull ${Math.round(alone.pulledPerSecond)} entries a second, list open in ${Math.round(alone.list)} ms (aim 3000), a key of a search 95 in 100 within ${Math.round(p95(alone))} ms (aim 300), a filter within ${Math.round(alone.filter)} ms`,
  )
  console.log(`  with PostgreSQL : with a file of the receiver’s: ${readingRatios(millionAtServer, alone)}`)
}

function p95({ search }: ReadingFigures): number {
  return search[Math.floor(search.length * 0.95)]!
}

function readingRatios(server: ReadingFigures, file: ReadingFigures): string {
  const ratio = (figure: (figures: ReadingFigures) => number) => (figure(server) / figure(file)).toFixed(2)
  return `pulled ${ratio(({ pulledPerSecond }) => pulledPerSecond)}, list open ${ratio(({ list }) => list)}, a key ${ratio(p95)}, filter ${ratio(({ filter }) => filter)} : 1`
}

function rendering(): void {
  const twenty = {
    content: { ...version.content, fields: twentyFields() },
    form: version.form,
    version: 1,
    spot: 'benchspot' as SpotId,
    receiver: 'https://forms.example',
  }
  for (let warm = 0; warm < 200; warm++) toHtml(renderForm(twenty))
  const started = performance.now()
  for (let round = 0; round < 200; round++) toHtml(renderForm(twenty))
  console.log(`core/render, form with 20 fields: ${((performance.now() - started) / 200).toFixed(2)} ms (aim 2)`)
  for (const shape of shapes) {
    const content = { ...startContent('Our letter', shape), fields: version.content.fields }
    console.log(`  ${shape.name}, two fields: ${gzipSync(plainCode({ ...twenty, content })).length} bytes gzipped`)
  }
  const gzipped = (name: string) =>
    gzipSync(readFileSync(resolve(import.meta.dirname, `../../dist/visitors/${name}.js`))).length
  const [script, beside] = [gzipped('askbox'), gzipped('seen')]
  console.log(`visitors’ script: ${script} bytes gzipped (at most 6144)`)
  console.log(`  with what each page with a form fetches: ${script + beside} bytes gzipped (at most 7168)`)
}

function trials(): void {
  for (const rates of [
    [0.1, 0.1],
    [0.1, 0.1, 0.1],
    [0.1, 0.15],
  ]) {
    const [rate, difference] = [Math.min(...rates), Math.max(...rates) - Math.min(...rates) || 0.05]
    const plan = { rate, difference, views: viewsForAnyLook({ rate, difference }, rates.length) }
    const { right, wrong } = called({ rates, plan, seed: 11, runs: 10_000 })
    console.log(
      `10,000 trials of ${rates.join(', ')}: the best is called better in ${(right * 100).toFixed(1)} of 100 (aim 80 where there is one), another in ${(wrong * 100).toFixed(1)} (aim at most 5)`,
    )
  }
}

function sizes(): void {
  const code = plainCode({
    content: version.content,
    form: version.form,
    version: 1,
    spot: 'benchspot' as SpotId,
    receiver: 'https://forms.example',
  })
  console.log(`plain code with two fields and its styles: ${gzipSync(code).length} bytes gzipped (aim 2560 or less)`)
  console.log(
    `workshop, JavaScript of the first screen: ${Math.round(firstScreenBytes() / 1024)} KB gzipped (at most 250)`,
  )
}

function startBare(): Promise<{ address: string; child: ReturnType<typeof spawn> }> {
  const file = join(mkdtempSync(join(tmpdir(), 'ask-box-bare-')), 'bare.sqlite')
  const child = spawn(process.execPath, ['--import', 'tsx', resolve(import.meta.dirname, 'bare.ts'), file, '0'], {
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  return new Promise((done, reject) => {
    child.stdout.on('data', (chunk: Buffer) => {
      const address = /ready (\S+)/.exec(chunk.toString())?.[1]
      if (address !== undefined) done({ address, child })
    })
    child.once('exit', (code) => reject(new Error(`the bare route ended with ${code}`)))
  })
}

/** The entry script and everything it imports statically, as index.html names them. */
function firstScreenBytes(): number {
  const folder = resolve(import.meta.dirname, '../../dist/workshop')
  const scripts = [
    ...readFileSync(join(folder, 'index.html'), 'utf8').matchAll(/(?:src|href)="(\/assets\/[^"]+\.js)"/g),
  ].map(([, path]) => path!)
  return scripts.reduce((sum, path) => sum + gzipSync(readFileSync(join(folder, path))).length, 0)
}

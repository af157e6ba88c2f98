import { resolve } from 'node:path'
import { frameAddress, frameCode, placePart, sharedLine } from '#core/embed'
import type { Version } from '#core/form'
import type { Proof } from '#core/proof'
import type { Trial } from '#core/trial'
import { builtScripts, type Ground, openGround, page, programsBuilt } from '../../../tests/rehearsal-ground'
import { type SetUp, setUpsOn } from '../../../tests/rehearsal-set-ups'
import * as samples from '../../../tests/tables/samples'
import { BrowserProcess, LIMITS } from '../browser'
import { Repeating } from './repeating'
import { isOfThisRun, oneTestIn } from '../../../tests/seed'

/*
 * Rehearsals with the browser that is installed here (Debian's packages): whatever keeps a visitor from signing up on a
 * page as it stands is found, and a sound page passes. What a visitor can do on these pages is judged in verdicts.spec.ts.
 */

const PROGRAM = resolve(builtScripts, '../server/browser-process.js')
const THREAD = resolve(builtScripts, '../server/page-thread.js')
let ground: Ground
beforeAll(async () => {
  ground = await openGround((settings) => new BrowserProcess(settings, PROGRAM, { ...LIMITS, hopelessFrom: 2 }))
  await programsBuilt()
}, 240_000)
afterAll(() => ground.close())

const outcomeOf = ({ steps, verdict }: Proof) => {
  const failed = steps.find((step) => step.verdict === 'failed')
  if (failed !== undefined) return `${failed.station}: ${failed.failure!.code}`
  const untried = steps.filter((step) => step.verdict === 'not-tried').map((step) => step.case)
  return untried.length === 0 ? verdict : `${verdict} but ${untried.join(', ')}`
}
const VISITS: Proof['cases'] = ['first', 'scripts-off', 'phone']

/** Of the set-ups, a short and a whole run have one in so many. */
const PARTS = [40, 6] as const
const ofThisRun = (_: unknown, at: number) => isOfThisRun(at, ...PARTS)
/** Of what is told by more than a table, one in so many. */
const someTest = oneTestIn(4)

/** Each page at an address of its own, two at a time: how its rehearsal ends, by name. */
async function rehearsed(
  pages: readonly SetUp[],
  casesOf: (at: number) => Proof['cases'],
  expected: (at: number) => string,
) {
  ground.answers((request, response) => {
    const { html, headers } = pages[Number(/^\/page-(\d+)$/.exec(request.url ?? '')?.[1] ?? NaN)] ?? {}
    if (request.url === '/never.png') return
    response
      .writeHead(html === undefined ? 404 : 200, { 'Content-Type': 'text/html; charset=utf-8', ...headers })
      .end(html)
  })
  const outcomes: Record<string, string> = {}
  const chosen = pages.map((_, at) => at).filter(ofThisRun)
  let next = 0
  const work = async () => {
    while (next < chosen.length) {
      const at = chosen[next++]!
      const { name, spot, cases = casesOf(at) } = pages[at]!
      const subject = ground.subject({}, { page: `${ground.siteAddress}/page-${at}`, ...spot })
      let proof = await ground.proofOf(subject, cases)
      // Beside other tests there may be too little time for a browser; then it says so, and is asked again.
      for (let again = 0; again < MOST_AGAIN && wasBusy(proof); again += 1) proof = await ground.proofOf(subject, cases)
      // A busy computer may leave a page unfinished: what differs is looked at once more, and told.
      if (outcomeOf(proof) !== expected(at)) {
        console.warn(`${name}: ${outcomeOf(proof)}, looked at once more`)
        proof = await ground.proofOf(subject, cases)
      }
      outcomes[name] = outcomeOf(proof)
    }
  }
  await Promise.all([work(), work()])
  return outcomes
}
const MOST_AGAIN = 2
const wasBusy = ({ steps }: Proof) =>
  steps.some(({ verdict, seen }) => verdict === 'not-tried' && seen.includes('The receiver is busy'))
const LONGEST_MS = 900_000

test(
  'a sound page passes, with nothing left untried',
  async () => {
    const { sound } = setUpsOn(ground)
    // Each kind of code on a phone, too.
    const casesOf = (at: number): Proof['cases'] => (at < 6 ? VISITS : at < 10 ? ['first', 'scripts-off'] : ['first'])
    // Without scripts, what a page's scripts make is not there.
    const expected = sound.map(({ name, found, needsScripts }, at) => [
      name,
      needsScripts && casesOf(at).includes('scripts-off') ? `${found} but scripts-off` : found,
    ])
    expect(await rehearsed(sound, casesOf, (at) => expected[at]![1]!)).toEqual(
      Object.fromEntries(expected.filter(ofThisRun)),
    )
  },
  LONGEST_MS,
)

test(
  'each page on which nobody can sign up fails, with its cause',
  async () => {
    const { broken } = setUpsOn(ground)
    const expected = broken.map(({ name, found }) => [name, found])
    expect(
      await rehearsed(
        broken,
        () => VISITS,
        (at) => expected[at]![1]!,
      ),
    ).toEqual(Object.fromEntries(expected.filter(ofThisRun)))
  },
  LONGEST_MS,
)

/** Those where nothing but taking away what a finding names helps, or a person has to look what does it. */
const NOT_BY_CODE = new Set([
  'under a white curtain that lets presses through',
  'under a film of milk',
  'on a page that loads itself anew',
  'that leads phones to another address',
  'hidden on phones by a script',
  'a frame that a script makes flat',
])

someTest(
  'a mend that names another place or a frame cures, where the page does what it did',
  async () => {
    const { settings } = ground
    const framed = setUpsOn({
      settings,
      plain: () => frameCode(frameAddress(settings.publicUrl, samples.spot.id), 'Sign up', { width: 480, height: 320 }),
    }).broken
    const bare = setUpsOn({ settings, plain: () => '' }).broken
    const chosen = setUpsOn(ground).broken.flatMap(({ name, found }, at) => {
      const code = found.split(': ')[1]!
      const isElsewhere = ['hidden', 'hidden-at-widths', 'faint', 'covered'].includes(code)
      const mended = isElsewhere
        ? { ...bare[at]!, html: bare[at]!.html.replace('<main>', `<main>${ground.plain()}`) }
        : { ...framed[at]!, spot: { ...framed[at]!.spot, code: 'frame' as const } }
      return NOT_BY_CODE.has(name) || mended.cases?.includes('slow') ? [] : [mended]
    })
    const outcomes = await rehearsed(
      chosen,
      () => ['first'],
      () => 'passed',
    )
    expect(outcomes).toEqual(Object.fromEntries(Object.keys(outcomes).map((name) => [name, 'passed'])))
    expect(Object.keys(outcomes).length).toBeGreaterThan(0)
  },
  LONGEST_MS,
)

someTest(
  'an after-page whose script leads on: where its reader arrives is told',
  async () => {
    const { answers } = samples.content
    const joined = { ...answers.joined, show: 'address' as const, address: `${ground.siteAddress}/thanks` }
    const version = { ...samples.version, number: 2, content: { ...samples.content, answers: { ...answers, joined } } }
    await ground.ledger.takeChanges([samples.change('version', version)])
    const pages: Record<string, string> = {
      '/post': page(ground.plain(version)),
      '/thanks': page('<p>Thank you</p>', '<script>location.replace("/shop")</script>'),
      '/shop': page('<p>Buy</p>'),
    }
    ground.answers((request, response) =>
      response.writeHead(200, { 'Content-Type': 'text/html; charset=utf-8' }).end(pages[request.url ?? ''] ?? ''),
    )
    const proof = await ground.proofOf(ground.subject({ versions: [version] }), ['first'])
    expect(outcomeOf(proof)).toBe('answer: own-page-leads-elsewhere')
    expect(proof.steps.at(-1)!.failure!.happened).toContain('/shop')
  },
  LONGEST_MS,
)

someTest(
  'each wording of a trial is shown to somebody, and what is published to everybody else of a rehearsal',
  async () => {
    const published = ground.ledger.published().versionsOf(samples.form.id).at(-1)!
    const tried = (number: number, button: string, tags: string[]): Version => ({
      ...published,
      number,
      isTried: true,
      content: { ...published.content, words: { ...published.content.words, button }, tags },
    })
    const wordings = [
      { name: 'As it was', version: tried(91, published.content.words.button, []) },
      { name: 'Warmer', version: tried(92, 'Count me in', ['warm']) },
    ]
    const trial: Trial = {
      id: 'sometrial' as Trial['id'],
      form: samples.form.id,
      spot: samples.spot.id,
      wordings: wordings.map(({ name, version }) => ({ name, version: version.number })),
      isKept: false,
      plan: { rate: 0.05, difference: 0.02, views: 1_000 },
      startedAt: samples.createdAt,
    }
    await ground.ledger.takeChanges([
      ...wordings.map(({ version }) => samples.change('version', version)),
      samples.change('trial', trial),
    ])
    const { items } = (await ground.ledger.objectsAfter(0, null, 1000))!
    const { revision } = items.find(({ kind }) => kind === 'trial')!
    const code = placePart(published.content, ground.settings.publicUrl, samples.spot.id, null)
    ground.serves(page(code, sharedLine(ground.settings.publicUrl)))
    const subject = { ...ground.subject({ versions: [published], wordings }, { code: 'script' }) }
    const proof = await ground.proofOf(subject, ['first', 'wordings'])
    expect(outcomeOf(proof)).toBe('passed')
    const seen = proof.steps.filter((step) => step.case === 'wordings')
    expect(seen.map(({ station, verdict }) => `${station} ${verdict}`)).toEqual(
      wordings.flatMap(() => ['form passed', 'answer passed', 'list passed']),
    )
    // By its tag, only one who was shown that wording.
    expect(seen.map((step) => step.seen.includes('tagged warm'))).toEqual([false, false, false, false, false, true])
    await ground.ledger.takeChanges([
      samples.change('trial', { ...trial, ended: { at: samples.createdAt, counts: [], chosen: null } }, revision),
    ])
  },
  LONGEST_MS,
)

someTest(
  'what the receiver repeats by itself, with pages read in a thread, is done by the hand as well',
  async () => {
    const newest = ground.ledger.published().versionsOf(samples.form.id).at(-1)!
    ground.serves(page(ground.plain(newest)))
    const { items } = (await ground.ledger.objectsAfter(0, null, 1000))!
    const known = items.find(({ key }) => key === samples.spot.id)!
    // Made when a form was shown first.
    const own = items.find(({ kind }) => kind === 'preferences')
    const spot = { ...samples.spot, page: `${ground.siteAddress}/post`, code: 'plain' as const }
    const preferences = { videoHosts: [], ...(own?.body as object), rehearseEvery: 'day' as const }
    const taken = await ground.ledger.takeChanges([
      samples.change('spot', spot, known.revision),
      samples.change('preferences', preferences, own?.revision ?? 0),
    ])
    expect(taken.map(({ ok }) => ok)).toEqual([true, true])
    const repeating = new Repeating({
      ledger: ground.ledger,
      rehearsals: ground.rehearsals,
      settings: ground.settings,
      mail: { queue: ground.ledger.queue, mailbox: () => Promise.resolve(null) },
      now: Date.now,
      thread: THREAD,
      browsers: ground.browsers,
    })
    const [proof] = await repeating.look()
    const held = proof!.steps.filter(({ verdict }) => verdict === 'passed').map((step) => step.case)
    expect([proof!.by, held.includes('phone'), held.includes('scripts-off'), outcomeOf(proof!)]).toEqual([
      'receiver',
      true,
      true,
      'passed',
    ])
  },
  LONGEST_MS,
)

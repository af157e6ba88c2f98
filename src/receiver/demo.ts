import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { countsViews } from '#core/embed'
import type { Arrival } from '#core/journal'
import type { Member } from '#core/list'
import type { MailKind } from '#core/mail'
import { readWorkspace, shiftedTo } from '#core/workspace'
import { type SeenHour, type SeenRow, localTime } from '#core/results'
import { sourceOf } from '#core/signup'
import { CannotStart } from './cannot-start'
import type { HandOverApi } from './hand-over'
import { type Ledger } from './ledger'
import { mailJob } from './mail/queued'

/** Where the demo file says that the stand-in sites and the receiver are; they may be started on other ports. */
const DEMO_SITES = 'http://127.0.0.1:4320'
const DEMO_RECEIVER = 'http://localhost:4310'
const DEMO_SERVICES = 'http://127.0.0.1:4330'
/** What the pretend services take at first. */
const DEMO_KEYS: Record<string, string> = { 'Lantern Post': 'lantern-demo-key', 'Tin Kettle': 'kettle-demo-word' }
const DAY_MS = 86_400_000
/** So many of the newest who joined are welcomed. */
const WELCOMED = 6

/** Gives an empty store the demo's history, moved to end today. False where it has anything in it, and stays as it is. */
export async function fillFromDemo(
  ledger: Ledger,
  file: string,
  dataFolder: string,
  { sites, receiver, services }: { sites: string; receiver: string; services: string | null },
): Promise<boolean> {
  if ((await ledger.latest()) > 0 || (await ledger.latestChange()) > 0) return false
  const text = readFileSync(file, 'utf8')
    .replaceAll(DEMO_SITES, sites)
    .replaceAll(DEMO_RECEIVER, receiver)
    .replaceAll(DEMO_SERVICES, services ?? DEMO_SERVICES)
  const reading = readWorkspace(text)
  if (!reading.ok)
    throw new CannotStart(`The demo ${file} cannot be read: ${reading.problem.path} ${reading.problem.message}`)
  // Its gifts lie beside it.
  const gifts = join(dirname(file), 'gifts')
  mkdirSync(join(dataFolder, 'gifts'), { recursive: true, mode: 0o700 })
  for (const gift of existsSync(gifts) ? readdirSync(gifts) : [])
    writeFileSync(join(dataFolder, 'gifts', gift), readFileSync(join(gifts, gift)), { mode: 0o600 })
  try {
    await ledger.seed(shiftedTo(new Date().toISOString(), reading.workspace))
  } catch (error) {
    throw new CannotStart(`The demo ${file} cannot be stored: ${(error as Error).message.replaceAll(/\s+/g, ' ')}`)
  }
  await addDemoViews(ledger)
  return true
}

/** Of a hundred who see a demo form, about so many sign up; the pop-up is seen by everybody and wanted by few. */
const DEMO_RATES: Record<string, number> = { landing: 34, sidebar: 2.1, 'pop-up': 3.6, inline: 5.2, footer: 1.4 }
/** Of those who begin, so many sign up. */
const DEMO_FINISHED = 0.71

/** Views that the demo's sign-ups would have come from, where a script or the receiver counts them. */
async function addDemoViews(ledger: Ledger): Promise<void> {
  const published = ledger.published()
  const entries = (await ledger.entriesAfter(0, null, 100_000))?.items ?? []
  const rows = new Map<string, Required<SeenRow>>()
  const hours = new Map<string, SeenHour>()
  for (const entry of entries) {
    if (entry.kind !== 'arrival' || entry.verdict === 'bot') continue
    const spot = published.spot(entry.spot)
    const site = spot && published.site(spot.site)
    if (spot === undefined || site === undefined) continue
    if (!countsViews(spot, site)) continue
    const { day, hour } = localTime(Date.parse(entry.at), site.zone ?? 'UTC')
    // Some days are busier than others, the same at each start.
    const busy = 0.75 + ((entry.n * 7919) % 100) / 200
    const views = Math.max(1, Math.round((100 / (DEMO_RATES[spot.kind] ?? 4)) * busy))
    const device = (['phone', 'computer', 'phone', 'tablet', 'computer'] as const)[entry.n % 5]!
    const add = (version: number, more: { views: number; starts: number }) => {
      const key = { day, spot: spot.id, version, source: sourceOf(entry.personal?.cameFrom ?? {}), device }
      const row = rows.get(Object.values(key).join(' ')) ?? { ...key, views: 0, starts: 0, setAside: 0 }
      rows.set(Object.values(key).join(' '), {
        ...row,
        views: row.views + more.views,
        starts: row.starts + more.starts,
      })
    }
    // Whoever signed up came by one wording; of those who only looked, as many saw each.
    const tried = published.trialAt(spot.id)?.wordings.map(({ version }) => version) ?? []
    const shown = tried.includes(entry.version) ? tried : [entry.version]
    for (const [at, version] of shown.entries())
      add(version, { views: Math.floor((views + ((entry.n + at) % 2)) / shown.length), starts: 0 })
    add(entry.version, { views: 0, starts: entry.n % 10 < DEMO_FINISHED * 10 ? 1 : 2 })
    const seen = hours.get(`${day} ${hour} ${spot.id}`) ?? { day, hour, spot: spot.id, views: 0 }
    hours.set(`${day} ${hour} ${spot.id}`, { ...seen, views: seen.views + views })
  }
  await ledger.results.add([...rows.values()], [...hours.values()])
}

/** The demo's connections have the keys that the pretend services take, and everybody is handed over. */
export async function giveDemoKeys(ledger: Ledger, { keys }: Pick<HandOverApi, 'keys'>): Promise<void> {
  const published = ledger.published()
  for (const connection of published.connections()) {
    const { way } = connection
    const text = way.kind === 'api' ? DEMO_KEYS[way.service.name] : undefined
    if (text !== undefined) await keys.keepFor(connection, text)
  }
  for (const handOver of published.handOvers()) await ledger.handOvers.begin(handOver)
}

/** Sends the demo's newest people the mail that they would have got, so that the Mail room shows what it is for. */
export async function queueDemoMail(ledger: Ledger, now: number): Promise<void> {
  const entries = (await ledger.entriesAfter(0, null, 100_000))?.items ?? []
  const arrivals: { arrival: Arrival; member: Member }[] = []
  for (const entry of entries) {
    const member = entry.kind === 'arrival' && entry.member !== null ? await ledger.member(entry.member) : null
    if (entry.kind === 'arrival' && member !== null) arrivals.push({ arrival: entry, member })
  }
  const queue = (kind: MailKind, all: typeof arrivals) =>
    all.map(({ member }, at) =>
      ledger.queue.add(
        mailJob({ list: member.list, member: member.id, kind, recipient: member.email }, now + at * 200),
      ),
    )
  const published = ledger.published()
  const welcomed = arrivals.filter(
    ({ arrival }) => arrival.verdict === 'joined' && published.mail(arrival.list)?.messages.welcome.isOn === true,
  )
  const asked = arrivals.filter(
    ({ arrival, member }) =>
      arrival.verdict === 'confirm-first' && Date.parse(arrival.at) > now - 7 * DAY_MS && member.status === 'waiting',
  )
  await Promise.all([...queue('welcome', welcomed.slice(-WELCOMED)), ...queue('confirmation', asked)])
}

import type { Context } from 'hono'
import type { ClientPage } from '#core/api'
import { abilitiesOf } from '#core/connection'
import { type Form, picturesIn, type Version } from '#core/form'
import { lineOf, type Onward } from '#core/line'
import type { List } from '#core/list'
import type { Mail } from '#core/mail'
import type { Proof } from '#core/proof'
import { CLIENT_DAYS, clientPage } from '#core/report'
import { noticePage } from '#core/render'
import { daysFrom, resultLines } from '#core/results'
import type { Site } from '#core/site'
import { type Spot, spotName } from '#core/spot'
import type { Kind, Bodies } from '#core/sync'
import { endsWithMark, markOf } from '../marks'
import { sendMarkup, sendPage } from '../pages'
import { hasPassed } from '../clock'
import { newId } from '../random'
import type { FoundOpening, ReceiverParts } from '../subject'
import { JournalSums } from './counting'

/** `by` is the id of a key; times in milliseconds since 1970. */
type Kept = Omit<ClientPage, 'id' | 'address' | 'until'> &
  Partial<Pick<ClientPage, 'until'>> & { by?: string; usedAt?: number }

const CLIENT = 'client page '
/** When somebody looked last is written so often at most. */
const USED_EVERY_MS = 3_600_000
const DAY_MS = 86_400_000
/** After so long somebody is told to come back, while it goes on. */
const LONGEST_MS = 8_000

/** Pages of results for people without a key. Their addresses are marks, so nothing secret is stored. */
export class ClientPages {
  private readonly sums: JournalSums

  constructor(private readonly parts: Pick<ReceiverParts, 'ledger' | 'settings' | 'clock' | 'mail' | 'handOver'>) {
    this.sums = new JournalSums(parts.ledger)
  }

  /** The newest first. */
  async list(): Promise<ClientPage[]> {
    const keys = await this.parts.ledger.linkKeys()
    const all = await this.parts.ledger.values.named(CLIENT)
    return all
      .map(({ name, value }) => {
        const id = name.slice(CLIENT.length)
        const address = `${this.parts.settings.publicUrl}/client/${id}${markOf(keys, 'client', id)}`
        const { name: title, forms, madeAt, until = null } = value as Kept
        return { id, name: title, forms, madeAt, until, address }
      })
      .toSorted((one, other) => other.madeAt - one.madeAt)
  }

  /** For the list of what opens the house. */
  async openings(): Promise<FoundOpening[]> {
    const all = await this.parts.ledger.values.named(CLIENT)
    return all.map(({ name, value }) => {
      const { name: title, madeAt, until = null, by = null, usedAt = null } = value as Kept
      return { of: 'pages', id: name.slice(CLIENT.length), name: title, madeAt, by, usedAt, until }
    })
  }

  /** @param wish `by` is the id of the key that it is made with */
  async make({ until, ...wish }: Pick<Kept, 'name' | 'forms'> & { until: number | null; by: string }): Promise<void> {
    const kept: Kept = { ...wish, until, madeAt: this.parts.clock.now() }
    await this.parts.ledger.values.keep(CLIENT + newId(), kept, until)
  }

  withdraw(id: string): Promise<void> {
    return this.parts.ledger.values.drop(CLIENT + id)
  }

  async show(c: Context): Promise<Response> {
    const { publicUrl } = this.parts.settings
    const page = await this.pageAt(c.req.param('token') ?? '')
    const headers = { 'X-Robots-Tag': 'noindex, nofollow', 'Referrer-Policy': 'no-referrer' }
    if (page === null)
      return sendPage(
        c,
        publicUrl,
        noticePage('This page is not here', 'Its address is incomplete, or it was withdrawn by whoever made it.'),
        { posts: 'nothing', status: 404, inFrames: false, headers },
      )
    const days = CLIENT_DAYS.find((one) => String(one) === c.req.query('days')) ?? CLIENT_DAYS[0]
    const html = await Promise.race([
      this.write(page, days),
      new Promise<null>((resolve) => setTimeout(() => resolve(null), LONGEST_MS).unref()),
    ])
    if (html === null)
      return sendPage(
        c,
        publicUrl,
        noticePage('The numbers are being added up', 'There are many of them. Look again in a minute.'),
        { posts: 'nothing', status: 503, inFrames: false, headers: { ...headers, 'Retry-After': '30' } },
      )
    return sendMarkup(c, publicUrl, html, { posts: 'nothing', inFrames: false, headers })
  }

  private async pageAt(token: string): Promise<Kept | null> {
    const id = token.slice(0, -22)
    const isOurs = /^[a-z0-9]{4,32}$/.test(id) && endsWithMark(await this.parts.ledger.linkKeys(), token, 'client', id)
    if (!isOurs) return null
    return this.looked(id)
  }

  /** The page, with a note that somebody looked. */
  private async looked(id: string): Promise<Kept | null> {
    const { ledger, clock } = this.parts
    const kept = (await ledger.values.value(CLIENT + id)) as Kept | null
    const usedAt = clock.now()
    if (kept !== null && (kept.usedAt === undefined || hasPassed(kept.usedAt, USED_EVERY_MS, usedAt)))
      await ledger.values.change<Kept>(
        CLIENT + id,
        (before) => (before === null ? undefined : { ...before, usedAt }),
        kept.until ?? null,
      )
    return kept
  }

  private async write({ name, forms: wanted }: Kept, days: number): Promise<string> {
    const { ledger, settings, clock, mail: mailParts } = this.parts
    const all = await this.objects()
    const [sums, deliveries] = await Promise.all([this.sums.upToNow(), mailParts.sender.deliveries()])
    const now = clock.now()
    const [from, to] = [dayOf(now - (days - 1) * DAY_MS), dayOf(now)]
    const seen = await ledger.results.between(from, to)
    const chosen = all.form.filter(({ id, isArchived }) => (wanted.length === 0 ? !isArchived : wanted.includes(id)))
    const ids = new Set(chosen.map(({ id }) => id))
    const formOf = new Map(all.spot.filter(({ form }) => ids.has(form)).map(({ id, form }) => [id, form]))
    const signUps = sums.counter.results().rows.filter(({ form }) => ids.has(form))
    const linesBy = (by: 'spot' | 'day') => resultLines({ by, looked: { from, to }, signUps, seen, formOf })
    const arrivals = [...sums.lastArrivals.values()]
    const shown = new Set(chosen.flatMap(({ draft }) => picturesIn(draft)))
    const pictures = (await Promise.all([...shown].map((id) => ledger.picture(id)))).filter((one) => one !== null)
    const lines = await Promise.all(
      chosen.map(async (form) => ({
        form: form.name,
        stations: lineOf({
          form,
          list: all.list.find(({ id }) => id === form.list) ?? null,
          mail: all.mail.find(({ list }) => list === form.list) ?? null,
          spots: all.spot.filter((spot) => spot.form === form.id),
          sites: all.site,
          receiver: settings.publicUrl,
          pictures,
          videoHosts: ledger.published().preferences()?.videoHosts ?? null,
          versions: all.version.filter((version) => version.form === form.id),
          arrivals,
          proofs: all.proof,
          delivery: deliveries[form.list] ?? null,
          onward: await this.onwardOf(form.list),
        }),
      })),
    )
    const spots = new Map(all.spot.map((spot) => [spot.id as string, spot]))
    return clientPage({
      ...{ name, from, to, days, lines },
      ...{ bySpot: linesBy('spot'), byDay: linesBy('day'), allDays: daysFrom(from, to) },
      namesOf: (id) => {
        const spot = spots.get(id)
        return spot === undefined
          ? ['a form that is gone', '']
          : [all.form.find((form) => form.id === spot.form)?.name ?? '', spotName(spot, all.site)]
      },
      at: new Date(now).toISOString(),
    })
  }

  /** What keeps people from where their list goes on to; in short, for a page that tells no reasons. */
  private async onwardOf(list: string): Promise<Onward[]> {
    const { ledger, handOver } = this.parts
    const published = ledger.published()
    return Promise.all(
      published.handOversOf(list).map(async (one) => {
        const connection = published.connection(one.connection)!
        const { halted = null } = await handOver.keys.state(connection.id)
        const isShut =
          abilitiesOf(connection.way).opensBy !== null && (await handOver.keys.has(connection.id)) !== 'yes'
        return {
          name: one.target?.name ?? connection.name,
          isPaused: one.isPaused,
          trouble: halted !== null || isShut ? 'Nobody gets there.' : null,
        }
      }),
    )
  }

  private async objects() {
    const of = async <One extends Kind>(kind: One) =>
      (await this.parts.ledger.objectsOf(kind)) as unknown as Bodies[One][]
    const [form, list, mail, spot, site, version, proof] = await Promise.all([
      ...([of('form'), of('list'), of('mail'), of('spot'), of('site'), of('version'), of('proof')] as const),
    ])
    return {
      ...{ form: form as Form[], list: list as List[], mail: mail as Mail[], spot: spot as Spot[] },
      ...{ site: site as Site[], version: version as Version[], proof: proof as Proof[] },
    }
  }
}

const dayOf = (at: number) => new Date(at).toISOString().slice(0, 10)

import type { Connection, HandOver } from '#core/connection'
import { picturesIn, type Version } from '#core/form'
import type { Feed, Series } from '#core/letter'
import type { List } from '#core/list'
import type { Mail, MailSettings } from '#core/mail'
import { isAwaiting, type Proof } from '#core/proof'
import type { Site } from '#core/site'
import type { Spot } from '#core/spot'
import { keyOf, type Preferences } from '#core/sync'
import type { Trial } from '#core/trial'
import type { StoredObject } from './tables'

/** What visitors can meet, found by id. */
export interface Published {
  /** A spot whose owner took it away, or its form, is a retired one: its code may still stand on a page. */
  spot(id: string): Spot | undefined
  /** By the readable end of its page's address. */
  spotAt(slug: string): Spot | undefined
  site(id: string): Site | undefined
  /** Of all sites. */
  siteAddresses(): string[]
  version(form: string, number: number): Version | undefined
  /** What the form is by itself; versions that are only tried are none. */
  latestVersion(form: string): Version | undefined
  /** Wordings that are shown in turn there now. */
  trialAt(spot: string): Trial | undefined
  /** Those whose form is published and that visitors can meet. */
  liveSpots(): Spot[]
  /** Paused, retired or taken away, whose code may still stand somewhere. */
  closedSpots(): Spot[]
  /** Without those that are only tried, the newest last. */
  versionsOf(form: string): Version[]
  /** Null for one that was taken away. */
  list(id: string): List | null
  /** A list's mail as it is sent; null where it sends none. */
  mail(list: string): MailSettings | null
  /** Lists that send mail. */
  mailingLists(): string[]
  connection(id: string): Connection | null
  connections(): Connection[]
  handOver(id: string): HandOver | null
  handOvers(): HandOver[]
  /** Those of a list, paused ones as well. */
  handOversOf(list: string): HandOver[]
  /** Those that were begun. */
  series(): Series[]
  feeds(): Feed[]
  preferences(): Preferences | null
  /** When a spot was rehearsed last; null for never. */
  rehearsedAt(spot: string): string | null
  /** A spot's newest rehearsal where its mail is still on its way; else null. */
  awaitingProof(spot: string): Proof | null
  /** Whether a published form shows it: pictures of drafts are their owner's alone. */
  showsPicture(id: string): boolean
}

/** The same, kept in step with the objects. */
export class PublishedIndex implements Published {
  private readonly sites = new Map<string, Site>()
  private readonly spots = new Map<string, { spot: Spot; isDeleted: boolean }>()
  /** One that a spot had before goes on until the next start, or until another takes it. */
  private readonly slugs = new Map<string, string>()
  private readonly versions = new Map<string, Version>()
  private readonly latest = new Map<string, Version>()
  private readonly awaiting = new Map<string, Proof>()
  private readonly deletedForms = new Set<string>()
  private readonly pictures = new Set<string>()
  private readonly lists = new Map<string, List>()
  private readonly mails = new Map<string, MailSettings>()
  private readonly outside = new Map<string, Connection>()
  private readonly handedOn = new Map<string, HandOver>()
  private readonly trials = new Map<string, Trial>()
  private readonly begunSeries = new Map<string, Series>()
  private readonly begunFeeds = new Map<string, Feed>()
  private readonly rehearsed = new Map<string, string>()
  private chosen: Preferences | null = null

  /** Of the newest object that it has taken in. */
  revision = 0

  take({ kind, key, revision, body, isDeleted }: StoredObject): void {
    this.revision = Math.max(this.revision, revision)
    switch (kind) {
      case 'site':
        this.sites.set(key, body as Site)
        break
      case 'spot':
        this.spots.set(key, { spot: body as Spot, isDeleted })
        if ((body as Spot).slug !== undefined) this.slugs.set((body as Spot).slug!, key)
        break
      case 'preferences':
        this.chosen = isDeleted ? null : (body as Preferences)
        break
      case 'list':
        if (isDeleted) this.lists.delete(key)
        else this.lists.set(key, body as List)
        break
      case 'mail': {
        const { published } = body as Mail
        if (isDeleted || published === null) this.mails.delete(key)
        else this.mails.set(key, published)
        break
      }
      case 'connection':
        if (isDeleted) this.outside.delete(key)
        else this.outside.set(key, body as Connection)
        break
      case 'handOver':
        if (isDeleted) this.handedOn.delete(key)
        else this.handedOn.set(key, body as HandOver)
        break
      case 'proof': {
        const proof = body as Proof
        const { spot, at } = proof
        if (at <= (this.rehearsed.get(spot) ?? '')) break
        this.rehearsed.set(spot, at)
        if (isAwaiting(proof)) this.awaiting.set(spot, proof)
        else this.awaiting.delete(spot)
        break
      }
      case 'trial': {
        const trial = body as Trial
        if (!isDeleted && trial.ended === undefined) this.trials.set(trial.spot, trial)
        else if (this.trials.get(trial.spot)?.id === trial.id) this.trials.delete(trial.spot)
        break
      }
      case 'series':
        if (isDeleted || (body as Series).published === null) this.begunSeries.delete(key)
        else this.begunSeries.set(key, body as Series)
        break
      case 'feed':
        if (isDeleted || (body as Feed).published === null) this.begunFeeds.delete(key)
        else this.begunFeeds.set(key, body as Feed)
        break
      case 'form':
        if (isDeleted) this.deletedForms.add(key)
        else this.deletedForms.delete(key)
        break
      case 'version': {
        const version = body as Version
        this.versions.set(key, version)
        if (version.isTried !== true && version.number > (this.latest.get(version.form)?.number ?? 0))
          this.latest.set(version.form, version)
        for (const id of picturesIn(version.content)) this.pictures.add(id)
        break
      }
      // Nothing that visitors meet is made of these as they are.
      case 'letter':
      case 'picture':
      case 'theme':
        break
    }
  }

  spot(id: string): Spot | undefined {
    const storedSpot = this.spots.get(id)
    if (storedSpot === undefined) return undefined
    return storedSpot.isDeleted || this.deletedForms.has(storedSpot.spot.form)
      ? { ...storedSpot.spot, state: 'retired' }
      : storedSpot.spot
  }
  spotAt = (slug: string) => this.spot(this.slugs.get(slug) ?? '')
  site = (id: string) => this.sites.get(id)
  siteAddresses = () => [...this.sites.values()].map(({ address }) => address)
  version = (form: string, number: number) => this.versions.get(keyOf('version', { form, number } as Version))
  latestVersion = (form: string) => this.latest.get(form)
  trialAt = (spot: string) => this.trials.get(spot)
  liveSpots = () =>
    [...this.spots.keys()].flatMap((id) => {
      const spot = this.spot(id)!
      return spot.state === 'live' && this.latest.has(spot.form) ? [spot] : []
    })
  closedSpots = () => [...this.spots.keys()].map((id) => this.spot(id)!).filter(({ state }) => state !== 'live')
  versionsOf = (form: string) =>
    [...this.versions.values()]
      .filter((version) => version.form === form && version.isTried !== true)
      .sort((one, other) => one.number - other.number)
  mail = (list: string) => (this.lists.has(list) ? (this.mails.get(list) ?? null) : null)
  mailingLists = () => [...this.mails.keys()].filter((list) => this.lists.has(list))
  connection = (id: string) => this.outside.get(id) ?? null
  connections = () => [...this.outside.values()]
  handOver = (id: string) => this.handedOn.get(id) ?? null
  handOvers = () => [...this.handedOn.values()]
  handOversOf(list: string): HandOver[] {
    // Asked with every sign-up: most receivers hand nothing on.
    if (this.handedOn.size === 0) return []
    return this.handOvers().filter((one) => one.list === list && this.outside.has(one.connection))
  }
  list = (id: string) => this.lists.get(id) ?? null
  series = () => [...this.begunSeries.values()]
  feeds = () => [...this.begunFeeds.values()]
  preferences = () => this.chosen
  rehearsedAt = (spot: string) => this.rehearsed.get(spot) ?? null
  awaitingProof = (spot: string) => this.awaiting.get(spot) ?? null
  showsPicture = (id: string) => this.pictures.has(id)
}

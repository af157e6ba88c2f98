import type { Version } from '#core/form'
import type { List } from '#core/list'
import type { MailSettings } from '#core/mail'
import type { Site } from '#core/site'
import { type Spot, spotName } from '#core/spot'

/** What a rehearsal has to know of one spot. */
export interface RehearsalSubject {
  spot: Spot
  site: Site | null
  /** The one that the newest version feeds; null when it was taken away. */
  list: List | null
  /** Its mail as it is sent; null where it sends none. */
  mail: MailSettings | null
  /** Published, oldest first. */
  versions: readonly Version[]
  /** Where visitors reach the receiver, without a slash at the end. */
  receiver: string
  /** Names of the owner's spots, by id. */
  others: ReadonlyMap<string, string>
  /** Of those, the ones that are paused or retired. */
  closed: ReadonlyMap<string, string>
}

/** Where what is rehearsed is kept: a workshop, or a receiver. */
export interface RehearsalSource {
  spots: readonly Spot[]
  sites: readonly Site[]
  /** Published, oldest first. */
  versionsOf(form: Spot['form']): readonly Version[]
  list(id: List['id']): List | null
  /** As it is sent; null where the list sends none. */
  mail(list: List['id']): MailSettings | null
  receiver: string
}

/** Gathers what a rehearsal has to know of a spot. Without a published version there is no list yet. */
export function rehearsalSubject(spot: Spot, source: RehearsalSource): RehearsalSubject {
  const { spots, sites, receiver } = source
  const versions = source.versionsOf(spot.form)
  const list = versions.at(-1)?.list
  const named = (some: readonly Spot[]) => new Map(some.map((one) => [one.id as string, spotName(one, sites)]))
  return {
    spot,
    site: sites.find(({ id }) => id === spot.site) ?? null,
    list: list === undefined ? null : source.list(list),
    mail: list === undefined ? null : source.mail(list),
    versions,
    receiver,
    others: named(spots),
    closed: named(spots.filter(({ state }) => state !== 'live')),
  }
}

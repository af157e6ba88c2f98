import type { Version } from '#core/form'
import type { List } from '#core/list'
import type { MailSettings } from '#core/mail'
import type { Site } from '#core/site'
import type { Trial } from '#core/trial'
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
  /** The address under which somebody may be signed up at the service that a form posts to; missing until its owner said yes. */
  directAs?: string
  /** Of a spot that is placed by rule: further pages on which it should stand, from the last look through the site. */
  morePages?: readonly string[]
  /** Of a trial that goes on at the spot, in its order; missing for none. */
  wordings?: readonly { name: string; version: Version }[]
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
  /** The trial that goes on at a spot. */
  trialAt(spot: Spot['id']): Trial | undefined
  /** Any version, published or tried. */
  version(form: Spot['form'], number: number): Version | undefined
  receiver: string
}

/** Gathers what a rehearsal has to know of a spot. Without a published version there is no list yet. */
export function rehearsalSubject(spot: Spot, source: RehearsalSource): RehearsalSubject {
  const { spots, sites, receiver } = source
  const versions = source.versionsOf(spot.form)
  const list = versions.at(-1)?.list
  const wordings = (source.trialAt(spot.id)?.wordings ?? []).flatMap(({ name, version }) => {
    const shown = source.version(spot.form, version)
    return shown === undefined ? [] : [{ name, version: shown }]
  })
  const named = (some: readonly Spot[]) => new Map(some.map((one) => [one.id as string, spotName(one, sites)]))
  return {
    spot,
    site: sites.find(({ id }) => id === spot.site) ?? null,
    list: list === undefined ? null : source.list(list),
    mail: list === undefined ? null : source.mail(list),
    versions,
    receiver,
    ...(wordings.length > 0 && { wordings }),
    others: named(spots),
    closed: named(spots.filter(({ state }) => state !== 'live')),
  }
}

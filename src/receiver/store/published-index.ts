import type { Published } from '#core/workspace'
import type { PublishedIndex } from './store'

const EMPTY: Published = { sites: [], lists: [], forms: [], versions: [], spots: [], pictures: [] }

/** Key of a version among all versions of all forms. */
export function versionKey(version: { form: string; number: number }): string {
  return `${version.form}/${version.number}`
}

/** An index that can say what it would be with more published on top. */
export interface GrowingIndex extends PublishedIndex {
  with(more: Published): GrowingIndex
}

/** Finds published things by id. Publishing again replaces by id; versions stay what they were. */
export function indexPublished(published: Published = EMPTY): GrowingIndex {
  const sites = new Map(published.sites.map((site) => [site.id as string, site]))
  const lists = new Map(published.lists.map((list) => [list.id as string, list]))
  const forms = new Map(published.forms.map((form) => [form.id as string, form]))
  const spots = new Map(published.spots.map((spot) => [spot.id as string, spot]))
  const pictures = new Map(published.pictures.map((picture) => [picture.id as string, picture]))
  const versions = new Map(published.versions.map((version) => [versionKey(version), version]))
  const latest = new Map<string, Published['versions'][number]>()
  for (const version of published.versions) {
    const known = latest.get(version.form)
    if (known === undefined || version.number > known.number) latest.set(version.form, version)
  }
  const all = (): Published => ({
    sites: [...sites.values()],
    lists: [...lists.values()],
    forms: [...forms.values()],
    versions: [...versions.values()],
    spots: [...spots.values()],
    pictures: [...pictures.values()],
  })
  return {
    all,
    spot: (id) => spots.get(id),
    site: (id) => sites.get(id),
    picture: (id) => pictures.get(id),
    version: (form, number) => versions.get(versionKey({ form, number })),
    latestVersion: (form) => latest.get(form),
    with: (more) => {
      const before = all()
      // A Map keeps the last of equal keys, so what is published now replaces what was.
      return indexPublished({
        sites: [...before.sites, ...more.sites],
        lists: [...before.lists, ...more.lists],
        forms: [...before.forms, ...more.forms],
        versions: [...more.versions, ...before.versions],
        spots: [...before.spots, ...more.spots],
        pictures: [...before.pictures, ...more.pictures],
      })
    },
  }
}

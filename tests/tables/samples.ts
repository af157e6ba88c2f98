import { newField, type Form, type FormContent, startContent, type Version } from '#core/form'
import type { FormId, ListId, SiteId, SpotId } from '#core/ids'
import { startList } from '#core/list'
import type { Site } from '#core/site'
import { textsOf } from '#core/texts'
import type { Spot } from '#core/spot'
import { type Body, type Change, type Kind, keyOf } from '#core/sync'
import { emptyWorkspace, type Workspace } from '#core/workspace'

/** One of everything, for tests: a published form with two fields on a site of this computer. */
export const createdAt = '2026-01-02T03:04:05.000Z'
export const list = startList('samplelist' as ListId, 'Sample list', createdAt)
export const site: Site = {
  id: 'samplesite' as SiteId,
  name: 'Sample site',
  address: 'http://127.0.0.1:4320/',
  kind: 'self-hosted-blog',
  palette: null,
  createdAt,
}
export const content: FormContent = {
  ...startContent('Sample list'),
  fields: [newField('email', textsOf('en')), newField('first-name', textsOf('en'))],
}
export const form: Form = {
  id: 'sampleform' as FormId,
  name: 'Sample form',
  list: list.id,
  theme: null,
  isArchived: false,
  draft: content,
  createdAt,
}
export const version: Version = { form: form.id, number: 1, list: list.id, content, publishedAt: createdAt }
export const spot: Spot = {
  id: 'samplespot' as SpotId,
  form: form.id,
  site: site.id,
  kind: 'inline',
  page: 'http://127.0.0.1:4320/posts/one',
  state: 'live',
  createdAt,
}

/** A workspace with all of it. */
export const workspace: Workspace = {
  ...emptyWorkspace(createdAt),
  sites: [site],
  lists: [list],
  forms: [form],
  versions: [version],
  spots: [spot],
}

/** One object as a change that makes it, or changes it on a revision. */
export function change(kind: Kind, body: Body, base = 0): Change {
  return { kind, key: keyOf(kind, body), base, body }
}

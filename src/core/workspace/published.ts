import { z } from 'zod'
import { type Form, formSchema, picturesIn, versionSchema } from '#core/form'
import { listSchema } from '#core/list'
import { pictureSchema } from '#core/picture'
import { siteSchema } from '#core/site'
import { spotSchema } from '#core/spot'
import type { Workspace } from './workspace'

/** A form without its draft and how it is kept in order: those stay with its owner. */
export const publishedFormSchema = formSchema.omit({ draft: true, theme: true, isArchived: true }).extend({
  /** Deleted by its owner: no workshop takes it in again, while receipts can still name its versions. */
  deletedAt: z.iso.datetime().nullable().optional(),
})

/** What the owner has sent to the receiver: enough to take in sign-ups, and to refill an emptied workshop. */
export const publishedSchema = z.strictObject({
  sites: z.array(siteSchema),
  lists: z.array(listSchema),
  forms: z.array(publishedFormSchema),
  versions: z.array(versionSchema),
  spots: z.array(spotSchema),
  /** Those that the versions show. */
  pictures: z.array(pictureSchema),
})
export type Published = z.infer<typeof publishedSchema>

/** The part of a workspace that a receiver holds: published forms with all they refer to. */
export function publishedOf(workspace: Pick<Workspace, 'sites' | 'lists' | 'forms' | 'versions' | 'spots' | 'pictures'>): Published {
  const forms = new Set(workspace.versions.map((version) => version.form))
  const spots = workspace.spots.filter((spot) => forms.has(spot.form))
  const shown = new Set(workspace.versions.flatMap((version) => picturesIn(version.content)))
  const sites = new Set(spots.map((spot) => spot.site))
  return {
    sites: workspace.sites.filter((site) => sites.has(site.id)),
    lists: workspace.lists,
    forms: workspace.forms.filter((form) => forms.has(form.id)).map(withoutDraft),
    versions: workspace.versions,
    spots,
    pictures: workspace.pictures.filter((picture) => shown.has(picture.id)),
  }
}

function withoutDraft({ draft: _, theme: _theme, isArchived: _isArchived, ...form }: Form): Published['forms'][number] {
  return form
}

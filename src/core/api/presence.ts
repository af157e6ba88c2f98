import { z } from 'zod'
import { route } from './route'

/** Where somebody is in the workshop: an object that is worked on, such as a form. */
const presenceSchema = z.strictObject({
  place: z.string().regex(/^[a-z]{1,20} [\w.-]{1,60}$/i),
  /** Drawn by the tab, so that two tabs with one key are two. */
  tab: z.string().regex(/^[a-z0-9]{8,40}$/),
})

/** Somebody else who is there now. */
const presentSchema = z.object({ key: z.string(), name: z.string() })
export type Present = z.infer<typeof presentSchema>

/** How long somebody counts as being there after they said so last, in milliseconds. */
export const PRESENT_FOR_MS = 25_000

export const presenceRoutes = {
  sayPresent: route({
    method: 'post',
    path: '/presence',
    needs: 'see',
    summary: 'Says that somebody works on an object, and tells who else does: those who said so within 25 seconds.',
    body: presenceSchema,
    answer: z.object({ others: z.array(presentSchema) }),
  }),
}

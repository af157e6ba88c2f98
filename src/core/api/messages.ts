import { z } from 'zod'
import { arrivalIdSchema } from '#core/ids'
import { MOST_MESSAGES_ERASED } from '#core/journal'
import { route } from './route'

const some = z.strictObject({ messages: z.array(arrivalIdSchema).min(1).max(MOST_MESSAGES_ERASED) })
const counted = z.object({ count: z.int() })

export const messagesRoutes = {
  releaseMessages: route({
    method: 'post',
    path: '/messages/release',
    needs: 'edit',
    summary: 'Lets held messages through to the owner’s inbox. Those that are not held, or not here, are passed over.',
    body: some,
    answer: counted,
  }),
  eraseMessages: route({
    method: 'post',
    path: '/messages/erase',
    needs: 'edit',
    summary: 'Erases messages: what they say and whose they were is taken out of the journal, which says so.',
    body: some,
    answer: counted,
  }),
}

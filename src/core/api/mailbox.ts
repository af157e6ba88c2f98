import { z } from 'zod'
import { mailboxBehaviourSchema } from '#core/mailbox'
import { boxedMailsSchema, boxesSchema } from './mail'
import { route } from './route'

const noMailbox = { 404: 'No stand-in mailbox runs beside this receiver.' } as const

export const mailboxRoutes = {
  listBoxes: route({
    method: 'get',
    path: '/mailbox',
    needs: 'see-people',
    summary: 'The boxes of the stand-in mailbox, and what goes wrong there.',
    answer: boxesSchema,
    refusals: noMailbox,
  }),
  readBox: route({
    method: 'get',
    path: '/mailbox/{address}',
    needs: 'see-people',
    summary: 'What lies in one box, newest first.',
    params: z.object({ address: z.string().max(320) }),
    answer: boxedMailsSchema,
    refusals: noMailbox,
  }),
  behaveMailbox: route({
    method: 'put',
    path: '/mailbox/behaviour',
    needs: 'edit',
    summary: 'What goes wrong in the stand-in mailbox, by a part of the address.',
    body: mailboxBehaviourSchema,
    answer: z.object({ ok: z.literal(true) }),
    refusals: noMailbox,
  }),
  emptyMailbox: route({
    method: 'post',
    path: '/mailbox/empty',
    needs: 'edit',
    summary: 'Empties all boxes.',
    answer: z.object({ ok: z.literal(true) }),
    refusals: noMailbox,
  }),
}

import { z } from 'zod'

/**
 * How far it is known that a list's mail reaches real inboxes, through the sender and server of now:
 *
 * - `no-server`: nothing is sent.
 * - `refused`: the server refused what is sent, and has taken nothing since; `said` in its words.
 * - `stand-in`: all mail goes to the stand-in mailbox, where it is seen to arrive.
 * - `arrived`: a code was read in an inbox of the owner's own, or somebody followed a link in a mail.
 * - `untried`: none of these.
 */
export const deliverySchema = z.strictObject({
  state: z.enum(['no-server', 'refused', 'stand-in', 'arrived', 'untried']),
  said: z.string(),
})
export type Delivery = z.infer<typeof deliverySchema>

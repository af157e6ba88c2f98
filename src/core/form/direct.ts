import { z } from 'zod'
import { addressProblem } from '#core/site'

const pair = z.strictObject({ name: z.string().min(1).max(200), value: z.string().max(5000) })

/**
 * Where a form posts to by itself: a service's own form address, with nothing of ours between. Each control of ours has the
 * name, and each choice the value, that the service knows it by.
 */
export const directSchema = z.strictObject({
  action: z
    .string()
    .max(2000)
    .refine((address) => addressProblem(address) === null, 'must be an address that begins with https://'),
  method: z.enum(['post', 'get']),
  /** What the service reads it as; empty for UTF-8. */
  charset: z.string().max(40),
  /** Sent with every form as they are. */
  fixed: z.array(pair).max(100),
  /** The service's own field that people cannot see; null for none. */
  trap: z.string().min(1).max(200).nullable(),
  /** What the button is sent as; null where it is not sent. */
  button: pair.nullable(),
  controls: z
    .array(
      z.strictObject({
        /** Our name; see `controlNames`. */
        control: z.string().min(1).max(100),
        name: z.string().min(1).max(200),
        /** What a ticked box is sent as; null for what is typed or chosen. */
        value: z.string().max(1000).nullable(),
        /** By the keys of a menu's or a group's choices. */
        values: z.record(z.string(), z.string().max(1000)).optional(),
      }),
    )
    .max(400),
})
export type Direct = z.infer<typeof directSchema>

/** The service that a form posts straight to, by its host: what it takes in is kept there, and nothing here. Null for ours. */
export const serviceHostOf = ({ direct }: { direct?: Direct }): string | null =>
  direct === undefined ? null : new URL(direct.action).host

import { z } from 'zod'
import { connectionIdSchema } from '#core/ids'
import { addressProblem } from '#core/site'
import { plainLine } from '#core/text'
import { serviceFileSchema } from './service-file'

/** What tells a webhook of people. */
export const webhookEvents = ['joined', 'confirmed', 'changed', 'left', 'bounced', 'erased'] as const
export type WebhookEvent = (typeof webhookEvents)[number]

/** A name and a value that are sent as they are. */
const pairSchema = z.strictObject({ name: z.string().min(1).max(200), value: z.string().max(2000) })

const httpAddress = z
  .string()
  .max(2000)
  .refine((address) => addressProblem(address) === null, 'must be an address that begins with https://')

export const waySchema = z.discriminatedUnion('kind', [
  /** Asked with a key, as a service file says. What is asked for besides the key stands in `asked`. */
  z.strictObject({
    kind: z.literal('api'),
    service: serviceFileSchema,
    asked: z.record(z.string(), z.string().max(500)),
  }),
  /** Posted to a service's own form address, as its own form would. */
  z.strictObject({
    kind: z.literal('form-post'),
    action: httpAddress,
    email: z.string().min(1).max(200),
    fields: z.array(z.strictObject({ key: z.string().min(1).max(200), name: plainLine })).max(200),
    fixed: z.array(pairSchema).max(100),
  }),
  /** Told of what happens, signed as Standard Webhooks says. */
  z.strictObject({
    kind: z.literal('webhook'),
    address: httpAddress,
    events: z.array(z.enum(webhookEvents)),
    /** Whether its receiver reads several events in one request. */
    takesMany: z.boolean().optional(),
  }),
  /** Written as a table into a folder of the receiver's. */
  z.strictObject({ kind: z.literal('file'), everyMinutes: z.int().min(5).max(10_080) }),
])
export type Way = z.infer<typeof waySchema>

/** An outside place that lists hand their people to, under its owner's label. Its key is the receiver's alone. */
export const connectionSchema = z.strictObject({
  id: connectionIdSchema,
  /** The owner's label for it. */
  name: plainLine,
  way: waySchema,
  /** Whether rehearsals may send a marked person there, who is taken off again. */
  isRehearsed: z.boolean(),
  createdAt: z.iso.datetime(),
})
export type Connection = z.infer<typeof connectionSchema>

import { z } from 'zod'
import { harmlessText, plainLine } from '#core/text'

/**
 * How a list service is spoken to, as data: where its key goes, what it is asked, how its answers are read. Described in
 * docs/service-file.md.
 */

/** RFC 6901. Empty is the whole answer. */
const pointer = z
  .string()
  .max(500)
  .regex(/^(?:\/(?:[^~/]|~[01])*)*$/, 'must be a JSON Pointer, such as /lists/0/name')
const name = z.string().regex(/^[a-z][a-zA-Z0-9]{0,39}$/, 'must be a short name of letters and digits')
/** RFC 9110, section 5.6.2. */
const headerName = z
  .string()
  .max(100)
  .regex(/^[!#$%&'*+.^_`|~0-9A-Za-z-]+$/, 'must be the name of a header')
/** Keys go over encrypted connections only, or to this computer. */
const SAFE = /^(?:https:\/\/|http:\/\/(?:127\.0\.0\.1|localhost)(?::\d+)?(?:\/|$))/
/**
 * A URI Template (RFC 6570). Reserved and fragment expansion (`{+…}`, `{#…}`) would let a value that somebody typed change the
 * address's path, so they are refused.
 */
const template = z
  .string()
  .min(1)
  .max(1000)
  .refine((text) => !/\{[+#]/.test(text), 'must not have {+…} or {#…}: what somebody types could change the address')

/** What an answer comes to. */
export const meanings = [
  'done',
  /** Accepted, and they have yet to confirm there. */
  'to-confirm',
  'already',
  'absent',
  'opted-out',
  'refused',
  'later',
  'key-refused',
  'not-allowed',
  'list-gone',
] as const
export type Meaning = (typeof meanings)[number]

const scalar = z.union([z.string().max(500), z.number(), z.boolean(), z.null()])

/** What an answer means, told by its status, by a value in it, or by both. Of several the first that fits counts. */
export const answerRuleSchema = z.strictObject({
  /** Such as `200` or `4xx`. */
  status: z
    .string()
    .regex(/^[1-5](?:\d\d|xx)$/, 'must be a status such as 200 or 4xx')
    .optional(),
  at: pointer.optional(),
  /** What stands there; missing is: anything at all. */
  is: scalar.optional(),
  means: z.enum(meanings),
})
export type AnswerRule = z.infer<typeof answerRuleSchema>

/** JSON in which strings are filled in: `"{email}"` becomes the value itself, `"Hello {email}"` a text. */
export type JsonTemplate = z.core.util.JSONType

const formPartSchema = z.strictObject({
  name: z.string().min(1).max(200),
  value: z.string().max(500),
  /** Once for each of these: `{key}` and `{value}` stand for one of them. */
  each: name.optional(),
})

/** How the next page is asked for. */
const nextSchema = z.union([
  /** A value of the answer goes into `cursor`. */
  z.strictObject({ cursor: pointer }),
  /** The same with a header of the answer. */
  z.strictObject({ header: headerName }),
  /** A value of the answer is the next page's whole address, at the same origin. */
  z.strictObject({ address: pointer }),
  /** The `Link` header with `rel="next"` tells the next page's address (RFC 8288). */
  z.strictObject({ link: z.literal(true) }),
  /** `page` counts up from 1 until nothing comes. */
  z.strictObject({ page: z.literal(true) }),
  /** `offset` is the number of those that came already. */
  z.strictObject({ offset: z.literal(true) }),
])
export type FormPart = z.infer<typeof formPartSchema>

const readsSchema = z.record(name, pointer)

export const requestSchema = z.strictObject({
  method: z.enum(['GET', 'POST', 'PUT', 'PATCH', 'DELETE']),
  /** A URI Template, put behind `base`. */
  address: template,
  /** Any JSON: see `JsonTemplate`. */
  json: z.unknown().optional(),
  /** Parameters behind the address; one that stands for a single value which is missing is left out. */
  query: z.array(formPartSchema).max(50).optional(),
  form: z.array(formPartSchema).max(200).optional(),
  /** Where the list of what was asked for stands, for requests that bring several. */
  items: pointer.optional(),
  /** Where each part of what was asked for stands: in each item, or in the whole answer. */
  read: readsSchema.optional(),
  /** What stands where one of the item's tags is told by more than its name: `/name` in `[{"name": "a"}]`. */
  tagName: pointer.optional(),
  next: nextSchema.optional(),
  /** Of `putMany`: how many people it takes at most. */
  most: z.int().min(2).max(1000).optional(),
  /** Of `putMany`: what each of `items` means, by what stands in it; without a rule that fits, or not listed, as the whole. */
  outcomes: z.array(answerRuleSchema).max(50).optional(),
  /** Before those of the whole file. */
  answers: z.array(answerRuleSchema).max(50).optional(),
})
export type ServiceRequest = z.infer<typeof requestSchema>

/** What a service can be asked, by what it is asked for. Only `lists` and `put` have to be there. */
export const requestNames = [
  'account',
  'lists',
  'fields',
  'makeField',
  'find',
  'members',
  'put',
  'putMany',
  'change',
  'join',
  'off',
  'tags',
  'makeTag',
] as const
export type RequestName = (typeof requestNames)[number]

/** Whatever else has to be known to ask it. */
const askSchema = z.strictObject({
  name,
  label: plainLine,
  /** Where its owner finds it. */
  where: harmlessText,
  example: z.string().max(200).optional(),
})

const keySchema = z
  .discriminatedUnion('way', [
    z.strictObject({ way: z.literal('bearer') }),
    z.strictObject({ way: z.literal('header'), name: headerName, prefix: z.string().max(40).optional() }),
    /** RFC 7617. The key is the password, or the user where `user` is missing. */
    z.strictObject({ way: z.literal('basic'), user: z.string().max(100).optional() }),
    z.strictObject({ way: z.literal('query'), name: z.string().min(1).max(100) }),
    z.strictObject({ way: z.literal('form'), name: z.string().min(1).max(100) }),
    /** OAuth 2.0 with PKCE (RFC 6749, RFC 7636). */
    z.strictObject({
      way: z.literal('oauth'),
      authorize: z.url().regex(SAFE, 'must begin with https://'),
      token: z.url().regex(SAFE, 'must begin with https://'),
      client: z.string().min(1).max(200),
      scope: z.string().max(500).optional(),
    }),
  ])
  .and(
    z.object({
      label: plainLine.optional(),
      where: harmlessText.optional(),
      /**
       * The second part of a key in two parts, kept as `first:second`. `basic` sends them as user and password; `header`,
       * `query` and `form` send the second under this name.
       */
      second: z
        .strictObject({ label: plainLine, where: harmlessText.optional(), name: headerName.optional() })
        .optional(),
    }),
  )

export const serviceFileSchema = z
  .strictObject({
    askBoxService: z.literal(1),
    name: plainLine,
    about: harmlessText.optional(),
    /** What all addresses begin with: a URI Template of what is asked for, at `https:` or on this computer. */
    base: template.regex(SAFE, 'must begin with https://'),
    key: keySchema,
    asks: z.array(askSchema).max(10).optional(),
    headers: z
      .record(
        headerName,
        z
          .string()
          .max(500)
          .regex(/^[\x20-\x7e]*$/, 'must be visible ASCII'),
      )
      .optional(),
    /** How many requests it takes. */
    pace: z.strictObject({ aSecond: z.int().min(1).max(1000), atOnce: z.int().min(1).max(50) }).optional(),
    requests: z.strictObject({
      account: requestSchema.optional(),
      lists: requestSchema,
      fields: requestSchema.optional(),
      makeField: requestSchema.optional(),
      find: requestSchema.optional(),
      members: requestSchema.optional(),
      put: requestSchema,
      /** Several people in one request: those that are waiting to be put there. */
      putMany: requestSchema.optional(),
      /** Where it takes another request to change who is there already. */
      change: requestSchema.optional(),
      /** Where it takes another request to put somebody who is known on a list: after `put`. */
      join: requestSchema.optional(),
      off: requestSchema.optional(),
      /** Its tags, where they go along by their ids. */
      tags: requestSchema.optional(),
      makeTag: requestSchema.optional(),
    }),
    answers: z.array(answerRuleSchema).max(50).optional(),
    /** Where answers tell in words what is wrong. */
    said: z.array(pointer).max(10).optional(),
    /** What it calls each kind of field. */
    kinds: z
      .record(z.string().max(100), z.enum(['text', 'number', 'date', 'choice', 'yes-no', 'web-address']))
      .optional(),
    /** What it calls each status. */
    statuses: z.record(z.string().max(100), z.enum(['on', 'waiting', 'off'])).optional(),
    /** What its fields are called in words where it has some that it does not tell of. */
    ownFields: z
      .array(z.strictObject({ key: z.string().min(1).max(100), name: plainLine }))
      .max(50)
      .optional(),
    /** How it tells of who left or bounced there, where it can be given an address to tell. */
    back: z
      .strictObject({
        email: pointer,
        event: pointer,
        /** What it calls these. Anything else is passed over. */
        events: z.record(z.string().max(100), z.enum(['left', 'bounced'])),
        /** Where the list stands whose id it names; missing is: of whichever list. */
        list: pointer.optional(),
        /** Where an array of events stands in what it posts; missing is: all of it is one event, or an array of them. */
        each: pointer.optional(),
      })
      .optional(),
    /** How it wants values spelled that are told apart here; what it shows is compared in the same spelling. */
    spelled: z
      .strictObject({
        /** Dates, with YYYY, MM and DD, such as `DD/MM/YYYY`; else as in ISO 8601. */
        dates: z
          .string()
          .max(30)
          .regex(
            /^(?=.*YYYY)(?=.*MM)(?=.*DD)[YMD./ -]+$/,
            'must have YYYY, MM and DD, and dots, strokes or spaces between',
          )
          .optional(),
        /** A ticked and an unticked box; else `yes` and `no`. */
        yes: scalar.optional(),
        no: scalar.optional(),
        /** Choices by the key of their field: what they are called here, and what there. */
        choices: z.record(z.string().max(200), z.record(z.string().max(200), scalar)).optional(),
      })
      .optional(),
    /** Whether it sends a mail of its own to confirm, unless told otherwise. */
    confirms: z.boolean().optional(),
  })
  .check((context) => {
    const { requests, asks = [], base, key } = context.value
    const named = [...base.matchAll(/\{[^{}]*\}/g)].flatMap(([part]) => part.match(/[A-Za-z_]\w*/g) ?? [])
    const unknown = named.find((one) => !asks.some(({ name }) => name === one))
    if (unknown !== undefined)
      context.issues.push({
        code: 'custom',
        path: ['base'],
        message: `names {${unknown}}, which “asks” does not ask for: nothing else may stand in it`,
        input: base,
      })
    if (
      key.second !== undefined &&
      (key.way === 'bearer' || key.way === 'oauth' || (key.way !== 'basic' && key.second.name === undefined))
    )
      context.issues.push({
        code: 'custom',
        path: ['key', 'second'],
        message: 'goes with the ways basic, header, query and form, and all but basic need its name',
        input: key,
      })
    const names = asks.map(({ name }) => name)
    if (new Set(names).size < names.length)
      context.issues.push({ code: 'custom', path: ['asks'], message: 'asks for something twice', input: asks })
    for (const [name, request] of Object.entries(requests))
      if (request?.json !== undefined && request.form !== undefined)
        context.issues.push({
          code: 'custom',
          path: ['requests', name],
          message: 'has a JSON body and a form body: one of them',
          input: request,
        })
  })
export type ServiceFile = z.infer<typeof serviceFileSchema>
export type Ask = z.infer<typeof askSchema>

/** A service file as text, or what is wrong with it, with its place. */
export function readServiceFile(text: string): { ok: true; service: ServiceFile } | { ok: false; message: string } {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch (error) {
    return { ok: false, message: `This is no JSON: ${(error as Error).message}` }
  }
  const parsed = serviceFileSchema.safeParse(value)
  if (parsed.success) return { ok: true, service: parsed.data }
  const [issue] = parsed.error.issues
  return { ok: false, message: `${issue?.path.join('.') || 'The file'}: ${issue?.message ?? 'cannot be read'}` }
}

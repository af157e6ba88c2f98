import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { type z } from 'zod'
import { allows, api, type ChangeOutcome, type CommandOutcome, type Grant } from '#core/api'
import { commandSchema, withoutNames } from '#core/journal'
import { memberDigest } from '#core/list'
import { withoutPeople } from '#core/privacy'
import { changeSchema, kindOf, type Kept, type Kind } from '#core/sync'
import { OTHER_HISTORY } from '../../../page'
import type { ReceiverParts } from '../../../subject'
import { bytesAs, conflict } from '../../../http/answers'
import { streamNews } from './news'
import { described } from '../../../http/described'

const paths = described(api.history)

/** Some 2 MB: a first pull of a long journal is bound by how fast a browser writes, and few large writes are faster. */
const MAX_ENTRIES = 5000
/** Forms with their drafts are the largest: some 10 KB each. */
const MAX_OBJECTS = 200
/** Some 20 ms. */
const MAX_DIGESTS = 1000

/** The receiver's two orders: what happened to people, and what the owner makes. */
export function historyRoutes(
  routes: OpenAPIHono,
  { ledger, keys, metrics, stopping }: Pick<ReceiverParts, 'ledger' | 'keys' | 'metrics' | 'stopping'>,
): void {
  routes.openapi(paths.readJournal, async (c) => {
    const { after, mark = null, limit } = c.req.valid('query')
    metrics.pulled('entries')
    const most = Math.min(limit || MAX_ENTRIES, MAX_ENTRIES)
    if (allows(c.get('bearer'), 'see-people')) {
      const page = await ledger.entriesTextAfter(after, mark, most)
      if (page === null) return otherHistory(c)
      const { text: entries, ...rest } = page
      const about = JSON.stringify({ journal: await ledger.journalId(), ...rest })
      return bytesAs<z.output<typeof api.history.readJournal.answer>>(
        c,
        `${about.slice(0, -1)},"entries":[${entries}]}`,
        'application/json',
      )
    }
    const page = await ledger.entriesAfter(after, mark, most)
    if (page === null) return otherHistory(c)
    const { items, ...rest } = page
    return c.json({ journal: await ledger.journalId(), entries: items.map(withoutNames), ...rest }, 200)
  })

  routes.openapi(paths.checkJournal, async (c) => c.json(await ledger.check(c.req.valid('query').after), 200))

  routes.openapi(paths.readDigests, async (c) => {
    const { list } = c.req.valid('param')
    const page = await ledger.memberCheck.membersAsTheyLie(list, c.req.valid('query').after, MAX_DIGESTS)
    const members = page.flatMap(({ member }) =>
      member === null ? [] : [{ id: member.id, revision: member.revision, digest: memberDigest(member) }],
    )
    return c.json({ members, next: page.length < MAX_DIGESTS ? null : page.at(-1)!.rank }, 200)
  })

  routes.openapi(paths.readObjects, async (c) => {
    const { after, mark = null, limit } = c.req.valid('query')
    metrics.pulled('objects')
    const page = await ledger.objectsAfter(after, mark, Math.min(limit || MAX_OBJECTS, MAX_OBJECTS))
    if (page === null) return otherHistory(c)
    const { items, ...rest } = page
    const objects = items.map((kept) => shownTo(c.get('bearer'), kept))
    return c.json({ journal: await ledger.journalId(), objects, ...rest }, 200)
  })

  routes.openapi(paths.refill, async (c) => {
    const { journal, entries } = c.req.valid('json')
    const result = await ledger.refill(journal, entries)
    return result.ok ? c.json({ latest: result.latest }, 200) : conflict(c, 'Not refilled', result)
  })

  routes.openapi(paths.recover, async (c) => {
    const { common, entries } = c.req.valid('json')
    return c.json(await ledger.recover(common, entries), 200)
  })

  routes.openAPIRegistry.registerPath(paths.followNews)
  routes.get(paths.followNews.path, (c) => streamNews(c, { ledger, keys, metrics, stopping }))

  routes.openapi(paths.carryOutCommands, async (c) => {
    const body = c.req.valid('json')
    const readings = body.commands.map((command) => ({
      id: textIn(command, 'id'),
      reading: commandSchema.safeParse(command),
    }))
    const done = await ledger.carryOut(
      readings.flatMap(({ reading }) => (reading.success ? [reading.data] : [])),
      c.get('bearer').id,
    )
    const outcomes = readings.map(({ id, reading }) =>
      reading.success
        ? done.shift()!
        : { id, ok: false, problem: { code: 'invalid', message: sentenceFor(reading.error) } },
    )
    return c.json({ outcomes: outcomes as CommandOutcome[] }, 200)
  })

  routes.openapi(paths.takeChanges, async (c) => {
    const body = c.req.valid('json')
    const readings = body.changes.map((change) => ({
      about: { kind: textIn(change, 'kind'), key: textIn(change, 'key') },
      reading: changeSchema.safeParse(change),
    }))
    const changes = readings.flatMap(({ reading }) => (reading.success ? [reading.data] : []))
    const isWhole = changes.length === readings.length
    const done =
      body.together !== true
        ? await ledger.takeChanges(changes, c.get('bearer').id)
        : isWhole
          ? await ledger.takeChangesTogether(changes, c.get('bearer').id)
          : changes.map(({ kind, key }) => notTaken(kind, key))
    const outcomes = readings.map(({ about, reading }) =>
      reading.success
        ? done.shift()!
        : { ...about, ok: false, problem: { code: 'invalid', message: sentenceFor(reading.error) } },
    )
    return c.json({ outcomes: outcomes as ChangeOutcome[] }, 200)
  })
}

/** What a key sees of an object: filters are questions about people. */
function shownTo(grant: Grant, kept: Kept): Kept {
  if (grant.right !== 'reader' || kept.body === null) return kept
  if (grant.seesPeople) return kept
  return { ...kept, body: withoutPeople(kindOf(kept.kind).schema, kept.body) as typeof kept.body }
}

function otherHistory(c: Context) {
  return conflict(c, 'Another history', {
    code: OTHER_HISTORY,
    message: 'This receiver’s history is not the one that the cursor belongs to.',
  })
}

/** One part of something unread, if it is a text. */
function textIn(value: unknown, part: string): string {
  const text =
    value !== null && typeof value === 'object' && Object.hasOwn(value, part)
      ? (value as Record<string, unknown>)[part]
      : ''
  return typeof text === 'string' ? text : ''
}

function sentenceFor(error: z.ZodError): string {
  const [issue] = error.issues
  return `${issue?.path.join('.') ?? ''} ${issue?.message ?? 'cannot be read'}`.trim()
}

/** The outcome of a change that is sound by itself and was sent together with one that is not. */
function notTaken(kind: Kind, key: string): ChangeOutcome {
  return {
    kind,
    key,
    ok: false,
    problem: { code: 'invalid', message: 'What it was sent together with cannot be read.' },
  }
}

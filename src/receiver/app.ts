import { Hono } from 'hono'
import { compress } from 'hono/compress'
import { noticePage } from '#core/render'
import { addressLimiter, Causes, type Limiter } from './limits'
import type { BrowserPort } from './browser'
import { type Care, openCare } from './care'
import { type Clock, openClock } from './clock'
import { complain, requestNumber } from './log'
import { Counting } from './results'
import { sendPage } from './pages'
import { limitsOfAll } from './http/limits'
import { sendProblem } from './http/problem'
import { type HandOverApi, handOverParts } from './hand-over'
import { sealingWith, OwnerKeys } from './secrets'
import { apiRoutes } from './owner'
import { joinRoutes } from './public/join'
import { visitorScripts } from './public/page'
import { workshopRoutes } from './public/workshop'
import { Rehearsals } from './rehearsals'
import { type MailParts, mailParts } from './mail'
import { Metrics } from './metrics'
import type { Mover } from './moving'
import { Puzzles } from './puzzle'
import type { Settings } from './settings'
import { isUnwritable } from './store'
import type { Ledger } from './ledger'
import type { ReceiverParts, Subject, VisitorParts } from './subject'
import { subjects } from './subjects'
import { version } from './version'
import { proxyNotice } from './http/visitor-address'

export interface AppParts {
  ledger: Ledger
  settings: Settings
  ownerKey: string
  /** Folder of the built workshop; null to serve none. */
  workshop: string | null
  /** Folder with the visitors' script and font; null to serve none. */
  files?: string | null
  limiter?: Limiter
  /** For what visitors read: pages, answers, pictures. */
  readLimiter?: Limiter
  /** Tells floods of sign-ups from visitors. */
  causes?: Causes
  rehearsals?: Rehearsals
  mail?: MailParts
  clock?: Clock
  /** For rehearsals; null for none. */
  browsers?: BrowserPort | null
  care?: Care
  handOver?: HandOverApi
  keys?: OwnerKeys
  program?: ReceiverParts['program']
  /** What the receiver does: `subjects` where not said. */
  all?: readonly Subject[]
  metrics?: Metrics
  stopping?: AbortSignal
  mover?: Mover | null
}

/** Ten a second from one address: pages with all their pictures for a whole club room, and an end to what is endless. */
const READS_A_MINUTE = 600

/** The whole receiver as one Hono app. */
export function receiverApp({
  ledger,
  settings,
  ownerKey,
  workshop,
  files = null,
  limiter = addressLimiter(),
  readLimiter = addressLimiter(READS_A_MINUTE),
  causes = new Causes(),
  rehearsals = new Rehearsals(ledger),
  clock = openClock(Date.now, () => performance.now(), null),
  care = openCare({ ledger, settings, now: clock.now }),
  mail = mailParts({ ledger, settings, rehearsals, clock, alertWords: care.alertWords }),
  browsers = null,
  handOver = handOverParts({ ledger, settings, sealing: sealingWith(() => ownerKey), now: clock.now }),
  keys = new OwnerKeys(ledger.values, ownerKey, clock.now),
  program = () => undefined,
  all = subjects,
  metrics = new Metrics(),
  stopping = new AbortController().signal,
  mover = null,
}: AppParts): Hono {
  const app = new Hono()
  const counting = new Counting(ledger, clock.now)
  const puzzles = new Puzzles(ledger.values, clock.now)
  const noticeProxy = proxyNotice(settings)
  const limits = limitsOfAll(settings, readLimiter, metrics.refusedNetworks)
  for (const path of [
    '/page/*',
    '/frame/*',
    '/file/*',
    '/answer/*',
    '/form/*',
    '/rules/*',
    '/client/*',
    '/rehearsal.js',
    ...visitorScripts.map((name) => `/${name}`),
  ])
    app.use(path, compress())
  const visitorParts: VisitorParts = {
    program,
    ...{ ledger, settings, keys, rehearsals, mail, clock, browsers, care, handOver, metrics, stopping, mover },
    ...{ limiter, causes, puzzles, counting, files, noticeProxy },
  }
  // Posts of sign-ups have a limit of their own.
  app.on(['GET', 'PUT', 'PATCH', 'DELETE', 'OPTIONS'], '/join/*', limits)
  // Before what all others pass through: a route that meets no middleware is answered without a chain of promises.
  app.route('/', joinRoutes({ ...visitorParts, now: mail.now }))
  app.use(limits)
  app.get('/health', async (c) => {
    c.header('X-Content-Type-Options', 'nosniff')
    try {
      if (stopping.aborted) throw new Error('It stops.')
      await ledger.checkHealth()
      return c.json({ status: 'ok', version })
    } catch {
      return sendProblem(c, { status: 503, title: 'Not ready', detail: 'Sign-ups cannot be stored at the moment.' })
    }
  })
  const isSecure = settings.publicUrl.startsWith('https:')
  app.use(async (c, next) => {
    noticeProxy(c)
    // NUL can be kept nowhere, so nothing has such an address.
    if (/%00/.test(c.req.url)) return c.notFound()
    c.header('X-Content-Type-Options', 'nosniff')
    // RFC 6797.
    if (isSecure) c.header('Strict-Transport-Security', 'max-age=31536000')
    return next()
  })
  for (const { visitors } of all) visitors?.(app, visitorParts)
  const apiParts = { ledger, settings, keys, rehearsals, mail, clock, browsers, care, handOver, program }
  app.route('/', apiRoutes({ ...apiParts, metrics, stopping, mover }, all))
  if (workshop !== null) app.route('/', workshopRoutes(workshop, settings.publicUrl))
  app.notFound((c) =>
    /\btext\/html\b/i.test(c.req.header('Accept') ?? '')
      ? sendPage(
          c,
          settings.publicUrl,
          noticePage('Nothing here', 'There is no such page. The address may be incomplete.'),
          { posts: 'nothing', status: 404, inFrames: false },
        )
      : sendProblem(c, { status: 404, title: 'Nothing here', detail: 'There is nothing at this address.' }),
  )
  app.onError((error, c) => {
    complain(error, c)
    if (isUnwritable(error))
      return sendProblem(c, {
        status: 503,
        title: 'Nothing can be stored at the moment',
        detail: 'The disk takes nothing. Try again in a minute; nothing of this was stored.',
        headers: { 'Retry-After': '60' },
      })
    return sendProblem(c, {
      status: 500,
      title: 'Something went wrong here',
      detail: `Nothing was stored. Try again in a moment. In the log it is number ${requestNumber(c)}.`,
    })
  })
  return app
}

import { Hono } from 'hono'
import { addressLimiter, type Limiter } from './limiter'
import { sendProblem } from './problem'
import { answerRoutes } from './routes/answer'
import { apiRoutes } from './routes/api'
import { joinRoutes } from './routes/join'
import { pageRoutes } from './routes/page'
import { workshopRoutes } from './routes/workshop'
import type { Settings } from './settings'
import type { Store } from './store'

export interface ReceiverParts {
  store: Store
  settings: Settings
  ownerKey: string
  /** Folder of the built workshop; null to serve none. */
  workshop: string | null
  /** Folder with the visitors' script and font; null to serve none. */
  files?: string | null
  limiter?: Limiter
}

/** The whole receiver as one Hono app. */
export function receiverApp({ store, settings, ownerKey, workshop, files = null, limiter = addressLimiter() }: ReceiverParts): Hono {
  const app = new Hono()
  app.get('/health', (c) => {
    try {
      store.checkHealth()
      return c.json({ status: 'ok' })
    } catch {
      return sendProblem(c, { status: 503, title: 'Not ready', detail: 'Sign-ups cannot be stored at the moment.' })
    }
  })
  app.route('/', joinRoutes({ store, settings, limiter }))
  app.route('/', answerRoutes(store, settings))
  app.route('/', pageRoutes(store, settings, files))
  app.route('/', apiRoutes(store, settings, ownerKey))
  if (workshop !== null) app.route('/', workshopRoutes(workshop, settings.publicUrl))
  app.onError((error, c) => {
    console.error(error)
    return sendProblem(c, { status: 500, title: 'Something went wrong here', detail: 'Nothing was stored. Try again in a moment.' })
  })
  return app
}

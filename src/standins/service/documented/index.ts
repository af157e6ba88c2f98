import { Hono } from 'hono'
import { copperPost } from './copper-post'
import type { DocumentedService } from './documented-service'
import { foghornDispatch } from './foghorn-dispatch'
import { marshGazette } from './marsh-gazette'
import { owlCourier } from './owl-courier'
import { reedLetters } from './reed-letters'
import { saltLedger } from './salt-ledger'

export type { DocumentedService } from './documented-service'

/** Pretend services that a connection is made to from their documentation alone. */
export const documentedServices: readonly DocumentedService[] = [
  marshGazette,
  copperPost,
  owlCourier,
  saltLedger,
  reedLetters,
  foghornDispatch,
]

/** All of them, each with whom it holds at `/held`, its help page at `/help`, and its description file where it has one. */
export function documentedRoutes(): Hono {
  const app = new Hono()
  for (const service of documentedServices) {
    const own = new Hono()
    const baseOf = (address: string) => `${new URL(address).origin}/${service.path}`
    // What its owner would see there.
    own.get('/held', (c) =>
      c.json([...service.shelf.people.values()].map(({ email, lists }) => ({ email, lists: [...lists] }))),
    )
    own.get('/help', (c) => c.text(service.help(baseOf(c.req.url))))
    for (const name of ['/openapi.json', '/openapi.yaml'])
      own.get(name, (c) =>
        service.description === undefined ? c.notFound() : c.text(service.description(baseOf(c.req.url))),
      )
    own.route('/', service.routes(service.shelf))
    app.route(`/${service.path}`, own)
  }
  return app
}

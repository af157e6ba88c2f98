import harbourBulletin from './services/harbour-bulletin.json' with { type: 'json' }
import lanternPost from './services/lantern-post.json' with { type: 'json' }
import tinKettle from './services/tin-kettle.json' with { type: 'json' }
import { type ServiceFile, serviceFileSchema } from './service-file'

/** Where the pretend services stand that the shipped files describe. */
export const SHIPPED_BASE = 'http://127.0.0.1:4330'

/**
 * The service files that ship with Ask Box: of the pretend services, each made differently.
 *
 * @param standIns where those are; without them nothing is offered
 */
export function shippedServices(standIns: string | null): ServiceFile[] {
  if (standIns === null) return []
  return [lanternPost, tinKettle, harbourBulletin].map((service) =>
    serviceFileSchema.parse(JSON.parse(JSON.stringify(service).replaceAll(SHIPPED_BASE, standIns))),
  )
}

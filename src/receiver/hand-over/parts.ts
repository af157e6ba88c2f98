import { resolve } from 'node:path'
import type { Ledger } from '../ledger'
import type { Sealing } from '../secrets'
import type { Settings } from '../settings'
import { openReading } from '../reading'
import { serviceReadings } from './service-readings'
import { type ServiceClient, openClient } from './client'
import { Comparisons } from './comparing'
import { Keys } from './keys'
import { SignIns } from './sign-in'
import { HandOverWorkers } from './worker'

/** What hands people over, and what the owner's side asks of it. */
export interface HandOverApi {
  keys: Keys
  client: ServiceClient
  signIns: SignIns
  workers: HandOverWorkers
  comparisons: Comparisons
  /** Where tables are written to. */
  folder: string
  now(): number
}

/** The largest answer that is taken is read within a second. */
const READ_MS = 10_000

/** Puts together what hands people over. Nothing goes before `workers.start()`. */
export function handOverParts({
  ledger,
  settings,
  sealing,
  now,
  thread,
}: {
  ledger: Ledger
  settings: Pick<Settings, 'serviceStandIns' | 'publicUrl' | 'dataFolder'>
  sealing: Sealing
  now(): number
  /** The built thread in which answers are read; without one, they are read in this one. */
  thread?: string | undefined
}): HandOverApi {
  const allowed = settings.serviceStandIns === null ? [] : [settings.serviceStandIns]
  const keys = new Keys(ledger, sealing)
  const folder = resolve(settings.dataFolder, 'tables')
  const client = openClient(allowed, now, { reading: openReading(thread, serviceReadings, READ_MS) })
  const signIns = new SignIns({ ledger, keys, sealing, publicUrl: settings.publicUrl, allowed, now })
  return {
    keys,
    client,
    signIns,
    workers: new HandOverWorkers({ ledger, keys, sealing, client, signIns, folder, now }),
    comparisons: new Comparisons(ledger, now),
    folder,
    now,
  }
}

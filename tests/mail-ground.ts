import { createHash } from 'node:crypto'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { serve } from '@hono/node-server'
import type { Version } from '#core/form'
import type { ProofId } from '#core/ids'
import type { MailSettings } from '#core/mail'
import { startMail } from '#core/message'
import type { Proof } from '#core/proof'
import { makeProof, type Ports, type RehearsalSubject } from '#core/rehearsal'
import type { Spot } from '#core/spot'
import { receiverApp } from '../src/receiver/app'
import type { BrowserPort } from '../src/receiver/browser'
import { openLedger } from '../src/receiver/ledger'
import { mailParts } from '../src/receiver/mail'
import { receiverPorts, Rehearsals } from '../src/receiver/rehearsals'
import type { Settings } from '../src/receiver/settings'
import { openStore } from '../src/receiver/subjects'
import { builtScripts } from './rehearsal-ground'
import * as samples from './tables/samples'

/** The file that every list's mail here may hand over. */
export const gift = Buffer.from('%PDF-1.4 a chart of the winter sky')
export const giftId = createHash('sha256').update(gift).digest('hex')

export const settingsFor = (changes: Partial<MailSettings> = {}): MailSettings => ({
  ...startMail(samples.list.id, samples.list.name).draft,
  confirm: 'always',
  senderName: 'Ada at the hill',
  senderAddress: 'letters@hill.example',
  bounceAddress: 'bounces@hill.example',
  gift: {
    label: 'The chart',
    what: { kind: 'file', id: giftId, name: 'chart.pdf', type: 'application/pdf', size: gift.length },
    onAnswer: false,
    inWelcome: 'link',
    firstSoMany: null,
    times: null,
    days: null,
  },
  ...changes,
})

/**
 * A receiver reached over the network, which sends no mail to anybody: that of made-up people is kept, judged, and read in a
 * browser where there is one.
 *
 * @param standIns address of pages of this computer that may be opened beside it; null for none
 */
export async function openMailGround(
  browsers: (settings: Settings) => BrowserPort | null = () => null,
  standIns: string | null = null,
) {
  const folder = mkdtempSync(join(tmpdir(), 'rehearsal-mail-'))
  const ledger = await openLedger(await openStore(folder), Date.now)
  await ledger.seed(samples.workspace)
  let handle: (request: Request) => Response | Promise<Response> = () => new Response()
  const server = serve({ fetch: (request) => handle(request), port: 0, hostname: '127.0.0.1' })
  await new Promise((resolve) => server.once('listening', resolve))
  const settings: Settings = {
    host: '127.0.0.1',
    port: 0,
    dataFolder: folder,
    publicUrl: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    trustedProxies: 0,
    ownerKey: null,
    bodyLimit: 64 * 1024,
    standIns,
    serviceStandIns: null,
    secret: null,
    database: null,
    smtpServer: null,
    mailbox: null,
    clockFile: null,
    log: 'text' as const,
    metricsFrom: null,
    nameServers: [],
    browser: null,
  }
  const rehearsals = new Rehearsals(ledger)
  const used = browsers(settings)
  rehearsals.onEnd((code) => void used?.end(code))
  const mail = mailParts({ ledger, settings, rehearsals, clock: { now: Date.now, sureNow: Date.now } })
  const files = used === null ? undefined : builtScripts
  const app = receiverApp({
    ...{ ledger, settings, ownerKey: 'the-owners-own-key', workshop: null, rehearsals, mail },
    ...(files !== undefined && { files }),
  })
  let change = (_: Request, answer: Response): Response | Promise<Response> => answer
  handle = async (request) => change(request, await app.fetch(request))
  const stop = await mail.sender.start()
  mkdirSync(join(folder, 'gifts'))
  writeFileSync(join(folder, 'gifts', giftId), gift)

  const subjectFor = (
    known: MailSettings,
    version: Version | undefined,
    spot: Partial<Spot> = {},
  ): RehearsalSubject => ({
    spot: { ...samples.spot, kind: 'landing', ...spot },
    site: samples.site,
    list: samples.list,
    mail: known,
    versions: version === undefined ? [] : [version],
    receiver: settings.publicUrl,
    others: new Map(),
    closed: new Map(),
  })
  return {
    folder,
    ledger,
    settings,
    rehearsals,
    mail,
    subjectFor,
    /** What stands before the receiver does with its answers. */
    changes(by: (request: Request, answer: Response) => Response | Promise<Response>) {
      change = by
    },
    /** Rehearses the way through the mail, with `written` published and `known` what the workshop thinks is published. */
    async proofOf(
      written: MailSettings,
      {
        known = written,
        change = (ports) => ports,
        version = samples.version,
        cases = ['mail'],
        spot = {},
      }: {
        known?: MailSettings
        change?: (ports: Ports) => Ports
        version?: Version | undefined
        cases?: Proof['cases']
        spot?: Partial<Spot>
      } = {},
    ): Promise<Proof> {
      const kept = (await ledger.objectsAfter(0, null, 1000))!.items.find(({ kind }) => kind === 'mail')
      const body = { list: samples.list.id, draft: written, published: written }
      await ledger.takeChanges([{ kind: 'mail', key: samples.list.id, base: kept?.revision ?? 0, body }])
      const rehearsal = (await rehearsals.start(samples.spot.id))!
      try {
        return await makeProof(
          subjectFor(known, version, spot),
          cases,
          change(receiverPorts(rehearsal, { settings, mail: mail.rehearsalMail, browsers: used })),
          { id: 'someproof' as ProofId, at: new Date().toISOString(), by: 'receiver' },
        )
      } finally {
        await rehearsals.end(rehearsal.code)
      }
    },
    async close() {
      await stop()
      await used?.stop()
      server.close()
      await ledger.close()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
export type MailGround = Awaited<ReturnType<typeof openMailGround>>

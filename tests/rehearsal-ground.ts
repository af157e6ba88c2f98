import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { serve } from '@hono/node-server'
import { plainCode } from '#core/embed'
import type { Version } from '#core/form'
import type { ProofId } from '#core/ids'
import { type Proof, proofSchema } from '#core/proof'
import { type Browser, makeProof, type RehearsalSubject } from '#core/rehearsal'
import { siteProfiles } from '#core/site'
import type { Spot } from '#core/spot'
import { receiverApp } from '../src/receiver/app'
import type { BrowserPort } from '../src/receiver/browser'
import { openLedger } from '../src/receiver/ledger'
import { receiverPorts, Rehearsals } from '../src/receiver/rehearsals'
import type { Settings } from '../src/receiver/settings'
import { openStore } from '../src/receiver/subjects'
import * as samples from './tables/samples'

type Answer = (request: IncomingMessage, response: ServerResponse) => void

/** Where unit tests find the built scripts of visitors; null where they were not built. */
export const builtScripts = resolve(import.meta.dirname ?? __dirname, '../dist/visitors')

/** Unit tests begin while all is built; a program that is there may lack what it is made of until the end. */
export async function programsBuilt(): Promise<void> {
  const built = resolve(builtScripts, '../.askbox-built')
  for (const end = Date.now() + 220_000; !existsSync(built); await new Promise((go) => setTimeout(go, 200)))
    if (Date.now() > end) throw new Error('Build first: npm run build.')
}

/**
 * A receiver and a site of this computer, both reached over the network, to rehearse on.
 *
 * @param browsers what the receiver has; given its settings
 */
export async function openGround(browsers: (settings: Settings) => BrowserPort | null = () => null) {
  const folder = mkdtempSync(join(tmpdir(), 'rehearsal-'))
  const ledger = await openLedger(await openStore(folder), Date.now)
  await ledger.seed(samples.workspace)
  let answerOf: Answer = (_, response) => void response.end()
  const site = createServer((request, response) => answerOf(request, response)).listen(0, '127.0.0.1')
  await new Promise((resolve) => site.once('listening', resolve))
  const siteAddress = `http://127.0.0.1:${(site.address() as AddressInfo).port}`
  let handle: (request: Request) => Response | Promise<Response> = () => new Response()
  const receiver = serve({ fetch: (request) => handle(request), port: 0, hostname: '127.0.0.1' })
  await new Promise((resolve) => receiver.once('listening', resolve))
  const settings: Settings = {
    host: '127.0.0.1',
    port: 0,
    dataFolder: folder,
    // Another site than the pages, as real ones are.
    publicUrl: `http://localhost:${(receiver.address() as AddressInfo).port}`,
    trustedProxies: 0,
    ownerKey: null,
    bodyLimit: 64 * 1024,
    standIns: siteAddress,
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
  const app = receiverApp({
    ledger,
    settings,
    ownerKey: 'the-owners-own-key',
    workshop: null,
    rehearsals,
    files: builtScripts,
  })
  handle = (request) => app.fetch(request)

  const placed = (version: Version = samples.version) => ({
    content: version.content,
    form: version.form,
    version: version.number,
    spot: samples.spot.id,
    receiver: settings.publicUrl,
  })
  return {
    ledger,
    settings,
    rehearsals,
    browsers: used,
    siteAddress,
    placed,
    plain: (version?: Version) => plainCode(placed(version)),
    answers(by: Answer) {
      answerOf = by
    },
    /** The same page at every address. */
    serves(html: string, { status = 200, headers = {} as Record<string, string> } = {}) {
      answerOf = (_, response) =>
        response.writeHead(status, { 'Content-Type': 'text/html; charset=utf-8', ...headers }).end(html)
    },
    subject: (more: Partial<RehearsalSubject> = {}, spot: Partial<Spot> = {}): RehearsalSubject => ({
      spot: { ...samples.spot, page: `${siteAddress}/post`, code: 'plain', ...spot },
      site: {
        ...samples.site,
        address: siteAddress,
        kind: spot.code === 'in-tags' ? 'other' : samples.site.kind,
        ...(spot.code === 'in-tags' && { profile: { ...siteProfiles.other, keepsStyles: false } }),
      },
      list: samples.list,
      mail: null,
      versions: [samples.version],
      receiver: settings.publicUrl,
      others: new Map([['otherspot', 'Another place']]),
      closed: new Map(),
      ...more,
    }),
    async proofOf(of: RehearsalSubject, cases: Proof['cases'], browser: Browser | null = null): Promise<Proof> {
      const rehearsal = (await rehearsals.start(of.spot.id))!
      const ports = receiverPorts(rehearsal, {
        settings,
        mail: { queue: ledger.queue, mailbox: () => Promise.resolve(null) },
        browsers: used,
      })
      try {
        const proof = await makeProof(
          of,
          cases,
          { ...ports, browser: browser ?? ports.browser },
          { id: 'someproof' as ProofId, at: '2026-03-01T12:00:00.000Z', by: 'receiver' },
        )
        // However it went, it can be kept.
        return proofSchema.parse(proof)
      } finally {
        await rehearsals.end(rehearsal.code)
      }
    },
    async close() {
      await used?.stop()
      receiver.close()
      site.closeAllConnections()
      site.close()
      await ledger.close()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
export type Ground = Awaited<ReturnType<typeof openGround>>

export const page = (body: string, head = '') =>
  `<!DOCTYPE html><html><head><title>A page</title>${head}</head><body><main>${body}</main></body></html>`

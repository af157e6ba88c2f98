import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ListId } from '#core/ids'
import { startList } from '#core/list'
import { startMail } from '#core/message'
import { receiverApp } from '../src/receiver/app'
import type { Clock } from '../src/receiver/clock'
import { type Ledger, openLedger } from '../src/receiver/ledger'
import { letterComposer } from '../src/receiver/letters'
import { addressLimiter } from '../src/receiver/limits'
import { bytesOf, type ComposedMail, mailParts, Sender } from '../src/receiver/mail'
import { Rehearsals } from '../src/receiver/rehearsals'
import type { Settings } from '../src/receiver/settings'
import { openStore } from '../src/receiver/subjects'
import { signUp } from './store-suite'
import * as samples from './tables/samples'

export const otherList = startList('otherlist' as ListId, 'Other list', samples.createdAt)
export const PUBLIC_URL = 'https://forms.example'

/** A receiver in this process that sends letters into memory, with a clock of its own. */
export async function letterGround(of?: Pick<Clock, 'now' | 'sureNow' | 'onSetBack'>) {
  const folder = mkdtempSync(join(tmpdir(), 'letters-'))
  let time = Date.parse('2026-03-02T10:00:00Z')
  const now = of?.now ?? (() => time)
  const ledger: Ledger = await openLedger(await openStore(folder), now, of?.sureNow ?? now)
  of?.onSetBack((byMs) => void ledger.queue.setBack(byMs))
  await ledger.seed({ ...samples.workspace, lists: [samples.list, otherList] })
  const sent: { to: string; id: string; mail: ComposedMail }[] = []
  /** Throws what a server answers to somebody; called before a mail is taken. */
  let refuse: (to: string) => void = () => undefined
  const settings: Settings = {
    ...{ host: '127.0.0.1', port: 0, dataFolder: folder, publicUrl: PUBLIC_URL, trustedProxies: 0, ownerKey: null },
    ...{
      bodyLimit: 64 * 1024,
      standIns: null,
      serviceStandIns: null,
      secret: null,
      database: null,
      mailbox: null,
      clockFile: null,
      log: 'text' as const,
      metricsFrom: null,
      nameServers: [],
    },
    smtpServer: { host: 'smtp.example', port: 25, security: 'none', user: '', password: '' },
    browser: null,
  }
  const rehearsals = new Rehearsals(ledger, now)
  const letter = letterComposer(ledger, settings)
  const clock = { now, sureNow: now, steady: now }
  const sender = new Sender({
    ...{ ledger, fixedServer: settings.smtpServer, isStandIn: () => false, now, steady: now },
    compose: {
      ...{ ledger, publicUrl: PUBLIC_URL, giftFile: () => null, letter },
      memberOf: async ({ space, member }) =>
        member === '' ? null : space === '' ? ledger.member(member) : ledger.space(space).member(member),
    },
    keepForRehearsal: async ({ space, recipient }, composed) =>
      ledger.space(space).keepMail({ to: recipient, at: now(), bytes: (await bytesOf(composed)).toString('base64') }),
    open: () => ({
      async send(mail) {
        refuse(String(mail.to))
        sent.push({ to: String(mail.to), id: mail.messageId, mail })
        return '250 taken'
      },
      close: () => {},
    }),
  })
  const mail = { ...mailParts({ ledger, settings, rehearsals, clock, letter }), sender }
  const app = receiverApp({
    ...{ ledger, settings, ownerKey: 'the-owners-own-key', workshop: null, rehearsals, mail },
    limiter: addressLimiter(10_000),
  })
  const stop = sender.start()
  for (const { id, name } of [samples.list, otherList]) {
    const { messages, ...start } = startMail(id, name).draft
    const off = <T>(message: T) => ({ ...message, isOn: false })
    const draft = {
      ...start,
      messages: { ...messages, welcome: off(messages.welcome), leaving: off(messages.leaving) },
      ...{ senderName: 'Ada at the hill', senderAddress: 'letters@hill.example', postalAddress: '1 Hill Road' },
    }
    await ledger.takeChanges([samples.change('mail', { list: id, draft, published: draft })])
  }
  await sender.change(() => ({ pace: { minute: 100_000, hour: 1_000_000, day: 1_000_000 } }))
  return {
    ...{ ledger, app, sent, sender, rehearsals, settings, folder },
    now,
    pass(ms: number) {
      time += ms
      sender.wake()
    },
    refuseWith(what: typeof refuse) {
      refuse = what
    },
    async joins(address: string, more: Parameters<typeof signUp>[1] = {}, list = samples.list.id) {
      const at = signUp(address, more)
      await ledger.signUp({ ...at, version: { ...at.version, list } }, `${address} ${list} ${time}`)
    },
    /** Does what there is to do until letters rest and every queued mail is settled. */
    async rests() {
      for (;;) {
        const next = await ledger.letters.work()
        const due = await ledger.queue.due('mail', 1)
        if (next === 0) continue
        if (due.length === 0 && (next === null || next >= 1_000)) {
          const { held } = await ledger.queue.counts('mail')
          if (held === 0 && (await ledger.queue.due('mail', 1)).length === 0) return
        }
        sender.wake()
        await new Promise((resolve) => setTimeout(resolve, 5))
      }
    },
    async end() {
      await stop()
      await ledger.close()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
export type LetterGround = Awaited<ReturnType<typeof letterGround>>

import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startMail } from '#core/message'
import { times } from '../../../tests/seed'
import { signUp } from '../../../tests/store-suite'
import * as samples from '../../../tests/tables/samples'
import { type Ledger, openLedger } from '../ledger'
import { MAIL } from './queued'
import { LEASE_MS } from '../work'
import { openStore } from '../subjects'
import { Sender } from './sender'

/** What the world has seen of mails: each acceptance by the mail server, by `Message-ID` and date. */
const accepted: { id: string; to: string }[] = []
const folders: string[] = []
/** What dead processes still wait for, let go at the end; and what ends them. */
const graves: (() => void)[] = []
const ends: (() => Promise<void>)[] = []
afterAll(async () => {
  const ended = Promise.all(ends.map((end) => end()))
  const letGo = setInterval(() => graves.splice(0).forEach((go) => go()), 5)
  await ended
  clearInterval(letGo)
  for (const folder of folders) rmSync(folder, { recursive: true, force: true })
})

let ahead = 0
const now = () => Date.now() + ahead

/** A receiver's life on a data folder, until it is ended between any two steps. */
async function live(folder: string) {
  // What the one before had in hand is let go by the time that this one begins.
  ahead += LEASE_MS
  const ledger: Ledger = await openLedger(await openStore(folder), now)
  let isDead = false
  const breath = () => new Promise<void>((resolve) => setTimeout(resolve, Math.random() * 3))
  /** A step of a dead process never happens. */
  const alive = () =>
    isDead ? new Promise<never>((_, reject) => graves.push(() => reject(new Error('ended')))) : Promise.resolve()
  const sender = new Sender({
    ledger,
    fixedServer: { host: '127.0.0.1', port: 1, security: 'none', user: '', password: '' },
    isStandIn: () => true,
    compose: {
      ledger,
      publicUrl: 'https://forms.example',
      giftFile: () => null,
      memberOf: ({ member }) => (member === '' ? Promise.resolve(null) : ledger.member(member)),
    },
    keepForRehearsal: async () => {},
    now,
    open: () => ({
      async send(mail) {
        await breath()
        await alive()
        // The server has it from here on, whether anybody hears of that or not.
        accepted.push({ id: `${mail.messageId} ${new Date(mail.date!).toISOString()}`, to: String(mail.to) })
        await breath()
        await alive()
        return '250 taken'
      },
      close: () => {},
    }),
  })
  const stop = sender.start()
  ends.push(() => stop().then(() => ledger.close()))
  return {
    ledger,
    /** What the disk holds at this moment is all that is left of it. */
    die(): string {
      isDead = true
      const left = mkdtempSync(join(tmpdir(), 'crash-'))
      folders.push(left)
      cpSync(folder, left, { recursive: true })
      return left
    },
  }
}

const KILLS = times({ short: 15, whole: 60, endure: 1_000 })

test(`ended at ${KILLS} random moments, no mail is lost, and one that goes out twice has the same Message-ID and the same date`, async () => {
  let folder = mkdtempSync(join(tmpdir(), 'crash-'))
  folders.push(folder)
  const first = await live(folder)
  await first.ledger.seed(samples.workspace)
  const draft = {
    ...startMail(samples.list.id, samples.list.name).draft,
    confirm: 'always' as const,
    senderAddress: 'letters@hill.example',
  }
  await first.ledger.takeChanges([
    { kind: 'mail', key: samples.list.id, base: 0, body: { list: samples.list.id, draft, published: draft } },
  ])
  const answered: string[] = []
  let world = first
  for (let crash = 0; crash < KILLS; crash += 1) {
    for (let visitor = 0; visitor < 3; visitor += 1) {
      const address = `v${crash}-${visitor}@post.example`
      await world.ledger.signUp(signUp(address), address)
      answered.push(address)
    }
    await new Promise((resolve) => setTimeout(resolve, Math.random() * 12))
    folder = world.die()
    world = await live(folder)
  }
  while ((await world.ledger.queue.counts(MAIL)).open > 0) await new Promise((resolve) => setTimeout(resolve, 10))
  const idsOf = (address: string) => accepted.filter(({ to }) => to === address).map(({ id }) => id)
  expect(answered.filter((address) => idsOf(address).length === 0)).toEqual([])
  expect(answered.filter((address) => new Set(idsOf(address)).size > 1)).toEqual([])
  // Some were in doubt, so the test has seen what it is about.
  expect(accepted.length).toBeGreaterThan(answered.length)
})

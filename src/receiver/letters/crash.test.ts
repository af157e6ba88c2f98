import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startMail } from '#core/message'
import { PUBLIC_URL } from '../../../tests/letter-ground'
import { aSending } from '../../../tests/letters'
import { times } from '../../../tests/seed'
import { signUp } from '../../../tests/store-suite'
import * as samples from '../../../tests/tables/samples'
import { type Ledger, openLedger } from '../ledger'
import { letterComposer } from '../letters'
import { type ComposedMail, Sender } from '../mail'
import type { Settings } from '../settings'
import { openStore } from '../subjects'
import { LEASE_MS } from '../work'
import { LetterWorker } from './worker'

const PEOPLE = times({ short: 100, whole: 300, endure: 5_000 })
const KILLS = times({ short: 10, whole: 40, endure: 600 })
/** What the world has seen of letters: each acceptance by the mail server. */
const accepted: { id: string; to: string }[] = []
const folders: string[] = []
const ends: (() => Promise<void>)[] = []
/** What dead processes still wait for, let go at the end. */
const graves: (() => void)[] = []
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
  const letter = letterComposer(ledger, { publicUrl: PUBLIC_URL } as Settings)
  const sender = new Sender({
    ...{ ledger, fixedServer: { host: '127.0.0.1', port: 1, security: 'none', user: '', password: '' }, now },
    isStandIn: () => true,
    compose: {
      ...{ ledger, publicUrl: PUBLIC_URL, giftFile: () => null, letter },
      memberOf: ({ member }) => (member === '' ? Promise.resolve(null) : ledger.member(member)),
    },
    keepForRehearsal: async () => {},
    open: () => ({
      async send(mail: ComposedMail) {
        await breath()
        await alive()
        // The server has it from here on, whether anybody hears of that or not.
        accepted.push({ id: mail.messageId, to: String(mail.to) })
        await breath()
        await alive()
        return '250 taken'
      },
      close: () => {},
    }),
  })
  const stops = [sender.start(), new LetterWorker(ledger).start()]
  ends.push(() => Promise.all(stops.map((stop) => stop())).then(() => ledger.close()))
  return {
    ledger,
    /** What the disk holds at this moment is all that is left of it. */
    die(): string {
      isDead = true
      const left = mkdtempSync(join(tmpdir(), 'letter-crash-'))
      folders.push(left)
      cpSync(folder, left, { recursive: true })
      return left
    },
  }
}

test(`ended at ${KILLS} random moments, a letter misses nobody, and who gets it twice gets it with the same Message-ID`, async () => {
  let folder = mkdtempSync(join(tmpdir(), 'letter-crash-'))
  folders.push(folder)
  let life = await live(folder)
  await life.ledger.seed(samples.workspace)
  for (let at = 0; at < PEOPLE; at += 1) await life.ledger.signUp(signUp(`person${at}@mail.example`), `person ${at}`)
  const draft = { ...startMail(samples.list.id, samples.list.name).draft, senderAddress: 'letters@hill.example' }
  await life.ledger.takeChanges([samples.change('mail', { list: samples.list.id, draft, published: draft })])
  const sending = aSending()
  await life.ledger.letters.send(sending)
  for (let kill = 0; kill < KILLS; kill += 1) {
    await new Promise((resolve) => setTimeout(resolve, 5 + Math.random() * 60))
    folder = life.die()
    life = await live(folder)
  }
  for (;;) {
    const now = await life.ledger.letters.sending(sending.id)
    if (now!.state === 'done') break
    await new Promise((resolve) => setTimeout(resolve, 20))
  }
  expect(await life.ledger.letters.sending(sending.id)).toMatchObject({
    counts: { sent: PEOPLE, waiting: 0, queued: 0 },
  })
  const ids = new Map<string, Set<string>>()
  for (const { id, to } of accepted) ids.set(to, (ids.get(to) ?? new Set()).add(id))
  expect(ids.size).toBe(PEOPLE)
  expect([...ids.values()].filter((all) => all.size > 1)).toEqual([])
  // Only what was on its way at the moment of a death can go twice: four are in hand at a time.
  expect(accepted.length - PEOPLE).toBeLessThanOrEqual(KILLS * 4)
}, 240_000)

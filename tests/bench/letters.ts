import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ListId } from '#core/ids'
import { startMail } from '#core/message'
import { openLedger } from '../../src/receiver/ledger'
import { openStore } from '../../src/receiver/subjects'
import { changeObject } from '../api'
import { aLetter, aSending } from '../letters'
import type { RunningBox } from '../programs'
import { signUp } from '../store-suite'
import * as samples from '../tables/samples'
import { load } from './load'

const READERS = 10_000
const SETTLED = 100_000
const AT_ONCE = 500

/** How long it takes to put a hundred thousand readers down, in seconds, and what it takes of memory meanwhile, in MB. */
export async function measureSettling(): Promise<{ seconds: number; megabytes: number }> {
  const folder = mkdtempSync(join(tmpdir(), 'settling-'))
  const ledger = await openLedger(await openStore(folder), Date.now)
  try {
    await ledger.seed(samples.workspace)
    for (let at = 0; at < SETTLED; at += AT_ONCE)
      await Promise.all(
        Array.from({ length: AT_ONCE }, (_, one) =>
          ledger.signUp(signUp(`p${at + one}@mail.example`), `p ${at + one}`),
        ),
      )
    const before = process.memoryUsage().rss
    const begun = performance.now()
    const { id } = await ledger.letters.send(aSending(aLetter()))
    let most = before
    while ((await ledger.letters.sending(id))!.counts.waiting < SETTLED) {
      await ledger.letters.work()
      most = Math.max(most, process.memoryUsage().rss)
      if ((await ledger.letters.sending(id))!.state === 'going') break
    }
    return { seconds: (performance.now() - begun) / 1_000, megabytes: (most - before) / 1e6 }
  } finally {
    await ledger.close()
    rmSync(folder, { recursive: true, force: true })
  }
}

/**
 * Ten thousand letters to the stand-in mailbox: how many a second, and what sign-ups meanwhile are to those without, while
 * the letter goes at an owner's pace and at full speed.
 *
 * @param box whose list has thousands who wait to confirm, from `measureMails`
 */
export async function measureLetters(box: RunningBox) {
  const list = 'membersletter' as ListId
  const draft = {
    ...startMail(list, 'Members’ letter').draft,
    ...{ confirm: 'never' as const, senderAddress: 'letters@cloudberryhill.example' },
  }
  const { messages } = draft
  const quiet = { ...draft, messages: { ...messages, welcome: { ...messages.welcome, isOn: false } } }
  await changeObject(box, 'mail', list, { list, draft: quiet, published: quiet })
  const ours = `${box.workshop.replace('localhost', '127.0.0.1')}/join/firstfrost`
  const api = async <T>(path: string, method = 'GET', body?: unknown): Promise<T> => {
    const response = await fetch(`${box.workshop}/api${path}`, {
      method,
      headers: { Authorization: `Bearer ${box.key}`, 'Content-Type': 'application/json' },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    })
    if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
    return (await response.json()) as T
  }
  const readers = async () => (await api<{ gets: number }>('/letters/readers', 'POST', { content })).gets
  const content = aLetter({ lists: [list] })
  while ((await readers()) < READERS) await load(ours, { seconds: 2, connections: 64 })

  const { id, ...sending } = aSending(content)
  const begin = (number: number) => api('/letters', 'POST', { id: `${id}bench${number}`, ...sending })
  const counts = async (number: number) =>
    (
      await api<{ sending: { counts: { sent: number; waiting: number }; state: string } }>(
        `/letters/${id}bench${number}`,
      )
    ).sending
  /** Sign-ups a second while a letter goes, to those before it and after it: stopping it in between would cost as well. */
  const beside = async (number: number) => {
    const rate = async () => {
      const rates: number[] = []
      for (let round = 0; round < 3; round += 1)
        rates.push((await load(ours, { seconds: 2, connections: 64 })).perSecond)
      return rates.sort((one, other) => one - other)[1]!
    }
    const before = await rate()
    await begin(number)
    while ((await counts(number)).state !== 'going') await new Promise((resolve) => setTimeout(resolve, 100))
    const meanwhile = await rate()
    await api(`/letters/${id}bench${number}/state`, 'POST', { to: 'cancel' })
    return meanwhile / ((before + (await rate())) / 2)
  }
  const pace = (minute: number, hour: number) =>
    api('/mail/pace', 'PUT', { pace: { minute, hour, day: 10_000_000 }, isStopped: false })
  await pace(600, 36_000)
  const atOwnersPace = await beside(1)

  await pace(100_000, 1_000_000)
  const begun = performance.now()
  await begin(2)
  let now = await counts(2)
  while (now.state !== 'done' && now.counts.sent < READERS) {
    await new Promise((resolve) => setTimeout(resolve, 100))
    now = await counts(2)
  }
  const perSecond = now.counts.sent / ((performance.now() - begun) / 1_000)
  const atFullSpeed = await beside(3)
  return { perSecond, atOwnersPace, atFullSpeed }
}

import type { AwaitedSender, SenderFinding } from '#core/api'
import type { RecurringJob } from '../../work'
import type { MailParts } from '../parts'
import { MOST_AWAITED } from '../settings'
import { checkSender } from './check'

const LOOK_EVERY_MS = 5 * 60_000
/** Name servers pass a change on within days at most; who has not put a record in by then forgot it. */
const LOOK_FOR_MS = 14 * 86_400_000

type Who = Pick<AwaitedSender, 'sender' | 'bounce'>
type AwaitedParts = Pick<MailParts, 'sender' | 'isStandIn' | 'nameServers' | 'now'>

/** What receiving servers make of a sender whose mail goes the way that is set up. */
export async function findingsOf({ sender, isStandIn, nameServers }: AwaitedParts, who: Who): Promise<SenderFinding[]> {
  const [server, { dkim }] = await Promise.all([sender.server(), sender.settings()])
  return checkSender({ ...who, dkim, host: server === null || isStandIn(server) ? null : server.host }, nameServers)
}

/** Looks at once, and goes on looking while something is missing. */
export async function lookFor(parts: AwaitedParts, who: Who): Promise<void> {
  const looked = await look(parts, { ...who, missing: [], since: parts.now(), lookedAt: null, thereAt: null })
  await parts.sender.change(({ awaited }) => ({
    awaited: [...awaited.filter((one) => !isOf(who, one)), looked].slice(-MOST_AWAITED),
  }))
}

export async function stopLooking({ sender }: AwaitedParts, who: Who): Promise<void> {
  await sender.change(({ awaited }) => ({ awaited: awaited.filter((one) => !isOf(who, one)) }))
}

/** Looks for what is missing, and forgets who was looked for long enough. */
export function awaitedJob(parts: AwaitedParts): RecurringJob {
  return {
    name: 'awaited sender records',
    everyMs: LOOK_EVERY_MS,
    longestMs: 5 * 60_000,
    async run() {
      const { awaited } = await parts.sender.settings()
      for (const one of awaited) {
        if (one.thereAt !== null) continue
        const looked = await look(parts, one)
        await parts.sender.change(({ awaited: now }) => ({
          awaited: now.map((other) => (isOf(one, other) ? looked : other)),
        }))
      }
      if (awaited.length > 0)
        await parts.sender.change(({ awaited: now }) => ({
          awaited: now.filter(({ since }) => parts.now() - since < LOOK_FOR_MS),
        }))
    },
  }
}

const isOf = (one: Who, other: Who): boolean => one.sender === other.sender && one.bounce === other.bounce

/** Where no name server answers, what was missing stays so. */
async function look(parts: AwaitedParts, one: AwaitedSender): Promise<AwaitedSender> {
  const findings = await findingsOf(parts, one)
  const isKnown = findings.every(({ about, verdict }) => verdict !== 'unknown' || about === 'dkim')
  if (!isKnown && one.lookedAt !== null) return { ...one, lookedAt: parts.now() }
  const missing = findings.flatMap(({ about, verdict }) => {
    if (about !== 'spf' && about !== 'dkim' && about !== 'dmarc') return []
    // Of a signature that somebody else may make nothing is known, for good.
    return verdict === 'look' || (verdict === 'unknown' && about !== 'dkim') ? [about] : []
  })
  return { ...one, missing, lookedAt: parts.now(), thereAt: missing.length === 0 ? parts.now() : null }
}

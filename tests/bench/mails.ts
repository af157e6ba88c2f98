import type { ListId } from '#core/ids'
import { startMail } from '#core/message'
import { changeObject } from '../api'
import type { RunningBox } from '../programs'
import { load } from './load'

const QUEUED = 10_000

/**
 * What confirming by mail costs: sign-ups a second with it to those of the bare route, taken in turns; then ten thousand
 * mails that drain to the stand-in mailbox, and sign-ups at 200 a second meanwhile to those without.
 *
 * @param bare address of the bare route, told anew by its caller
 */
export async function measureMails(box: RunningBox, bare: string) {
  const list = 'membersletter' as ListId
  const draft = {
    ...startMail(list, 'Members’ letter').draft,
    confirm: 'always' as const,
    senderAddress: 'letters@cloudberryhill.example',
  }
  await changeObject(box, 'mail', list, { list, draft, published: draft })
  const ours = `${box.workshop.replace('localhost', '127.0.0.1')}/join/firstfrost`
  const api = async <T>(path: string, method = 'GET', body?: unknown): Promise<T> => {
    const response = await fetch(`${box.workshop}/api${path}`, {
      method,
      headers: { Authorization: `Bearer ${box.key}`, 'Content-Type': 'application/json' },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    })
    return (await response.json()) as T
  }
  const pace = { minute: 100_000, hour: 1_000_000, day: 10_000_000 }
  // What is queued meanwhile is sent after it: the comparison is of what visitors wait for.
  await api('/mail/pace', 'PUT', { pace, isStopped: true })
  await load(ours, { seconds: 2, connections: 64 })
  const ratios: number[] = []
  for (let round = 0; round < 5; round += 1) {
    const with_ = await load(ours, { seconds: 2, connections: 64 })
    const without = await load(bare, { seconds: 2, connections: 64 })
    ratios.push(with_.perSecond / without.perSecond)
  }
  const counts = async () => (await api<{ counts: { waiting: number; sent: number } }>('/mail')).counts
  while ((await counts()).waiting < QUEUED) await load(ours, { seconds: 1, connections: 64 })

  const calm = await load(ours, { seconds: 5, connections: 20, rate: 200 })
  const before = await counts()
  await api('/mail/pace', 'PUT', { pace, isStopped: false })
  const begun = performance.now()
  const busy = await load(ours, { seconds: 5, connections: 20, rate: 200 })
  while ((await counts()).sent - before.sent < QUEUED) await new Promise((resolve) => setTimeout(resolve, 100))
  const seconds = (performance.now() - begun) / 1_000
  return {
    ratio: ratios.sort((one, other) => one - other)[2]!,
    perSecond: ((await counts()).sent - before.sent) / seconds,
    busy: busy.perSecond / calm.perSecond,
    wait: busy.percentile(50) / calm.percentile(50),
  }
}

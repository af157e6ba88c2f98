import type { Context } from 'hono'
import { stream } from 'hono/streaming'
import type { ReceiverParts } from '../../../subject'
import { keyIn } from '../../../secrets/api'

/** How often a quiet stream shows that it is alive. Proxies often cut connections after 60 s of silence. */
const HEARTBEAT_MS = 20_000

/** A line of JSON at each news, until who listens goes or their key is withdrawn. */
export function streamNews(
  c: Context,
  { ledger, keys, metrics, stopping }: Pick<ReceiverParts, 'ledger' | 'keys' | 'metrics' | 'stopping'>,
): Response {
  c.header('Content-Type', 'application/x-ndjson')
  return stream(c, async (out) => {
    let wake = () => {}
    let isOpen = true
    out.onAbort(() => {
      isOpen = false
      wake()
    })
    const onStop = () => wake()
    stopping.addEventListener('abort', onStop)
    metrics.listening(1)
    const stopListening = [
      () => stopping.removeEventListener('abort', onStop),
      () => metrics.listening(-1),
      ledger.onNews(() => wake()),
      keys.whenWithdrawn(() => wake()),
    ]
    const key = keyIn(c)
    const isLetIn = async () =>
      key !== null && ![null, 'withdrawn'].includes((await keys.bearerOf(key)) as string | null)
    try {
      let told = ''
      const news = async () =>
        JSON.stringify({ latest: await ledger.latest(), latestChange: await ledger.latestChange() })
      while (isOpen && !stopping.aborted && (await isLetIn())) {
        const woken = new Promise<void>((resolve) => (wake = resolve))
        const latest = await news()
        await out.writeln(latest === told ? '{}' : latest)
        told = latest
        if ((await news()) !== told) continue
        const timer = setTimeout(wake, HEARTBEAT_MS)
        await woken
        clearTimeout(timer)
      }
    } finally {
      for (const stop of stopListening) stop()
    }
  })
}

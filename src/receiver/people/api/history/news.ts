import type { Context } from 'hono'
import { stream } from 'hono/streaming'
import type { Ledger } from '../../../ledger'

/** How often a quiet stream shows that it is alive. Proxies often cut connections after 60 s of silence. */
const HEARTBEAT_MS = 20_000

/** A line of JSON at each news, until who listens goes. */
export function streamNews(c: Context, ledger: Ledger): Response {
  c.header('Content-Type', 'application/x-ndjson')
  return stream(c, async (out) => {
    let wake = () => {}
    let isOpen = true
    out.onAbort(() => {
      isOpen = false
      wake()
    })
    const stopListening = ledger.onNews(() => wake())
    try {
      let told = ''
      const news = async () =>
        JSON.stringify({ latest: await ledger.latest(), latestChange: await ledger.latestChange() })
      while (isOpen) {
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
      stopListening()
    }
  })
}

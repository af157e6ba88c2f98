import { createServer } from 'node:net'

/** Below those that connections get by themselves: one of these may be taken before a program begins to listen on it. */
const [PORTS_FROM, PORTS_TO] = [15_000, 32_000]

export async function freePort(): Promise<number> {
  for (;;) {
    const port = PORTS_FROM + Math.floor(Math.random() * (PORTS_TO - PORTS_FROM))
    const isFree = await new Promise<boolean>((resolve) => {
      const server = createServer()
      server.once('error', () => resolve(false))
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)))
    })
    if (isFree) return port
  }
}

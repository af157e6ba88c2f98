import { type AddressInfo, connect, createServer, type Socket } from 'node:net'

/** Stands between somebody and a port, and does to what passes what networks do. */
export interface FaultyLink {
  port: number
  /** Breaks all connections that there are; new ones may be made. */
  cut(): void
  /** From now on what passes is held up so long each way, in milliseconds. */
  delay(ms: number): void
  stop(): void
}

export async function startFaultyLink(to: number): Promise<FaultyLink> {
  const open = new Set<Socket>()
  let delayMs = 0
  const pass = (from: Socket, into: Socket) => {
    from.on('data', (chunk) => {
      if (delayMs === 0) into.write(chunk)
      else setTimeout(() => into.writable && into.write(chunk), delayMs)
    })
    from.on('error', () => {})
    from.once('close', () => {
      open.delete(from)
      into.destroy()
    })
    open.add(from)
  }
  const server = createServer((near) => {
    const far = connect(to, '127.0.0.1')
    pass(near, far)
    pass(far, near)
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  return {
    port: (server.address() as AddressInfo).port,
    cut: () => open.forEach((socket) => socket.resetAndDestroy()),
    delay: (ms) => (delayMs = ms),
    stop() {
      server.close()
      open.forEach((socket) => socket.destroy())
    },
  }
}

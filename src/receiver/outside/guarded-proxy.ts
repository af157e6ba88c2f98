import { once } from 'node:events'
import { createServer, type IncomingMessage, request as requestHttp, type ServerResponse } from 'node:http'
import { type AddressInfo, connect, type Socket } from 'node:net'
import type { Duplex } from 'node:stream'
import { guardOf, OutsideProblem, readAddress } from './guard'

/** A page with its pictures, scripts and films, opened a few times. */
const MOST_BYTES = 256 * 1024 * 1024
const MOST_CONNECTIONS = 128
const ANSWER_MS = 30_000

/**
 * A proxy on this computer for a browser that opens pages which somebody named: whatever it asks for goes the guarded way,
 * so nothing of a private network is reached but the allowed origins.
 */
export interface GuardedProxy {
  port: number
  /** What was last refused, and why. */
  refusals: ReadonlyMap<string, string>
  close(): void
}

/** @param allowed origins of this computer that may be reached all the same; null refuses everything */
export async function openGuardedProxy(allowed: readonly string[] | null): Promise<GuardedProxy> {
  const refusals = new Map<string, string>()
  const sockets = new Set<Duplex>()
  let bytes = 0
  const isFull = () => bytes > MOST_BYTES || sockets.size > MOST_CONNECTIONS
  const refuse = (what: string, error: unknown): string => {
    const message = error instanceof Error ? error.message : String(error)
    if (refusals.size < 100) refusals.set(what, message)
    return message
  }
  /** Counts what comes back, and cuts off what is more than a page has. */
  const count = (stream: { on(event: 'data', heard: (chunk: Buffer) => void): unknown; destroy(): unknown }) =>
    stream.on('data', (chunk) => {
      bytes += chunk.length
      if (isFull()) stream.destroy()
    })
  const guarded = (url: URL) => {
    if (allowed === null) throw new OutsideProblem('The browser asked for this by itself.')
    if (isFull()) throw new OutsideProblem('The page asks for more than a page has.')
    return guardOf(url, allowed)
  }

  const server = createServer((asked: IncomingMessage, answer: ServerResponse) => {
    try {
      const url = readAddress(asked.url ?? '')
      if (url.protocol !== 'http:') throw new OutsideProblem('This is no address for a proxy.')
      const sent = requestHttp(url, {
        method: asked.method,
        headers: withoutHops(asked),
        setHost: false,
        signal: AbortSignal.timeout(ANSWER_MS),
        ...guarded(url),
      })
      sent.on('response', (response) => {
        answer.writeHead(response.statusCode ?? 502, withoutHops(response))
        count(response)
        response.on('error', () => answer.destroy())
        response.pipe(answer)
      })
      sent.on('error', (error) => {
        refuse(url.href, error)
        // No answer at all, as a visitor's browser would find it.
        answer.destroy()
      })
      answer.on('close', () => sent.destroy())
      asked.pipe(sent)
    } catch (error) {
      refuse(asked.url ?? '', error)
      answer.destroy()
    }
  })
  server.on('connect', (asked: IncomingMessage, client: Socket, head: Buffer) => {
    client.on('error', () => client.destroy())
    try {
      const target = readAddress(`https://${asked.url ?? ''}`)
      const port = Number(target.port || 443)
      // Sockets to a site's web server go this way too, without encryption.
      const plain = new URL(`http://${target.host}${target.port === '' ? ':443' : ''}`)
      const guard = allowed?.includes(plain.origin) === true && !isFull() ? {} : guarded(target)
      if (port < 1024 && port !== 443 && port !== 80) throw new OutsideProblem('Web servers do not stand at this port.')
      const upstream = connect({ host: target.hostname.replace(/^\[|\]$/g, ''), port, ...guard })
      upstream.setTimeout(ANSWER_MS, () => upstream.destroy())
      upstream.on('connect', () => {
        client.write('HTTP/1.1 200 Connection established\r\n\r\n')
        if (head.length > 0) upstream.write(head)
        count(upstream)
        upstream.pipe(client)
        client.pipe(upstream)
      })
      upstream.on('error', (error) => {
        refuse(target.origin, error)
        client.destroy()
      })
      upstream.on('close', () => client.destroy())
      client.on('close', () => upstream.destroy())
    } catch (error) {
      refuse(asked.url ?? '', error)
      client.end('HTTP/1.1 403 Forbidden\r\nContent-Length: 0\r\n\r\n')
    }
  })
  server.on('connection', (socket) => {
    sockets.add(socket)
    socket.on('close', () => sockets.delete(socket))
  })
  server.on('clientError', (_error, socket) => socket.destroy())
  server.listen(0, '127.0.0.1')
  await once(server, 'listening')
  return {
    port: (server.address() as AddressInfo).port,
    refusals,
    close() {
      server.close()
      for (const socket of sockets) socket.destroy()
    },
  }
}

/** RFC 9110, section 7.6.1: what is said between two neighbours is not passed on. */
const HOPS = new Set([
  'connection',
  'keep-alive',
  'proxy-connection',
  'proxy-authorization',
  'proxy-authenticate',
  'te',
  'trailer',
  'transfer-encoding',
  'upgrade',
])

function withoutHops({ rawHeaders }: IncomingMessage): string[] {
  const headers: string[] = []
  for (let at = 0; at < rawHeaders.length; at += 2)
    if (!HOPS.has(rawHeaders[at]!.toLowerCase())) headers.push(rawHeaders[at]!, rawHeaders[at + 1]!)
  return headers
}

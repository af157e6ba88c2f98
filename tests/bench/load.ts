import { connect } from 'node:net'

export interface LoadResult {
  perSecond: number
  failed: number
  /** Milliseconds from when a sign-up was due to be sent until its answer was complete. */
  percentile(share: number): number
}

let visitors = 0
const signUpBody = (number: number) => `email=visitor-${number}%40mail.example&first-name=Vera&askbox-version=1`

/**
 * Sign-ups by many visitors at once, each with an address of its own, over connections kept open. Written on
 * bare sockets: general load generators take more of the shared two cores than the server under test, and
 * would so measure themselves. With `rate`, sign-ups a second at even intervals; else as fast as they are answered.
 */
export async function load(
  url: string,
  {
    seconds,
    connections,
    rate,
    body: made = signUpBody,
    type = 'application/x-www-form-urlencoded',
  }: {
    seconds: number
    connections: number
    rate?: number
    /** What each sends; a sign-up with an address of its own where not said. */
    body?: (number: number) => string
    type?: string
  },
): Promise<LoadResult> {
  const { hostname, port, pathname } = new URL(url)
  const start = performance.now()
  const endAt = start + seconds * 1000
  const latencies: number[] = []
  let failed = 0
  let due = 0

  /** When the next sign-up is to be sent; waiting for a free connection counts as its visitor's waiting. */
  const nextDue = () => (rate === undefined ? performance.now() : start + (due++ * 1000) / rate)

  await Promise.all(
    Array.from(
      { length: connections },
      () =>
        new Promise<void>((resolve, reject) => {
          const socket = connect(Number(port), hostname)
          socket.setNoDelay(true)
          socket.once('error', reject)
          let received = ''
          let dueAt = 0
          const send = () => {
            dueAt = nextDue()
            if (dueAt >= endAt) {
              socket.end()
              return resolve()
            }
            const wait = dueAt - performance.now()
            if (wait > 1) setTimeout(post, wait)
            else post()
          }
          const post = () => {
            const body = made(++visitors)
            socket.write(
              `POST ${pathname} HTTP/1.1\r\nHost: ${hostname}:${port}\r\nAccept: application/json\r\nContent-Type: ${type}\r\nUser-Agent: Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0\r\nContent-Length: ${body.length}\r\n\r\n${body}`,
            )
          }
          socket.on('data', (chunk) => {
            received += chunk.toString('latin1')
            if (!isComplete(received)) return
            latencies.push(performance.now() - dueAt)
            if (!/^HTTP\/1\.1 20[04]/.test(received)) failed += 1
            received = ''
            send()
          })
          socket.once('connect', send)
        }),
    ),
  )
  latencies.sort((one, other) => one - other)
  return {
    perSecond: (latencies.length - failed) / seconds,
    failed,
    percentile: (share) =>
      latencies[Math.min(latencies.length - 1, Math.floor((latencies.length * share) / 100))] ?? Number.NaN,
  }
}

/** RFC 9112 section 6: a body ends after Content-Length bytes, or with the last chunk. */
function isComplete(received: string): boolean {
  const head = received.indexOf('\r\n\r\n')
  if (head < 0) return false
  // RFC 9110 section 15.3.5: 204 has no body.
  if (received.startsWith('HTTP/1.1 204')) return true
  const length = /^content-length: (\d+)/im.exec(received.slice(0, head))?.[1]
  return length === undefined ? received.endsWith('\r\n0\r\n\r\n') : received.length >= head + 4 + Number(length)
}

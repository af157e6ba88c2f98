import { createSocket } from 'node:dgram'
import { once } from 'node:events'
import { decode, encode, type Answer } from 'dns-packet'
import type { NameServers } from '../src/receiver/mail/sender-check'

/** Records of a made-up zone. A name that ends in `silent.example` is not answered. */
export interface Zone {
  txt?: Record<string, string[]>
  a?: Record<string, string[]>
  aaaa?: Record<string, string[]>
  mx?: Record<string, string[]>
}

/** Name servers that know one zone, and nothing else. */
export function zoneServers({ txt = {}, a = {}, aaaa = {}, mx = {} }: Zone): NameServers {
  const answer = async (records: Record<string, string[]>, name: string): Promise<string[]> => {
    if (name.endsWith('silent.example')) throw Object.assign(new Error('silent'), { code: 'ETIMEOUT' })
    const found = records[name.toLowerCase()]
    if (found !== undefined && found.length > 0) return found
    const isKnown = [txt, a, aaaa, mx].some((one) => name.toLowerCase() in one)
    throw Object.assign(new Error('nothing'), { code: isKnown ? 'ENODATA' : 'ENOTFOUND' })
  }
  return {
    // A long record comes in several strings (RFC 7208, section 3.3).
    txt: async (name) => (await answer(txt, name)).map((text) => [text.slice(0, 9), text.slice(9)]),
    addresses: (name, family) => answer(family === 4 ? a : aaaa, name),
    mx: async (name) => (await answer(mx, name)).map((exchange, at) => ({ exchange, priority: at * 10 })),
  }
}

/** A name server on this computer that knows one zone, which may be changed while it runs. */
export async function startNameServer(port: number): Promise<{ zone: Zone; port: number; stop(): void }> {
  const zone: Zone = {}
  const socket = createSocket('udp4')
  socket.on('message', (message, { port: to, address }) => {
    const { id = 0, questions = [] } = decode(message)
    const answers = questions.flatMap(({ name, type }): Answer[] => {
      if (type === 'TXT') return (zone.txt?.[name] ?? []).map((data) => ({ type, name, data }))
      if (type === 'A' || type === 'AAAA')
        return ((type === 'A' ? zone.a : zone.aaaa)?.[name] ?? []).map((data) => ({ type, name, data }))
      return []
    })
    // RFC 1035, section 4.1.1: recursion asked for and available; 3 is a name that does not exist.
    const flags = 0x0180 | (answers.length === 0 ? 3 : 0)
    socket.send(encode({ id, type: 'response', flags, questions, answers }), to, address)
  })
  socket.bind(port, '127.0.0.1')
  await once(socket, 'listening')
  return { zone, port: socket.address().port, stop: () => void socket.close() }
}

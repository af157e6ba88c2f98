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

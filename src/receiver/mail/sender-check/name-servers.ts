import { Resolver } from 'node:dns/promises'
import { isSpf } from '#core/sender'

/** What name servers are asked. Each rejects with `code` ENOTFOUND or ENODATA where there is nothing. */
export interface NameServers {
  txt(name: string): Promise<string[][]>
  addresses(name: string, family: 4 | 6): Promise<string[]>
  mx(name: string): Promise<{ exchange: string; priority: number }[]>
}

/** @param servers addresses of name servers; those of the computer where there are none */
export function nameServers(servers: string[] = []): NameServers {
  const resolver = new Resolver({ timeout: 3_000, tries: 1 })
  if (servers.length > 0) resolver.setServers(servers)
  return {
    txt: (name) => resolver.resolveTxt(name),
    addresses: (name, family) => (family === 4 ? resolver.resolve4(name) : resolver.resolve6(name)),
    mx: (name) => resolver.resolveMx(name),
  }
}

/** No answer, or an error of the name server: nothing is known, and nothing is said. */
export class NoNameServer extends Error {}

/** An empty answer as an empty array. @throws {NoNameServer} */
export async function answersOf<Answer>(asked: Promise<Answer[]>): Promise<Answer[]> {
  try {
    return await asked
  } catch (error) {
    const { code } = error as { code?: string }
    if (code === 'ENOTFOUND' || code === 'ENODATA') return []
    throw new NoNameServer(code)
  }
}

/** Texts of a name; a long one comes in several strings (RFC 7208, section 3.3). @throws {NoNameServer} */
export async function textsOf(name: string, servers: NameServers): Promise<string[]> {
  return (await answersOf(servers.txt(name))).map((strings) => strings.join(''))
}

/** @throws {NoNameServer} */
export async function spfTextsOf(domain: string, servers: NameServers): Promise<string[]> {
  return (await textsOf(domain, servers)).filter(isSpf)
}

/** Asks each question once. */
export function remembering(servers: NameServers): NameServers {
  const asked = new Map<string, Promise<unknown>>()
  const once = <Answer>(question: string, ask: () => Promise<Answer>): Promise<Answer> => {
    if (!asked.has(question)) asked.set(question, ask())
    return asked.get(question) as Promise<Answer>
  }
  return {
    txt: (name) => once(`txt ${name}`, () => servers.txt(name)),
    addresses: (name, family) => once(`${family} ${name}`, () => servers.addresses(name, family)),
    mx: (name) => once(`mx ${name}`, () => servers.mx(name)),
  }
}

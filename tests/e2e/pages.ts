import { createServer, type Server } from 'node:http'
import { test as base } from './box'

export interface SitePage {
  head?: string
  body: string
  headers?: Record<string, string>
  /** A whole page, in the place of all of that; it arrives in two halves. */
  whole?: string
}

/** Pages of a site that the test makes up, by path; another origin than the receiver's, as real sites are. */
export interface MadeSite {
  address: string
  put(path: string, page: SitePage): string
}

export const test = base.extend<{ site: MadeSite }>({
  site: async ({}, use) => {
    const pages = new Map<string, SitePage>()
    const server: Server = createServer((request, response) => {
      const page = pages.get(new URL(request.url ?? '/', 'http://site.example').pathname)
      response.writeHead(page === undefined ? 404 : 200, {
        'Content-Type': 'text/html; charset=utf-8',
        ...page?.headers,
      })
      if (page?.whole !== undefined) {
        const half = Math.floor(page.whole.length / 2)
        response.write(page.whole.slice(0, half))
        setTimeout(() => response.end(page.whole!.slice(half)), 150)
        return
      }
      response.end(
        `<!DOCTYPE html><html lang="en"><head><meta name="viewport" content="width=device-width"><title>A page</title><link rel="icon" href="data:,">${page?.head ?? ''}</head><body>${page?.body ?? 'Nothing here'}</body></html>`,
      )
    })
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
    const bound = server.address()
    const address = `http://127.0.0.1:${typeof bound === 'object' ? bound?.port : 0}`
    await use({
      address,
      put(path, page) {
        pages.set(path, page)
        return address + path
      },
    })
    server.closeAllConnections()
    server.close()
  },
})
export { expect } from './box'

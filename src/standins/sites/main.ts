import { existsSync, mkdirSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { serve } from '@hono/node-server'
import { plainCode } from '#core/embed'
import { element, toHtml } from '#core/render'
import { readWorkspace } from '#core/workspace'
import { blogApp } from './blog'
import { openPosts, pathOf, type Posts } from './posts'

/**
 * Starts the stand-in site: `node sites.js [--demo <workspace file>]`. With a demo, the code of its forms
 * stands in the posts that their spots name, as if somebody had pasted it. Prints `ready <address>`.
 */
function start(): void {
  const port = Number(process.env.ASKBOX_SITES_PORT || 4320)
  if (!Number.isInteger(port) || port < 0 || port > 65_535) {
    console.error(
      `ASKBOX_SITES_PORT must be a whole number from 0 to 65535, but is “${process.env.ASKBOX_SITES_PORT}”.`,
    )
    process.exit(2)
  }
  const folder = join(process.env.ASKBOX_DATA || resolve('data/receiver'), 'stand-ins')
  mkdirSync(folder, { recursive: true })
  const file = join(folder, 'posts.json')
  const isNew = !existsSync(file)
  const posts = openPosts(file)
  const address = `http://127.0.0.1:${port}`
  const demo = process.argv[process.argv.indexOf('--demo') + 1]
  if (isNew && process.argv.includes('--demo') && demo !== undefined) pasteDemo(posts, demo, address)

  const server = serve({ fetch: blogApp(posts).fetch, port, hostname: '127.0.0.1' }, () =>
    console.log(`ready ${address}/`),
  )
  server.on('error', (error: NodeJS.ErrnoException) => {
    console.error(
      error.code === 'EADDRINUSE' ? `Port ${port} (ASKBOX_SITES_PORT) is in use by another program.` : error.message,
    )
    process.exit(2)
  })
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => process.exit(0))
}

function pasteDemo(posts: Posts, file: string, address: string): void {
  const receiver = process.env.ASKBOX_PUBLIC_URL || `http://localhost:${process.env.ASKBOX_PORT || 4310}`
  const reading = readWorkspace(readFileSync(file, 'utf8').replaceAll('http://127.0.0.1:4320', address))
  if (!reading.ok) return
  const { sites, spots, versions } = reading.workspace
  for (const spot of spots) {
    if (spot.kind === 'landing') {
      const site = sites.find(({ id }) => id === spot.site)
      const home = posts.all().find((one) => `${address}${one.site}` === site?.address.replace(/\/$/, ''))
      const words = versions.find(({ form }) => form === spot.form)?.content.words.heading
      if (home !== undefined && words !== undefined)
        posts.save({
          ...home,
          code: `${home.code}${toHtml(element('p', {}, element('a', { href: `${receiver}/page/${spot.id}` }, words)))}\n`,
        })
      continue
    }
    const post = posts.all().find((one) => spot.page === address + pathOf(one))
    const version = versions.filter(({ form }) => form === spot.form).at(-1)
    if (post === undefined || version === undefined) continue
    posts.save({
      ...post,
      code: plainCode({ content: version.content, form: spot.form, version: version.number, spot: spot.id, receiver }),
    })
  }
}

start()

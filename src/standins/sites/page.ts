import { html, raw } from 'hono/html'
import type { HtmlEscapedString } from 'hono/utils/html'
import type { Slots } from './slots'
import { LISTING, type PretendPage, type PretendSite, sites } from './sites'
import { siteStyles } from './styles'

export type Html = HtmlEscapedString | Promise<HtmlEscapedString>

/** One page as visitors of a pretend site get it. */
export function sitePage(site: PretendSite, page: PretendPage | 'listing', slots: Slots): Html {
  const shown = (slot: Parameters<Slots['shown']>[1]) => raw(slots.shown(site, slot))
  if (page === 'listing')
    return around(site, 'Posts', {
      body: postList(site),
      side: shown('side'),
      footer: shown('footer'),
      head: shown('site-head'),
    })
  const body = html`<article>
    ${page.date === undefined ? '' : html`<p class="date">${page.date}</p>`}
    <h1>${page.title}</h1>
    ${shown(`body:${page.path}`)} ${page.date === undefined ? '' : shown('after-post')}
  </article>`
  return around(site, page.title, {
    body: page.path === '' ? html`${body} ${postList(site)}` : body,
    side: shown('side'),
    footer: shown('footer'),
    head: html`${shown('site-head')} ${shown(`head:${page.path}`)}`,
    isWrapped: site.kind === 'builder-with-head',
  })
}

function postList(site: PretendSite): Html {
  return html`${site.pages
    .filter(({ date }) => date !== undefined)
    .map(
      ({ path, title, date, text }) =>
        html`<article>
          <p class="date">${date}</p>
          <h2><a href="${site.path}${path}">${title}</a></h2>
          <p>${text.split('\n\n')[0]}</p>
        </article>`,
    )}`
}

interface Parts {
  body: Html
  side?: Html
  footer?: Html
  head?: Html
  /** Whether the whole page is put into a form, as some builders do. */
  isWrapped?: boolean
}

/** The side column stands beside the body where there is room, below it on phones, as on most sites. */
export function around(site: PretendSite, title: string, { body, side, footer, head, isWrapped = false }: Parts): Html {
  const columns = html`<div class="columns">
    <main>${body}</main>
    ${side === undefined ? '' : html`<aside>${side}</aside>`}
  </div>`
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>${title === site.name ? title : `${title} · ${site.name}`}</title>
        <link rel="icon" href="data:," />
        <style>
          ${raw(siteStyles[site.kind])}
        </style>
        ${head ?? ''}
      </head>
      <body>
        <header style="background:${site.colour}">
          <a class="name" href="${site.path || '/'}">${site.name}</a>
          <nav>
            <a href="${site.path}${LISTING}">Posts</a>
            ${site.pages
              .filter(({ date, path }) => date === undefined && path !== '')
              .map(({ path, title: name }) => html`<a href="${site.path}${path}">${name}</a>`)}
            <a href="/editor/${site.key}">Editor</a>
          </nav>
        </header>
        ${isWrapped ? html`<form action="${site.path || '/'}" method="get">${columns}</form>` : columns}
        <footer>
          ${footer ?? ''}
          <p>A pretend site for trying forms. Everything in it is invented.</p>
        </footer>
      </body>
    </html>`
}

export function notFound(): Html {
  return around(sites[0]!, 'Not found', {
    body: html`<h1>Nothing here</h1>
      <p><a href="/">Back to the blog</a></p>`,
  })
}

import { Hono } from 'hono'
import { csrf } from 'hono/csrf'
import { html, raw } from 'hono/html'
import type { HtmlEscapedString } from 'hono/utils/html'
import { pathOf, type Post, type Posts, type PretendSite, sites } from './posts'
import { blogStyles } from './styles'

type Html = HtmlEscapedString | Promise<HtmlEscapedString>

/**
 * Pretend self-hosted blogs: pages for visitors and an editor with a slot for HTML in every post. What is
 * pasted into the slot stands on the page untouched, as such blogs do; everything else is text.
 */
export function blogApp(posts: Posts): Hono {
  const app = new Hono()
  app.use(csrf())
  for (const site of sites) {
    app.get(site.path || '/', (c) =>
      c.html(page(site, site.name, html`${posts.of(site).map(summary)}`, posts.sideColumn(site))),
    )
    app.get(`${site.path}/posts/:slug`, (c) => {
      const post = posts.of(site).find(({ slug }) => slug === c.req.param('slug'))
      return post === undefined
        ? c.html(notFound(), 404)
        : c.html(page(site, post.title, article(post), posts.sideColumn(site)))
    })
  }
  app.get('/editor', (c) => c.html(page(sites[0], 'Editor', editorList(posts))))
  app.get('/editor/:slug', (c) => {
    const post = posts.find(c.req.param('slug'))
    return post === undefined
      ? c.html(notFound(), 404)
      : c.html(page(siteOf(post), `Edit “${post.title}”`, editor(post, c.req.query('saved') !== undefined)))
  })
  app.post('/editor/:slug', async (c) => {
    const post = posts.find(c.req.param('slug'))
    if (post === undefined) return c.html(notFound(), 404)
    const form = await c.req.parseBody()
    const read = (name: string, fallback: string) => (typeof form[name] === 'string' ? form[name] : fallback)
    posts.save({ ...post, text: read('text', post.text), code: read('code', post.code) })
    return c.redirect(`/editor/${post.slug}?saved`, 303)
  })
  app.notFound((c) => c.html(notFound(), 404))
  return app
}

function siteOf(post: Post): PretendSite {
  return sites.find(({ path }) => path === post.site) ?? sites[0]
}

function article(post: Post): Html {
  return html`<article>
    <p class="date">${post.date}</p>
    <h1>${post.title}</h1>
    ${paragraphs(post.text)} ${raw(post.code)}
  </article>`
}

function summary(post: Post): Html {
  return html`<article>
    <p class="date">${post.date}</p>
    <h2><a href="${pathOf(post)}">${post.title}</a></h2>
    ${paragraphs(post.text.split('\n\n')[0] ?? '')}
  </article>`
}

function paragraphs(text: string): Html {
  return html`${text.split(/\r?\n\r?\n/).map((paragraph) => html`<p>${paragraph}</p> `)}`
}

function editorList(posts: Posts): Html {
  return html`<h1>Posts</h1>
    ${sites.map(
      (site) =>
        html`<h2>${site.name}</h2>
          <ul class="posts">
            ${[...posts.of(site), posts.sideColumn(site)].map(
              (post) =>
                html`<li>
                  <a href="/editor/${post.slug}">${post.title}</a>
                  <span>${post.code.trim() === '' ? 'slot empty' : 'slot filled'}</span>
                </li>`,
            )}
          </ul>`,
    )}`
}

function editor(post: Post, isSaved: boolean): Html {
  return html`<h1>${post.title}</h1>
    ${isSaved ? html`<p class="saved" role="status">Saved. <a href="${pathOf(post)}">See the post</a></p>` : ''}
    <form class="edit" method="post" action="/editor/${post.slug}">
      <label>Text<textarea name="text" rows="9">${post.text}</textarea></label>
      <label
        >HTML below the text<textarea class="code" name="code" rows="12" spellcheck="false">${post.code}</textarea>
      </label>
      <p><button>Save post</button> <a href="${pathOf(post)}">See the post</a></p>
    </form>`
}

function notFound(): Html {
  return page(
    sites[0],
    'Not found',
    html`<h1>Nothing here</h1>
      <p><a href="/">Back to the blog</a></p>`,
  )
}

/** The side column stands beside the body where there is room, below it on phones, as on most blogs. */
function page(site: PretendSite, title: string, body: Html, side?: Post): Html {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>${title === site.name ? title : `${title} · ${site.name}`}</title>
        <link rel="icon" href="data:," />
        <style>
          ${raw(blogStyles)}
        </style>
      </head>
      <body>
        <header style="background:${site.colour}">
          <a class="name" href="${site.path || '/'}">${site.name}</a>
          <nav><a href="${site.path || '/'}">Posts</a> <a href="/editor">Editor</a></nav>
        </header>
        <div class="columns">
          <main>${body}</main>
          ${side === undefined ? '' : html`<aside>${paragraphs(side.text)} ${raw(side.code)}</aside>`}
        </div>
        <footer>A pretend site for trying forms. Everything in it is invented.</footer>
      </body>
    </html>`
}

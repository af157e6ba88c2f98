import { html } from 'hono/html'
import { siteProfiles } from '#core/site'
import { around, type Html } from './page'
import { LISTING, type PretendSite, sites } from './sites'
import { type SlotName, type Slots, slotsOf, type Typed } from './slots'

/** What the place for code is called in each kind of editor. */
const codeNames: Record<PretendSite['kind'], string> = {
  'self-hosted-blog': 'HTML below the text',
  'block-editor-blog': 'Block with custom HTML',
  'builder-with-head': 'Element with custom code',
  'builder-without-code': 'Pasted HTML, cleaned on saving',
  'static-pages': 'The file’s HTML at this place',
  other: 'HTML',
}

export function slotTitle(site: PretendSite, slot: SlotName): string {
  switch (slot) {
    case 'site-head':
      return 'Head of every page'
    case 'side':
      return 'Side column'
    case 'footer':
      return 'Foot of every page'
    case 'after-post':
      return 'Below every post'
    default: {
      const page = site.pages.find(({ path }) => slot.endsWith(`:${path}`))?.title ?? slot
      return slot.startsWith('head:') ? `Head of “${page}”` : page
    }
  }
}

/** Where a slot is edited. */
export function editorPath(site: PretendSite, slot: SlotName): string {
  return `/editor/${site.key}/${encodeURIComponent(slot)}`
}

/** Where what stands in a slot can be seen. */
export function seenAt(site: PretendSite, slot: SlotName): string {
  if (slot.includes(':')) return site.path + slot.slice(slot.indexOf(':') + 1) || '/'
  const post = site.pages.find(({ date }) => date !== undefined)
  return site.path + (post?.path ?? LISTING)
}

export function allEditors(): Html {
  return around(sites[0]!, 'Editors', {
    body: html`<h1>Pretend sites</h1>
      <ul class="posts">
        ${sites.map((site) => html`<li><a href="/editor/${site.key}">${site.name}</a> <span>${kindWords(site)}</span></li>`)}
      </ul>`,
  })
}

export function siteEditor(site: PretendSite, slots: Slots, now: number): Html {
  const minutes = Math.ceil((slots.cachedUntil(site) - now) / 60_000)
  return around(site, 'Editor', {
    body: html`<h1>Editor</h1>
      <p>${kindWords(site)}. <a href="/editor">All pretend sites</a></p>
      ${
        minutes > 0
          ? html`<form class="saved" method="post" action="/editor/${site.key}/clear-cache">
              Visitors may see the site as it was for ${minutes} more minutes. <button>Clear the cache</button>
            </form>`
          : ''
      }
      ${
        site.pages.some(({ date }) => date !== undefined)
          ? html`<form class="edit" method="post" action="/editor/${site.key}/post">
              <label>Title of a new post<input name="title" required /></label>
              <label>What it says<textarea name="text" rows="3"></textarea></label>
              <p><button>Publish the post</button> It stands in <a href="${site.path}/feed.xml">the site’s feed</a>.</p>
            </form>`
          : ''
      }
      <ul class="posts">
        ${slotsOf(site).map(
          (slot) =>
            html`<li>
              <a href="${editorPath(site, slot)}">${slotTitle(site, slot)}</a>
              <span>${slots.typed(site, slot).code.trim() === '' ? 'no code' : 'has code'}</span>
            </li>`,
        )}
      </ul>`,
  })
}

export function slotEditor(site: PretendSite, slot: SlotName, typed: Typed, isSaved: boolean): Html {
  const isHead = slot === 'site-head' || slot.startsWith('head:')
  const { whileEditing } = siteProfiles[site.kind]
  return around(site, `Edit “${slotTitle(site, slot)}”`, {
    body: html`<h1>${slotTitle(site, slot)}</h1>
      ${isSaved ? html`<p class="saved" role="status">Saved. <a href="${seenAt(site, slot)}">See the page</a></p>` : ''}
      <form class="edit" method="post" action="${editorPath(site, slot)}">
        ${isHead ? '' : html`<label>Text<textarea name="words" rows="9">${typed.words}</textarea></label>`}
        <label
          >${isHead ? 'Code for the head' : codeNames[site.kind]}<textarea
            class="code"
            name="code"
            rows="12"
            spellcheck="false"
          >
${typed.code}</textarea>
        </label>
        <p>
          <button>Save</button> <a href="${seenAt(site, slot)}">See the page</a>
          <a href="/editor/${site.key}">All places</a>
        </p>
      </form>
      ${
        isHead || typed.code.trim() === '' || whileEditing === 'form'
          ? ''
          : html`<h2>While editing</h2>
              ${
                whileEditing === 'notice'
                  ? html`<p class="notice">Custom code. It is shown on the published page.</p>`
                  : html`<pre class="notice">${typed.code}</pre>`
              }`
      }`,
  })
}

function kindWords({ kind }: PretendSite): string {
  const words: Record<PretendSite['kind'], string> = {
    'self-hosted-blog': 'A blog with side column: its visual editor takes code for words, its place for HTML does not',
    'block-editor-blog': 'A blog with a block editor: it shows code while you edit',
    'builder-with-head': 'A hosted builder with places for code; visitors see changes after some minutes',
    'builder-without-code': 'A hosted builder that keeps links and takes all other code out',
    'static-pages': 'Pages that are files',
    other: 'A site',
  }
  return words[kind]
}

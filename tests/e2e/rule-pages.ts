import { readFileSync } from 'node:fs'

/*
 * Pages as sites are built, for placing by rule. What a person would say is marked: `data-first` on the first paragraph of
 * the text, `data-entry` on each entry, `data-foot` on the foot of the page. No rule knows these marks.
 */

export interface RulePage {
  name: string
  css: string
  body: string
  isListing: boolean
}

const LONG =
  'The dome slid open at half past five and the grass was already white. Somebody brought the urn of blackcurrant tea, which is the only instrument up here that never needs collimating. We had eleven visitors, two of them under ten, and a ringed planet low over the quarry.'
const texts = (count: number) => Array.from({ length: count }, (_, at) => `<p>${LONG} That was night ${at + 1}.</p>`)
const first = `<p data-first>Nights are long again. ${LONG}</p>`
const rest = texts(9).join('\n')
const card = (at: number, tag: string, inside: string, more = '') =>
  `<${tag} data-entry class="entry"${more}>${inside.replaceAll('#', String(at))}</${tag}>`
const entries = (tag: string, inside: string, count = 5) =>
  Array.from({ length: count }, (_, at) => card(at + 1, tag, inside)).join('\n')
const menu = '<nav><a href="/">Home</a> <a href="/posts">Posts</a> <a href="/about">About</a></nav>'
const side =
  '<h2>Open nights</h2><p>Every clear Friday, from dusk. Bring warm socks, and somebody who can carry them back.</p>'
const foot = '<p>Cloudberry Hill. Everything here is invented.</p>'

/** Markup of posts and lists, as different builders and hands write it. */
const shapes: Omit<RulePage, 'css'>[] = [
  {
    name: 'a plain page by hand',
    isListing: false,
    body: `<h1>Frost</h1>\n${first}\n${rest}\n<footer data-foot>${foot}</footer>`,
  },
  {
    name: 'landmarks',
    isListing: false,
    body: `<header>${menu}</header><main><article><p class="date">14 November</p><h1>Frost</h1>${first}${rest}</article></main><aside>${side}</aside><footer data-foot>${foot}</footer>`,
  },
  {
    name: 'a blog with a side column',
    isListing: false,
    body: `<div id="page"><header class="site-header">${menu}</header><div class="columns"><div id="primary"><main><article class="post hentry"><header><h1>Frost</h1><div class="entry-meta">By Ilka on <time>14 November</time></div></header><div class="entry-content">${first}${rest}</div><footer class="entry-footer"><p class="tags">Tagged: frost</p></footer></article><div id="comments"><h2>Two thoughts</h2><p>${LONG}</p><p>${LONG}</p></div></main></div><aside id="secondary">${side}</aside></div><footer data-foot class="site-footer">${foot}</footer></div>`,
  },
  {
    name: 'blocks in a constrained column',
    isListing: false,
    body: `<div class="wrap"><header>${menu}</header><main class="constrained"><h1>Frost</h1><p class="byline">Ilka</p>${first}<h2>What we saw</h2>${rest}<ul><li><p>A short point.</p></li></ul></main><footer data-foot>${foot}</footer></div>`,
  },
  {
    name: 'sections of a builder, a widget each',
    isListing: false,
    body: `<div class="site"><section class="top"><div class="inner">${menu}</div></section><section><div class="inner"><div class="widget"><h1>Frost</h1></div></div></section><section><div class="inner"><div class="widget"><div class="text">${first}</div></div><div class="widget"><div class="text">${texts(7).join('')}</div></div><div class="widget"><div class="text">${texts(7).join('')}</div></div></div></section><section data-foot class="footer"><div class="inner">${foot}</div></section></div>`,
  },
  {
    name: 'all of it in a form, as some builders do',
    isListing: false,
    body: `<form action="/" method="get"><div id="head">${menu}</div><div id="content"><h1>Frost</h1>${first}${rest}</div></form><div data-foot id="footer">${foot}</div>`,
  },
  {
    name: 'a shop’s page',
    isListing: false,
    body: `<header class="masthead">${menu}</header><main id="main-content"><div class="section"><div class="container"><h1>Hampers</h1><div class="rich-text">${first}${rest}</div></div></div></main><div class="footer-wrapper"><footer data-foot>${foot}</footer></div>`,
  },
  {
    name: 'a grid with named areas',
    isListing: false,
    body: `<div class="areas"><header>${menu}</header><main><h1>Frost</h1>${first}${rest}</main><aside>${side}</aside><footer data-foot>${foot}</footer></div>`,
  },
  {
    name: 'a list of articles',
    isListing: true,
    body: `<header>${menu}</header><main><h1>Posts</h1>${entries('article', `<h2><a href="/p#">Night #</a></h2><p>${LONG}</p>`)}</main><footer data-foot>${foot}</footer>`,
  },
  {
    name: 'a list in a column beside another',
    isListing: true,
    body: `<div id="page"><header>${menu}</header><div class="columns"><main>${entries('div', `<h2><a href="/p#">Night #</a></h2><div class="summary"><p>${LONG}</p><p>${LONG}</p></div>`)}</main><aside>${side}</aside></div><footer data-foot>${foot}</footer></div>`,
  },
]

const read = (path: string) => readFileSync(path, 'utf8')
const layout =
  'body{margin:0;font:17px/1.6 serif}.columns{display:flex;gap:28px;max-width:1000px;margin:0 auto}.columns>:first-child{flex:1}.columns>aside{flex:0 0 260px}.areas{display:grid;grid-template:"h h" auto "m a" auto "f f" auto/1fr 260px;gap:0 24px}.areas>header{grid-area:h}.areas>main{grid-area:m}.areas>aside{grid-area:a}.areas>footer{grid-area:f}@media(max-width:700px){.columns,.areas{display:block}}.constrained>*{max-width:640px;margin-left:auto;margin-right:auto}'
/** Style packages in the ways that sites use them, and none. */
const styles = {
  none: layout,
  pico: `${read('node_modules/@picocss/pico/css/pico.css')}${layout.replace('body{margin:0;font:17px/1.6 serif}', '')}`,
  milligram: `${read('node_modules/milligram/dist/milligram.css')}${layout.replace('body{margin:0;font:17px/1.6 serif}', '')}`,
  water: `${read('node_modules/water.css/out/water.css')}${layout.replace('body{margin:0;font:17px/1.6 serif}', '')}`,
}

/** Ten shapes in four styles. */
export const rulePages: RulePage[] = Object.entries(styles).flatMap(([style, css]) =>
  shapes.map((shape) => ({ ...shape, name: `${shape.name}, ${style}`, css })),
)

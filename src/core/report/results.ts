import { documentOf, element, type Node, toDocument } from '#core/render'

/** One part of a page of results: what it says, its picture, its table. */
export interface ReportPart {
  title: string
  words: string
  /** A picture as a `data:` address, which goes with the page; null where there is none. */
  picture: string | null
  /** A picture as nodes, in its place. */
  drawn?: Node
  columns: readonly { label: string; isNumber?: boolean }[]
  rows: readonly (readonly (string | number)[])[]
  /** Whether the table stands there by itself; else it opens by a press, and is not printed. */
  isOpen: boolean
}

export interface ResultsReport {
  title: string
  /** Days and forms that it is about. */
  about: string
  lead: string
  /** Between the lead and the parts, and below them. */
  above?: readonly Node[]
  parts: readonly ReportPart[]
  below?: readonly Node[]
}

/** Results as one page that needs nothing else: for a client, a meeting, a drawer. */
export function resultsPage({ title, about, lead, above = [], parts, below = [] }: ResultsReport): string {
  return toDocument(
    documentOf({
      title: `${title}, ${about}`,
      css: CSS,
      body: [
        element(
          'main',
          {},
          element('p', { class: 'about' }, about),
          element('h1', {}, title),
          element('p', { class: 'lead' }, lead),
          ...above,
          ...parts.map(partOf),
          ...below,
        ),
      ],
    }),
  )
}

function partOf({ title, words, picture, drawn, columns, rows, isOpen }: ReportPart): Node {
  const align = (isNumber?: boolean) => (isNumber ? { class: 'number' } : {})
  const table = element(
    'div',
    { class: 'wide' },
    element(
      'table',
      {},
      element(
        'thead',
        {},
        element(
          'tr',
          {},
          ...columns.map(({ label, isNumber }) => element('th', { scope: 'col', ...align(isNumber) }, label)),
        ),
      ),
      element(
        'tbody',
        {},
        ...rows.map((row) =>
          element('tr', {}, ...row.map((cell, at) => element('td', align(columns[at]?.isNumber), String(cell)))),
        ),
      ),
    ),
  )
  return element(
    'section',
    {},
    element('h2', {}, title),
    picture !== null && element('img', { src: picture, alt: words }),
    drawn ?? null,
    words !== '' && element('p', {}, words),
    rows.length > 0 && (isOpen ? table : element('details', {}, element('summary', {}, 'As a table'), table)),
  )
}

const CSS = [
  ':root{color-scheme:light}body{margin:0;background:#f7f6f3;color:#2a2236;font:16px/1.5 system-ui,sans-serif}',
  'main{max-width:64rem;margin:0 auto;padding:2.5rem 1.25rem}.about{margin:0;color:#645e70}',
  'h1{margin:.2rem 0 .6rem;font-size:1.75rem;line-height:1.2}h2{margin:0 0 .6rem;font-size:1.15rem}',
  'section{margin-top:2rem;padding:1rem 1.25rem;border:1px solid #dcd8cf;border-radius:3px;background:#fff;break-inside:avoid}',
  'img{display:block;max-width:100%;max-height:22rem;width:auto;height:auto}',
  '.wide{overflow-x:auto}table{width:100%;border-collapse:collapse;font-size:.9rem}th,td{padding:.35rem .6rem;border-bottom:1px solid #dcd8cf;text-align:start;vertical-align:top}',
  '.number{text-align:end;font-variant-numeric:tabular-nums}summary{cursor:pointer}:focus-visible{outline:3px solid;outline-offset:2px}',
  'nav{display:flex;flex-wrap:wrap;gap:.4rem 1.2rem;margin-top:1rem}a{color:#4a6b1f;line-height:1.6}[aria-current]{color:inherit;font-weight:700;text-decoration:none}',
  '.bars{display:block;width:100%;height:auto}.bars rect{fill:#4a6b1f}.bars text{fill:#645e70;font-size:13px}.zero{stroke:#8b8496;stroke-width:1}.below{margin-top:1rem}',
  'h3{margin:1rem 0 0;font-size:1rem}ol{display:grid;grid-template-columns:repeat(5,minmax(0,1fr));margin:.2rem 0 0;padding:0;list-style:none;border-bottom:3px solid #2a2236}li{display:grid;grid-template-columns:auto minmax(0,1fr);column-gap:.4rem;align-content:end}li svg{grid-row:span 2}li span{color:#645e70;font-size:.85rem}.needs-work span,.changed span{color:#a3244f}',
  '.post{stroke:#2a2236;stroke-width:3}.pivot{fill:#2a2236}.blade{fill:#4a6b1f;stroke:#4a6b1f;stroke-width:1.5;stroke-linejoin:round}.empty .blade{fill:#fff;stroke:#8b8496}.needs-work .blade,.changed .blade{fill:#a3244f;stroke:#a3244f}.ready .blade{fill:#eaf0df}',
  '@media(max-width:40rem){ol{grid-template-columns:minmax(0,1fr);border-bottom:0;border-left:3px solid #2a2236;padding-left:.5rem}}',
  '@media print{body{background:#fff}details,nav{display:none}}',
].join('\n')

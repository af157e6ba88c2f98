import beautify from 'js-beautify'
import { minify, type Options } from 'html-minifier-terser'
import MarkdownIt, { type Options as MarkdownOptions } from 'markdown-it'
import TurndownService from 'turndown'
import juice from 'juice'
import { parse, serialize } from 'parse5'
import sanitizeHtml from 'sanitize-html'
import xssModule, { type FilterXSS, type getDefaultWhiteList, type IFilterXSSOptions } from 'xss'
import {
  frameAddress,
  frameCode,
  linkCode,
  pageAddress,
  placePart,
  plainCode,
  popUpPart,
  sharedLine,
} from '#core/embed'
import { inTagsCode } from '#core/inlining'
import { mangled, type Mangling } from '#core/install'
import { startPopUp, type CodeKind, type Spot } from '#core/spot'
import * as samples from '../tables/samples'

/*
 * Pages with a spot's code on them, sound and damaged in every way that we know of, a third of them by programs of the
 * registry. What a visitor can do on each is judged in Chromium (judge.ts) and kept in verdicts.json; the install check is
 * held against it.
 */
export interface PageCase {
  name: string
  code: CodeKind
  spot: Spot
  html: string
  /** What the check has to name where nobody can sign up: one of these. */
  causes: readonly string[]
  /** Whether a program of the registry made it. */
  isByProgram: boolean
}

/** Its types do not say that its default export is all of it. */
const xss = xssModule as unknown as { FilterXSS: typeof FilterXSS; getDefaultWhiteList: typeof getDefaultWhiteList }

/** One that comes at once, to everybody. */
export const popUpSpot: Spot = {
  ...samples.spot,
  id: 'popupspot' as Spot['id'],
  kind: 'pop-up',
  popUp: { ...startPopUp, when: { kind: 'at-once' }, often: { kind: 'every-visit' } },
}

const forms = ['plain', 'in-tags'] as const
const five = ['plain', 'in-tags', 'script', 'frame', 'link'] as const
type Code = (typeof five)[number] | 'pop-up'

/** @param receiver its address, without a slash at the end */
export async function pageCases(receiver: string): Promise<PageCase[]> {
  const { spot, content, version } = samples
  const placed = { content, form: version.form, version: version.number, spot: spot.id, receiver }
  const codes: Record<Code, string> = {
    plain: plainCode(placed),
    'in-tags': inTagsCode(placed),
    script: placePart(content, receiver, spot.id, null),
    frame: frameCode(frameAddress(receiver, spot.id), 'Sign up', { width: 480, height: 320 }),
    link: linkCode(content, pageAddress(receiver, spot.id), { shownAs: 'button', opens: 'here' }),
    'pop-up': popUpPart(receiver, popUpSpot.id),
  }
  const line = sharedLine(receiver)
  const page = (body: string, head = '') =>
    `<!DOCTYPE html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n<meta name="viewport" content="width=device-width, initial-scale=1">\n<title>Open nights</title>\n<style>body { max-width: 60em; margin: 2em auto; font-family: sans-serif }</style>\n${head}\n</head>\n<body>\n<header><h1>Open nights</h1></header>\n<main>\n<p>Every clear Friday, from dusk.</p>\n${body}\n</main>\n<footer><p>Bring warm socks.</p></footer>\n</body>\n</html>`
  const headOf = (code: Code) => (code === 'script' ? line : '')
  const cases: PageCase[] = []
  const add = (name: string, code: Code, html: string, causes: readonly string[], isByProgram = false) =>
    cases.push({
      name: `${code}: ${name}`,
      code: code === 'pop-up' ? 'script' : code,
      spot: code === 'pop-up' ? popUpSpot : spot,
      html,
      causes,
      isByProgram,
    })
  /** Three of the five kinds of code, others each time. */
  let turns = 0
  const inTurn = () => {
    turns += 1
    return five.filter((_, at) => (at + turns) % 5 < 3)
  }
  const around = (
    name: string,
    wrap: (code: string) => string,
    causes: readonly string[] = [],
    of: readonly Code[] = inTurn(),
    head = '',
  ) => {
    for (const code of of) add(name, code, page(wrap(codes[code]), headOf(code) + head), causes)
  }
  /** A change to the text of a code that has to change something. */
  const changed = (
    name: string,
    of: readonly Code[],
    from: string | RegExp,
    to: string | ((found: string) => string),
    causes: readonly string[] = [],
  ) => {
    for (const code of of) {
      const before = codes[code]
      const html = before.replace(from as string, to as string)
      if (html === before) throw new Error(`“${name}” changes nothing of ${code}.`)
      add(name, code, page(html, headOf(code)), causes)
    }
  }

  // Places in which it works.
  around('as it is', (code) => code, [], five)
  add('in the head', 'pop-up', page('<p>Words</p>', codes['pop-up']), [])
  add('at the end', 'pop-up', page(`<p>Words</p>${codes['pop-up']}`), [])
  for (const [name, wrap] of Object.entries<(code: string) => string>({
    'in an article': (code) => `<article class="post"><h2>A post</h2>${code}<p>More.</p></article>`,
    'in a sidebar': (code) => `<aside style="width:260px">${code}</aside>`,
    'in a table': (code) => `<table><tr><td>Left</td><td>${code}</td></tr></table>`,
    'in a list': (code) => `<ul><li>${code}</li><li>Other</li></ul>`,
    'in a flex row': (code) => `<div style="display:flex;gap:1em"><p>Left</p><div style="flex:1">${code}</div></div>`,
    'in a closed details': (code) => `<details><summary>Letters</summary>${code}</details>`,
    'in an open details': (code) => `<details open><summary>Letters</summary>${code}</details>`,
    'in a form of the page': (code) => `<form action="/search">${code}</form>`,
    'below a long page': (code) => `<div style="height:3000px">Long</div>${code}`,
    'beside what is hidden': (code) => `<div style="display:none">Not now</div><div hidden>Nor this</div>${code}`,
    'announced to nobody': (code) => `<div aria-hidden="true">${code}</div>`,
    'between comments': (code) => `<!-- begin -->${code}<!-- end -->`,
    'in a box that scrolls': (code) => `<div style="height:120px;overflow:auto">${code}</div>`,
    'centred the old way': (code) => `<center><font color="navy">${code}</font></center>`,
    'with words before it': (code) => `<p>Words before it: ${code}`,
  }))
    around(name, wrap)
  around(
    'under rules that hide others',
    (code) => `<div class="promo">${code}</div>`,
    [],
    inTurn(),
    '<style>.aside, .promo .old { display: none } @media print { .promo { display: none } } .promo:empty { display: none }</style>',
  )

  // Out of sight, or not to be reached.
  const styles: Record<string, string> = {
    'display none': 'display:none',
    'visibility hidden': 'visibility:hidden',
    'opacity zero': 'opacity:0',
    'height zero': 'height:0;overflow:hidden',
    'largest height zero': 'max-height:0;overflow:hidden',
    'width zero': 'width:0;overflow:hidden',
    'clipped by an inset': 'clip-path:inset(50%)',
    'clipped by a circle': 'clip-path:circle(0)',
    'clipped the old way': 'position:absolute;clip:rect(0,0,0,0)',
    'far to the left': 'position:absolute;left:-9999px',
    'far above': 'position:absolute;top:-9999px',
    'moved away': 'transform:translateX(-9999px)',
    'scaled to nothing': 'transform:scale(0)',
    'content hidden': 'content-visibility:hidden',
    'filtered away': 'filter:opacity(0)',
    'takes no presses': 'pointer-events:none',
    'one pixel': 'position:absolute;width:1px;height:1px;overflow:hidden',
    'pushed out by a margin': 'margin-left:-9999px',
  }
  for (const [name, style] of Object.entries(styles))
    around(`hidden: ${name}`, (code) => `<div><section style="${style}">${code}</section></div>`, ['hidden'])
  around(
    'hidden: by a class',
    (code) => `<div class="promo">${code}</div>`,
    ['hidden'],
    inTurn(),
    '<style>.promo { display: none }</style>',
  )
  around(
    'hidden: by a class at a desk',
    (code) => `<div class="promo">${code}</div>`,
    ['hidden'],
    inTurn(),
    '<style>@media (min-width: 600px) { .promo { visibility: hidden } }</style>',
  )
  around('hidden: an attribute', (code) => `<div hidden>${code}</div>`, ['hidden'])
  around('hidden: a dialog', (code) => `<dialog>${code}</dialog>`, ['hidden'])
  around('hidden: inert', (code) => `<div inert>${code}</div>`, ['hidden'])
  around('hidden: a popover', (code) => `<div popover>${code}</div>`, ['hidden'])
  around('hidden: until found', (code) => `<div hidden="until-found">${code}</div>`, ['hidden'])
  around('hidden: in a picture', (code) => `<canvas width="10" height="10">${code}</canvas>`, ['hidden'])
  around('hidden: in a film', (code) => `<video>${code}</video>`, ['hidden'])
  around('in a template', (code) => `<template>${code}</template>`, ['in-template'])
  around('in noscript', (code) => `<noscript>${code}</noscript>`, ['in-noscript'])
  around('in a comment', (code) => `<!-- ${code.replace(/<!--[^]*?-->/g, '')} -->`, ['in-comment'])
  around('in a field for text', (code) => `<textarea rows="4">${code}</textarea>`, ['as-text'])
  around('shown as code', (code) => `<pre>${mangled(code, 'as-text')}</pre>`, ['as-text'])

  // What editors do.
  const does: Mangling[] = [
    'as-text',
    'curly-quotes',
    'paragraphs',
    'no-forms',
    'no-scripts',
    'no-frames',
    'no-style-sheets',
    'no-style-attributes',
    'no-attributes',
    'links-only',
  ]
  for (const one of does)
    for (const code of five)
      add(`editor: ${one}`, code, page(mangled(codes[code], one), code === 'script' ? mangled(line, one) : ''), [
        one,
        ...(code === 'script' ? ['line-missing', 'line-inert'] : []),
        ...(one === 'no-frames' ? ['absent'] : []),
      ])
  for (const code of forms)
    add(
      'editor: breaks within the style sheet',
      code,
      page(codes[code].replace(/\n(?=\.askbox)/g, '<br />\n').replace('<style>', '<style><p>')),
      ['paragraphs'],
    )

  // What hands and builders do to a form.
  const button = /type="submit"/
  changed('button of type button', forms, button, 'type="button"', ['no-button'])
  changed('button of type reset', forms, button, 'type="reset"', ['no-button'])
  changed('button switched off', forms, button, 'type="submit" disabled', ['button-disabled'])
  changed('button taken out', forms, /<button[^]*?<\/button>/, '', ['changed', 'no-button'])
  changed('handler that returns false', forms, '<form ', '<form onsubmit="return false" ', ['submit-stopped'])
  changed('handler that stops', forms, '<form ', '<form onsubmit="event.preventDefault()" ', ['submit-stopped'])
  changed('button whose handler returns false', forms, button, 'type="submit" onclick="return false"', [
    'submit-stopped',
  ])
  changed('handler that only counts', forms, '<form ', '<form onsubmit="window.count = 1" ')
  changed('field that only reads', forms, 'name="email"', 'readonly name="email"', ['field-locked'])
  changed('field switched off', forms, 'name="email"', 'disabled name="email"', ['field-locked'])
  changed('field with room for little', forms, /maxlength="254"/, 'maxlength="10"', ['field-locked'])
  changed('address renamed', forms, 'name="email"', 'name="mail"', ['changed'])
  changed('address taken out', forms, /<input[^>]*name="email"[^>]*>/, '', ['changed'])
  changed('address hidden', forms, 'type="email"', 'type="hidden"', ['changed', 'field-locked', 'hidden'])
  changed('method get', forms, / method="post"/, ' method="get"')
  changed('words changed', forms, '>Sign up<', '>Yes please<')
  changed('colours changed', ['plain'], /(--askbox-button:)[^;}]+/, '--askbox-button:#703')
  for (const code of forms) {
    const html = codes[code]
    add('form tags taken out', code, page(html.replace(/<form[^>]*>/, '').replace('</form>', '')), ['form-lost'])
    add('form tags made boxes', code, page(html.replace(/<form/, '<div').replace('</form>', '</div>')), ['form-lost'])
    add('in fields switched off together', code, page(`<fieldset disabled>${html}</fieldset>`), [
      'button-disabled',
      'field-locked',
    ])
    add(
      'in a form with a required field',
      code,
      page(`<form action="/search"><p><label>Code <input name="code" required></label></p>${html}</form>`),
      ['foreign-required'],
    )
    add(
      'answer into a hidden frame',
      code,
      page(`${html.replace('<form ', '<form target="quiet" ')}<iframe name="quiet" style="display:none"></iframe>`),
      ['answer-unseen'],
    )
    add('sent to another address', code, page(html.replaceAll(`${receiver}/join/`, 'https://old.example/join/')), [
      'other-receiver',
      'changed',
    ])
    add('code of nobody', code, page(html.replaceAll(spot.id, 'gonespot')), ['absent', 'changed', 'other-spot'])
    add(
      'trap shown',
      code,
      page(`<div id="in">${html}</div>`, '<style>#in#in#in .askbox-more{display:block!important}</style>'),
      ['trap-visible'],
    )
    add('form ends too early', code, page(html.replace('<div class="askbox-row', '</form><div class="askbox-row')), [
      'form-lost',
      'changed',
    ])
    add(
      'policy of the page',
      code,
      page(html, `<meta http-equiv="Content-Security-Policy" content="form-action 'self'">`),
      ['policy'],
    )
    add('not there', code, page('<p>Words</p>'), ['absent'])
  }

  // Frames and links.
  changed('sandboxed', ['frame'], '<iframe ', '<iframe sandbox ', ['sandboxed'])
  changed('sandboxed, with scripts', ['frame'], '<iframe ', '<iframe sandbox="allow-scripts allow-same-origin" ', [
    'sandboxed',
  ])
  changed('sandboxed, with forms', ['frame'], '<iframe ', '<iframe sandbox="allow-forms allow-scripts" ')
  changed('loaded late', ['frame'], '<iframe ', '<iframe loading="lazy" ')
  changed('another page in its place', ['frame'], '<iframe ', '<iframe srcdoc="&lt;p&gt;Words&lt;/p&gt;" ', ['changed'])
  changed('address kept for a script', ['frame'], 'src="', 'data-src="', ['changed', 'absent'])
  changed(
    'without size',
    ['frame'],
    '<iframe ',
    '<iframe width="0" height="0" style="width:0!important;height:0!important;border:0;min-height:0!important" ',
    ['hidden', 'changed'],
  )
  changed('emptied', ['link'], />[^<]+<\/a>/, '></a>', ['link-empty'])
  changed('a handler that returns false', ['link'], '<a ', '<a onclick="return false" ', ['submit-stopped'])
  changed('a new window', ['link'], '<a ', '<a target="_blank" rel="noopener" ')
  changed('address taken out', ['link'], / href="[^"]*"/, '', ['changed', 'absent'])
  changed('address emptied', ['link'], / href="[^"]*"/, ' href="#"', ['changed', 'absent'])
  for (const code of ['frame', 'link', 'script'] as const) {
    add('not there', code, page('<p>Words</p>', headOf(code)), ['absent'])
    add('code of nobody', code, page(codes[code].replaceAll(spot.id, 'gonespot'), headOf(code)), [
      'absent',
      'changed',
      'other-spot',
    ])
  }
  add(
    'policy of the page',
    'frame',
    page(codes.frame, `<meta http-equiv="Content-Security-Policy" content="frame-src 'self'">`),
    ['policy'],
  )

  // The line of scripts.
  const lines: [name: string, line: (line: string) => string, causes: readonly string[]][] = [
    ['line missing', () => '', ['line-missing']],
    [
      'line waits for consent',
      (html) => html.replace('<script', '<script type="text/plain" data-category="marketing"'),
      ['line-inert'],
    ],
    [
      'line kept back by an optimizer',
      (html) => html.replace('<script', '<script type="text/lazyscript"'),
      ['line-inert'],
    ],
    ['line as a module', (html) => html.replace('<script', '<script type="module"'), ['line-inert']],
    ['line for old browsers', (html) => html.replace('<script', '<script nomodule'), ['line-inert']],
    [
      'line held against a copy',
      (html) => html.replace('<script', `<script integrity="sha256-${'A'.repeat(43)}=" crossorigin="anonymous"`),
      ['line-inert'],
    ],
    ['line in a comment', (html) => `<!-- ${html} -->`, ['line-missing', 'line-inert']],
    ['line in a template', (html) => `<template>${html}</template>`, ['line-inert', 'line-missing']],
    ['line in noscript', (html) => `<noscript>${html}</noscript>`, ['line-inert', 'line-missing']],
    [
      'line with its address kept for later',
      (html) => html.replace(' src=', ' data-src='),
      ['line-missing', 'line-inert'],
    ],
    [
      'line of a page that forbids it',
      (html) => `<meta http-equiv="Content-Security-Policy" content="script-src 'self'">${html}`,
      ['policy'],
    ],
    ['line with a version', (html) => html.replace('askbox.js', 'askbox.js?ver=6.4'), []],
    ['line that waits for the page', (html) => html.replace('async', 'defer'), []],
    ['line twice', (html) => html + html, []],
    ['line without its scheme', (html) => html.replace('src="http:', 'src="'), []],
    [
      'line with a type of its own',
      (html) => html.replace('<script', '<script type="text/javascript" id="forms-js"'),
      [],
    ],
    [
      'line by a script of the page',
      (html) =>
        `<script>(function(d){var s=d.createElement('script');s.async=true;s.src=${JSON.stringify(/src="([^"]*)"/.exec(html)![1])};d.head.appendChild(s)})(document)</script>`,
      [],
    ],
    ['line by what manages tags', () => `<script src="/tags.js"></script>`, []],
    ['line missing beside a counter', () => `<script src="/counter.js"></script>`, ['line-unseen', 'line-missing']],
  ]
  for (const [name, change, causes] of lines) {
    add(name, 'script', page(codes.script, change(line)), causes)
    if (!/missing|manages|by a script/.test(name))
      add(
        name,
        'pop-up',
        page('<p>Words</p>', change(codes['pop-up'])),
        causes.includes('line-missing')
          ? [...causes, 'absent', 'changed', 'in-comment', 'in-template', 'in-noscript']
          : causes,
      )
  }

  // Programs of the registry: minifiers and formatters of whole pages.
  const minifiers: Record<string, Options> = {
    'white space': { collapseWhitespace: true },
    'white space, wholly': { collapseWhitespace: true, removeComments: true, collapseInlineTagWhitespace: true },
    quotes: { removeAttributeQuotes: true, collapseWhitespace: true },
    'redundant attributes': {
      removeRedundantAttributes: true,
      removeScriptTypeAttributes: true,
      removeStyleLinkTypeAttributes: true,
    },
    'short booleans': { collapseBooleanAttributes: true, removeEmptyAttributes: true },
    'optional tags': { removeOptionalTags: true, useShortDoctype: true },
    'sorted names': { sortAttributes: true, sortClassName: true },
    'style sheets': { minifyCSS: true },
    everything: {
      collapseWhitespace: true,
      removeComments: true,
      removeAttributeQuotes: true,
      removeRedundantAttributes: true,
      removeEmptyAttributes: true,
      collapseBooleanAttributes: true,
      removeOptionalTags: true,
      sortAttributes: true,
      sortClassName: true,
      minifyCSS: true,
      minifyJS: true,
      useShortDoctype: true,
    },
  }
  for (const code of five) {
    const whole = page(codes[code], headOf(code))
    for (const [name, options] of Object.entries(minifiers))
      add(`minified: ${name}`, code, await minify(whole, options), [], true)
    add('written anew by a parser', code, serialize(parse(whole)), [], true)
    add('beautified', code, beautify.html(whole, { indent_size: 2 }), [], true)
    add(
      'beautified, attribute by attribute',
      code,
      beautify.html(whole, { wrap_attributes: 'force-expand-multiline', indent_inner_html: true }),
      [],
      true,
    )
    add('styles moved into tags', code, juice(whole, { preserveMediaQueries: true }), [], true)
    add('styles moved into tags, sheets kept', code, juice(whole, { removeStyleTags: false }), [], true)
  }

  // Sanitizers of what is pasted.
  const everyTag = [
    ...sanitizeHtml.defaults.allowedTags,
    ...['form', 'input', 'button', 'label', 'select', 'option', 'textarea', 'fieldset', 'iframe', 'canvas'],
  ]
  const sanitizers: Record<string, (html: string) => string> = {
    'with its defaults': (html) => sanitizeHtml(html),
    'with fields, without forms': (html) =>
      sanitizeHtml(html, { allowedTags: everyTag.filter((tag) => tag !== 'form'), allowedAttributes: false }),
    'with forms, few attributes': (html) =>
      sanitizeHtml(html, {
        allowedTags: everyTag,
        allowedAttributes: {
          form: ['action', 'method', 'class'],
          input: ['name', 'type', 'value', 'class', 'id'],
          button: ['type', 'class'],
          a: ['href', 'class', 'style'],
          iframe: ['src', 'width', 'height'],
          '*': ['class'],
        },
      }),
    'with forms, all attributes': (html) => sanitizeHtml(html, { allowedTags: everyTag, allowedAttributes: false }),
    'with style sheets and all attributes': (html) =>
      sanitizeHtml(html, {
        allowedTags: [...everyTag, 'style'],
        allowedAttributes: false,
        allowVulnerableTags: true,
      }),
    'that shows what it refuses': (html) => sanitizeHtml(html, { disallowedTagsMode: 'escape' }),
  }
  const lists = xss.getDefaultWhiteList()
  const filters: Record<string, IFilterXSSOptions> = {
    'with its defaults': {},
    'that takes out what it refuses': { stripIgnoreTag: true, stripIgnoreTagBody: ['script', 'style'] },
    'with fields, without forms': {
      whiteList: { ...lists, input: ['name', 'type', 'value', 'class'], button: ['type', 'class'], label: ['class'] },
      stripIgnoreTag: true,
    },
    'with forms': {
      whiteList: {
        ...lists,
        form: ['action', 'method', 'class'],
        input: ['name', 'type', 'value', 'class', 'required', 'maxlength'],
        button: ['type', 'class'],
        label: ['class'],
        iframe: ['src', 'width', 'height', 'title'],
        div: ['class', 'style'],
        style: [],
      },
      stripIgnoreTag: true,
      css: false,
    },
  }
  const afterwards: readonly string[] = [
    'as-text',
    'no-forms',
    'no-frames',
    'no-scripts',
    'no-style-sheets',
    'links-only',
    'no-attributes',
    'form-lost',
    'changed',
    'absent',
    'no-button',
    'trap-visible',
    'field-locked',
    'hidden',
    'line-missing',
    'link-empty',
    'in-noscript',
    'curly-quotes',
    'paragraphs',
  ]
  const everything = { ...lists, ...Object.fromEntries(everyTag.map((tag) => [tag, []])), style: [] }
  const tags = ['form', 'input', 'button', 'label', 'style', 'iframe', 'a', 'div', 'span', 'p']
  const attributes = ['action', 'method', 'name', 'type', 'class', 'style', 'formaction', 'hidden', 'href', 'src', 'id']
  /** A program does what it is told to one of the codes, where that changes anything. */
  const program = (name: string, code: Code, by: (html: string) => string) => {
    const html = by(codes[code])
    add(name, code, page(html, headOf(code)), afterwards, true)
  }
  for (const code of five) {
    for (const tag of tags.filter((one) => codes[code].includes(`<${one}`)))
      for (const mode of ['discard', 'escape'] as const)
        program(`sanitized without <${tag}>, ${mode}`, code, (html) =>
          sanitizeHtml(html, {
            allowedTags: [...everyTag, 'style', 'p', 'span', 'div', 'a'].filter((one) => one !== tag),
            allowedAttributes: false,
            allowVulnerableTags: true,
            disallowedTagsMode: mode,
          }),
        )
    for (const name of attributes.filter((one) => codes[code].includes(` ${one}=`) || codes[code].includes(` ${one} `)))
      program(`sanitized without ${name}`, code, (html) =>
        sanitizeHtml(html, {
          allowedTags: [...everyTag, 'style'],
          allowedAttributes: false,
          allowVulnerableTags: true,
          transformTags: {
            '*': (tagName, attribs) => ({
              tagName,
              attribs: Object.fromEntries(Object.entries(attribs).filter(([one]) => one !== name)),
            }),
          },
        }),
      )
    for (const [name, options] of Object.entries<MarkdownOptions>({
      'that takes HTML': { html: true },
      'that takes HTML and breaks lines': { html: true, breaks: true },
      'that takes no HTML': { html: false },
      'that takes no HTML and sets quotes': { html: false, typographer: true },
    }))
      program(`as Markdown ${name}`, code, (html) => new MarkdownIt(options).render(html))
    for (const tag of ['form', 'input', 'button', 'iframe', 'a', 'div', 'style'])
      if (codes[code].includes(`<${tag}`))
        program(`filtered without <${tag}>`, code, (html) =>
          new xss.FilterXSS({
            whiteList: Object.fromEntries(Object.entries({ ...everything }).filter(([name]) => name !== tag)),
            stripIgnoreTag: true,
            css: false,
            onTagAttr: (_tag, name, value) => `${name}="${value}"`,
          }).process(html),
        )
    program('sanitized to words', code, (html) => sanitizeHtml(html, { allowedTags: [], allowedAttributes: {} }))
    program('sanitized to words and links', code, (html) =>
      sanitizeHtml(html, { allowedTags: ['a', 'p', 'br', 'b', 'i'], allowedAttributes: { a: ['href'] } }),
    )
    program('filtered to words', code, (html) =>
      new xss.FilterXSS({ whiteList: {}, stripIgnoreTag: true }).process(html),
    )
    program('filtered, and all of it shown', code, (html) => new xss.FilterXSS({ whiteList: {} }).process(html))
    program('as Markdown, set in', code, (html) => new MarkdownIt({ html: true }).render(html.replace(/^/gm, '    ')))
    program('through Markdown and back, with links named', code, (html) =>
      new MarkdownIt({ linkify: true }).render(
        new TurndownService({ linkStyle: 'referenced', headingStyle: 'atx' }).turndown(html),
      ),
    )
    program('through Markdown and back', code, (html) => new MarkdownIt().render(new TurndownService().turndown(html)))
    program('through Markdown, with its tags kept', code, (html) =>
      new MarkdownIt({ html: true }).render(
        new TurndownService().keep(['form', 'input', 'button', 'label', 'iframe']).turndown(html),
      ),
    )
  }
  for (const code of five) {
    for (const [name, clean] of Object.entries(sanitizers))
      add(`sanitized ${name}`, code, page(clean(codes[code]), headOf(code)), afterwards, true)
    for (const [name, options] of Object.entries(filters))
      add(
        `filtered ${name}`,
        code,
        page(new xss.FilterXSS(options).process(codes[code]), headOf(code)),
        afterwards,
        true,
      )
    for (const size of [2, 4])
      add(
        `pasted twice through a formatter of ${size}`,
        code,
        page(beautify.html(beautify.html(codes[code], { indent_size: size }), { indent_size: 8 }), headOf(code)),
        [],
        true,
      )
  }
  return cases
}

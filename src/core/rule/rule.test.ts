import fc from 'fast-check'
import { parsePage } from '#core/submission'
import { parsedTree } from '#core/usable'
import {
  appliesTo,
  isForVisitor,
  isStableName,
  placesOf,
  type PublishedRule,
  type Rule,
  ruleSchema,
  ruleWords,
  selectorProblem,
  startRule,
} from '.'

const treeOf = (html: string) => parsedTree(parsePage(html))
const rule = (changes: Partial<Rule> = {}): PublishedRule => ({
  ...startRule,
  spot: 'someplace',
  under: '/',
  ...changes,
})
const long = (words: string) => `${words} `.repeat(12).trim()

test.each([
  ['main > p', null],
  ['article:not(.teaser) .entry-content', null],
  ['ul li:nth-child(2n+1)', null],
  ['[role="main"]', null],
  ['html[lang|=de] body.single', null],
  ['', 'Name a part'],
  ['p >', 'ends with the part|no CSS selector'],
  ['p::before', 'no part of a page'],
  ['p:hover', 'cannot be used'],
  ['p:contains(x)', 'cannot be used'],
  ['a:first', 'cannot be used'],
  ['[href!=x]', 'is no CSS'],
  ['p:not(:visible)', 'cannot be used'],
  ['<script>', 'ends with the part|no CSS selector'],
  [Array.from({ length: 40 }, () => 'p').join(' '), 'more than 30 parts'],
])('a selector %s: %s', (selector, problem) => {
  if (problem === null) expect(selectorProblem(selector)).toBeNull()
  else expect(selectorProblem(selector)).toMatch(new RegExp(problem))
})

test('no text breaks the check of a selector, and what passes it is one for a rule too', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 60 }), (text) => {
      const place = { kind: 'selector', at: 'after', selector: text } as const
      const isTaken = ruleSchema.safeParse({ ...startRule, place }).success
      expect(isTaken).toBe(selectorProblem(text) === null)
    }),
  )
})

test.each([
  ['entry-content', true],
  ['site-footer', true],
  ['primary', true],
  ['post', true],
  ['css-1q2w3e', false],
  ['sc-bdnxRM', false],
  ['Header_wrap__x7fK2', false],
  ['post-1234', false],
  ['widget_text-3', false],
  ['is-active', false],
  ['mt-4', false],
  ['md:flex', false],
  ['js-loaded', false],
  ['a1b2c3', false],
])('a class or id %s is stable: %s', (name, isStable) => {
  expect([name, isStableName(name)]).toEqual([name, isStable])
})

const post = `<header><nav><p>${long('Somewhere else.')}</p></nav></header><main><article><p class="date">14 November</p><h1>Frost</h1><p id="one">${long('First of all.')}</p><h2 id="h">What we saw</h2><p id="two">${long('Then this.')}</p><ul id="list"><li>a</li></ul><p class="tags"><a href="/t">frost</a></p></article><div id="comments"><p>${long('A thought.')}</p><p>${long('A thought.')}</p><p>${long('A thought.')}</p></div></main><aside><p>${long('Beside.')}</p></aside><footer id="foot"><p>Foot</p></footer>`
const listing = `<main><h1>Posts</h1>${['a', 'b', 'c'].map((id) => `<article id="${id}"><h2><a href="/${id}">${id}</a></h2><p>${long('Words.')}</p></article>`).join('')}</main><footer id="foot"></footer>`

test.each<[string, Partial<Rule>, string, string[]]>([
  ['the first paragraph', { place: { kind: 'text', of: 'paragraph', number: 1 } }, post, ['one']],
  ['each paragraph', { place: { kind: 'text', of: 'paragraph', number: 1 }, times: 'each' }, post, ['one', 'two']],
  ['a paragraph that is not there', { place: { kind: 'text', of: 'paragraph', number: 3 } }, post, []],
  ['a heading', { place: { kind: 'text', of: 'heading', number: 1 } }, post, ['h']],
  ['the end of a post', { place: { kind: 'post-end' } }, post, ['list']],
  ['no end of a post on a list', { place: { kind: 'post-end' } }, listing, []],
  ['the second entry', { place: { kind: 'entry', number: 2 } }, listing, ['b']],
  ['each entry', { place: { kind: 'entry', number: 1 }, times: 'each' }, listing, ['a', 'b', 'c']],
  ['no entry on a post', { place: { kind: 'entry', number: 1 } }, post, []],
  ['the foot', { place: { kind: 'foot', at: 'above' } }, post, ['foot']],
  [
    'a selector',
    { place: { kind: 'selector', at: 'before', selector: 'article p' }, times: 'each' },
    post,
    ['', 'one', 'two', ''],
  ],
  ['nothing in a head', { place: { kind: 'selector', at: 'after', selector: 'title' } }, `<title>x</title>${post}`, []],
])('%s', (_, changes, html, ids) => {
  const places = placesOf(treeOf(html), rule(changes))
  expect(places.map(({ beside }) => beside.attrs.find(({ name }) => name === 'id')?.value ?? '')).toEqual(ids)
})

test('of a selector that means 100,000 places, few are used, and none of pages without any text', () => {
  const many = treeOf('<b></b>'.repeat(100_000))
  const each = rule({ place: { kind: 'selector', at: 'after', selector: 'b' }, times: 'each' })
  expect(placesOf(many, each)).toHaveLength(20)
  for (const place of [{ kind: 'text', of: 'paragraph', number: 1 }, { kind: 'post-end' }] as const)
    expect(placesOf(treeOf(''), rule({ place }))).toEqual([])
  // A page without a foot has its end.
  expect(placesOf(treeOf('<p>x</p>'), rule({ place: { kind: 'foot', at: 'above' } }))).toMatchObject([{ at: 'inside' }])
})

test.each<[string, Partial<PublishedRule>, string, string, boolean]>([
  ['all pages', {}, '/posts/frost', '', true],
  ['only some', { pages: { which: 'only', patterns: ['/posts/*'] } }, '/about', '', false],
  ['not some', { pages: { which: 'but', patterns: ['/about'] } }, '/about', '', false],
  ['another site of the host', { under: '/blog/' }, '/shop/', '', false],
  ['the site’s own address', { under: '/blog/' }, '/blog', '', true],
  ['a site below it', { apart: ['/blog/'] }, '/blog/frost', '', false],
  ['a mark that is there', { marks: { has: ['body.single'], lacks: [] } }, '/', '<body class="single">', true],
  ['a mark that is missing', { marks: { has: ['body.single'], lacks: [] } }, '/', '<body>', false],
  ['a language', { marks: { has: ['html[lang|=de]'], lacks: [] } }, '/', '<html lang="de-AT">', true],
  ['a mark that must not be', { marks: { has: [], lacks: ['.shop'] } }, '/', '<i class="shop">', false],
])('%s: a rule means the page or not', (_, changes, path, html, isMeant) => {
  expect(appliesTo({ ...rule(), ...changes }, path, treeOf(html))).toBe(isMeant)
})

const visit = { address: 'https://hill.example/a', referrer: '', campaign: '', hasJoined: false }
test.each<[string, Partial<Rule['who']>, Partial<typeof visit>, boolean]>([
  ['everybody', {}, {}, true],
  ['a member', { members: 'body.logged-in' }, {}, false],
  ['who joined', { joined: 'not-asked' }, { hasJoined: true }, false],
  ['who joined, asked again', { joined: 'asked' }, { hasJoined: true }, true],
  ['by a campaign', { campaigns: ['Autumn'] }, { campaign: 'poster, autumn-letter' }, true],
  ['by none', { campaigns: ['autumn'] }, {}, false],
  ['from the site', { from: 'own' }, { referrer: 'https://www.hill.example/b' }, true],
  ['from nowhere, where the site is wished', { from: 'own' }, {}, false],
  ['from elsewhere', { from: 'elsewhere' }, { referrer: 'https://search.example/' }, true],
  ['from the site, where elsewhere is wished', { from: 'elsewhere' }, { referrer: 'https://hill.example/b' }, false],
])('%s: asked or not', (_, who, of, isAsked) => {
  const tree = treeOf('<body class="logged-in">')
  expect(isForVisitor(rule({ who: { ...startRule.who, ...who } }), { ...visit, ...of }, tree)).toBe(isAsked)
})

test('a rule is one sentence', () => {
  expect(ruleWords(startRule)).toBe('At the end of each post, on all pages, not for who has joined.')
  const place = { kind: 'entry', number: 2 } as const
  expect(ruleWords({ ...startRule, place, pages: { which: 'only', patterns: ['/posts'] } })).toBe(
    'After the second entry of a page of many, on /posts, not for who has joined.',
  )
})

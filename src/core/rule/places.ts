import type { Rule } from './rule'
import type { Tree } from './tree'

/*
 * Where on a page a rule means: by a selector, or by what sites have in common. The latter is common practice of how pages
 * are built and read by programs; no published source has all of it. The visitors' script uses these functions, so they need
 * nothing else of core's.
 */

export interface FoundPlace<E> {
  beside: E
  at: 'before' | 'after' | 'inside'
}

/** A selector that means more places than this on one page is not what somebody wants. */
export const MOST_PLACES = 20
/** No page that people read has more; the rest is not looked at. */
const MOST_ELEMENTS = 50_000

/**
 * The places of a rule on a page, in tree order: the first, or each. Empty where there is none.
 *
 * @param most how many at most where each is wanted
 */
export function placesOf<E>(
  tree: Tree<E>,
  { place, times }: Pick<Rule, 'place' | 'times'>,
  most = MOST_PLACES,
): FoundPlace<E>[] {
  const wanted = times === 'each' ? most : 1
  const beside = (elements: readonly E[], at: FoundPlace<E>['at'] = 'after') =>
    elements.slice(0, wanted).map((one): FoundPlace<E> => ({ beside: one, at }))
  switch (place.kind) {
    case 'selector':
      return beside(selected(tree, place.selector), place.at)
    case 'text': {
      const text = textOfPage(tree)
      const parts = text === null ? [] : place.of === 'paragraph' ? text.paragraphs : text.headings
      return beside(times === 'each' ? parts : parts.slice(place.number - 1))
    }
    case 'entry': {
      const entries = entriesOf(tree)
      return beside(times === 'each' ? entries : entries.slice(place.number - 1))
    }
    case 'post-end': {
      const text = entriesOf(tree).length > 0 ? null : textOfPage(tree)
      return text === null ? [] : beside([text.end])
    }
    case 'foot': {
      const foot = footOf(tree)
      return foot === null ? beside([tree.body], 'inside') : beside([foot], place.at === 'above' ? 'before' : 'after')
    }
    case 'edge':
      return beside([tree.body], 'inside')
  }
}

function selected<E>(tree: Tree<E>, selector: string): E[] {
  try {
    // A head, and what is not drawn, has no place for a form.
    return tree.select(selector).filter((one) => isWithin(tree, one, tree.body))
  } catch {
    return []
  }
}

function isWithin<E>(tree: Tree<E>, element: E, around: E): boolean {
  for (let at: E | null = element; at !== null; at = tree.parent(at)) if (at === around) return true
  return false
}

/** What stands beside the text of a page: navigation, side columns, comments, shares. */
const BESIDE_TAGS = new Set([
  'nav',
  'aside',
  'footer',
  'dialog',
  'template',
  'noscript',
  'script',
  'style',
  'svg',
  'iframe',
])
const BESIDE_ROLES = new Set(['navigation', 'complementary', 'contentinfo', 'search', 'dialog', 'banner', 'menu'])
const BESIDE_NAMES =
  /^(?:[a-z]+[-_])*(?:side-?bar|comments?|respond|related|recommended|sharing|share|social|breadcrumbs?|pagination|pager|nav|navigation|menu|toc|cookies?|consent|footer|masthead|author-?box|newsletter|subscribe|advert|ads?|pop-?up|modal|widget-area)(?:[-_](?:wrap|wrapper|area|list|section|container|inner|box|block|links|buttons|posts))?$/i
/** Lines about a text rather than of it. */
const ABOUT_NAMES =
  /(?:^|[-_])(?:date|time|meta|byline|author|posted|published|categor(?:y|ies)|tags?|kicker|eyebrow|breadcrumbs?|reading-?time|caption|credit|excerpt-more|read-?more)(?:$|[-_])/i
/** Paragraphs within these belong to them. */
const WHOLES = new Set(['li', 'blockquote', 'figure', 'figcaption', 'dd', 'dt', 'details', 'button', 'a', 'label'])

function namesOf<E>(tree: Tree<E>, element: E): string[] {
  return `${tree.attribute(element, 'class') ?? ''} ${tree.attribute(element, 'id') ?? ''}`.split(/\s+/).filter(Boolean)
}

/** Elements of which one is the page's title or its main part, and all that stands around one. */
function aroundMain<E>(tree: Tree<E>): Set<E> {
  const around = new Set<E>()
  for (const one of selected(tree, 'main,h1,[role=main]'))
    for (let at: E | null = one; at !== null && !around.has(at); at = tree.parent(at)) around.add(at)
  return around
}

function isBeside<E>(tree: Tree<E>, element: E, around: ReadonlySet<E>): boolean {
  const tag = tree.tag(element)
  if (BESIDE_TAGS.has(tag)) return true
  if (tree.attribute(element, 'hidden') !== null || tree.attribute(element, 'aria-hidden') === 'true') return true
  if (around.has(element)) return false
  if (tag === 'form' || tag === 'header') return true
  if (BESIDE_ROLES.has(tree.attribute(element, 'role') ?? '')) return true
  return namesOf(tree, element).some((name) => BESIDE_NAMES.test(name))
}

interface TextOfPage<E> {
  paragraphs: E[]
  headings: E[]
  /** After which the text ends. */
  end: E
}

interface Walked<E> {
  paragraphs: E[]
  headings: E[]
  title: E | null
  order: Map<E, number>
}

/** What could be read in a page's body, without what stands beside it. */
function walk<E>(tree: Tree<E>, around: ReadonlySet<E>): Walked<E> {
  const found: Walked<E> = { paragraphs: [], headings: [], title: null, order: new Map() }
  const visit = (element: E, isInWhole: boolean) => {
    if (found.order.size >= MOST_ELEMENTS || isBeside(tree, element, around)) return
    found.order.set(element, found.order.size)
    const tag = tree.tag(element)
    if (tag === 'h1') found.title ??= element
    if (/^h[2-4]$/.test(tag) && !isInWhole) found.headings.push(element)
    const own = tag === 'p' ? 1 : tree.ownText(element).trim().length
    const isText = tag === 'p' || (/^(?:div|section|td|article|main)$/.test(tag) && own >= 80)
    if (isText && !isInWhole && tree.text(element).trim() !== '') found.paragraphs.push(element)
    if (tag === 'p') return
    for (const child of tree.children(element)) visit(child, isInWhole || WHOLES.has(tag))
  }
  for (const child of tree.children(tree.body)) visit(child, false)
  return found
}

/** How much of a text counts for what stands around its parent, step by step. */
const DECAY = 0.75
const STEPS = 5

/** The text of a page: the element with most of its paragraphs, and these. */
function textOfPage<E>(tree: Tree<E>): TextOfPage<E> | null {
  const around = aroundMain(tree)
  const { paragraphs, headings, title, order } = walk(tree, around)
  const scores = new Map<E, number>()
  for (const one of paragraphs) {
    let weight = tree.text(one).trim().length
    for (let at = tree.parent(one), step = 0; at !== null && step < STEPS; at = tree.parent(at), step++) {
      scores.set(at, (scores.get(at) ?? 0) + weight)
      weight *= DECAY
    }
  }
  const [container] = [...scores].sort(([, one], [, other]) => other - one)[0] ?? []
  if (container === undefined) return null
  const within = paragraphs.filter((one) => isWithin(tree, one, container))
  const titleAt = title === null || !isWithin(tree, title, container) ? -1 : order.get(title)!
  const below = (all: readonly E[]) => {
    const after = all.filter((one) => order.get(one)! > titleAt)
    return after.length > 0 ? after : [...all]
  }
  const read = below(within)
  const own = read.filter((one) => !isAbout(tree, one, container))
  const headingsWithin = below(headings.filter((one) => isWithin(tree, one, container)))
  return {
    paragraphs: own.length > 0 ? own : read,
    headings: headingsWithin,
    end: endOf(tree, container, (own.length > 0 ? own : within).at(-1)!, around),
  }
}

/** A date, a name, tags: shorter than a sentence, or called so. */
function isAbout<E>(tree: Tree<E>, element: E, container: E): boolean {
  const text = tree.text(element).trim()
  if (text.length < 40 && !/[.!?…:]["”’»)]?$/.test(text)) return true
  const linked = tree.children(element).filter((one) => tree.tag(one) === 'a')
  if (
    linked.length > 0 &&
    linked
      .map((one) => tree.text(one))
      .join('')
      .trim().length >=
      text.length - 2
  )
    return true
  for (let at: E | null = element; at !== null && at !== container; at = tree.parent(at))
    if (namesOf(tree, at).some((name) => ABOUT_NAMES.test(name))) return true
  return text.length < 120 && tree.children(element).some((one) => tree.tag(one) === 'time')
}

/** The last part of a text below its last paragraph: lists and pictures go with it, shares and tags do not. */
function endOf<E>(tree: Tree<E>, container: E, last: E, around: ReadonlySet<E>): E {
  let child = last
  for (let at = tree.parent(child); at !== null && at !== container; at = tree.parent(child)) child = at
  const siblings = tree.children(container)
  let end = child
  for (const one of siblings.slice(siblings.indexOf(child) + 1)) {
    const isPart = /^(?:p|ul|ol|dl|figure|picture|img|video|table|pre|blockquote|h[2-6])$/.test(tree.tag(one))
    if (!isPart || isBeside(tree, one, around) || namesOf(tree, one).some((name) => ABOUT_NAMES.test(name))) break
    end = one
  }
  return end
}

/**
 * The entries of a page that lists many: elements beside each other, each with a heading that leads somewhere, which
 * together are the better part of the page. Empty on a page with one post.
 */
function entriesOf<E>(tree: Tree<E>): E[] {
  const around = aroundMain(tree)
  const total = sizeOf(tree, tree.body, around)
  let best: { entries: E[]; size: number } = { entries: [], size: 0 }
  let seen = 0
  const visit = (element: E) => {
    if (++seen > MOST_ELEMENTS) return
    const children = tree.children(element).filter((one) => !isBeside(tree, one, around))
    const groups = new Map<string, E[]>()
    for (const one of children) {
      const tag = tree.tag(one)
      if (/^(?:article|section|div|li)$/.test(tag)) groups.set(tag, [...(groups.get(tag) ?? []), one])
    }
    for (const group of groups.values()) {
      const entries = group.length < 2 ? [] : group.filter((one) => isEntry(tree, one))
      const size = entries.reduce((sum, one) => sum + tree.text(one).length, 0)
      // Of two groups, one within the other, the outer is larger; entries are the inner where they are nearly as large.
      if (entries.length >= 2 && entries.length >= group.length / 2 && size >= best.size * 0.8) best = { entries, size }
    }
    for (const child of children) visit(child)
  }
  visit(tree.body)
  return best.size >= total * 0.4 ? best.entries : []
}

function sizeOf<E>(tree: Tree<E>, element: E, around: ReadonlySet<E>): number {
  return tree
    .children(element)
    .filter((one) => !isBeside(tree, one, around))
    .reduce((sum, one) => sum + (around.has(one) ? sizeOf(tree, one, around) : tree.text(one).trim().length), 0)
}

const HEADING = /^h[1-6]$/

/** One heading that leads somewhere: as a link, within one, or beside “read on”. */
function isEntry<E>(tree: Tree<E>, element: E): boolean {
  let headings = 0
  let leads = tree.tag(element) === 'article'
  const visit = (one: E, isInLink: boolean) => {
    const tag = tree.tag(one)
    const isLink = isInLink || tag === 'a'
    if (HEADING.test(tag)) {
      headings++
      leads ||= isLink || tree.children(one).some((child) => tree.tag(child) === 'a')
    }
    for (const child of tree.children(one)) visit(child, isLink)
  }
  visit(element, false)
  return headings >= 1 && headings <= 2 && leads
}

const FOOT_NAMES =
  /^(?:(?:site|page|main|global)[-_]?)?(?:footer|foot|colophon)(?:[-_](?:wrap|wrapper|area|container|outer))?$/i

/** The foot of a page: what says so, the last of several; null where nothing does. */
function footOf<E>(tree: Tree<E>): E | null {
  const isOfPage = (element: E) => {
    for (let at = tree.parent(element); at !== null; at = tree.parent(at))
      if (/^(?:article|section|main|aside|blockquote|li|figure|dialog)$/.test(tree.tag(at))) return false
    return true
  }
  const said = selected(tree, 'footer,[role=contentinfo]').filter(isOfPage)
  const named =
    said.length > 0
      ? []
      : selected(tree, 'div[id],div[class],section[id],section[class],table[id]').filter(
          (one) => isOfPage(one) && namesOf(tree, one).some((name) => FOOT_NAMES.test(name)),
        )
  const all = [...said, ...named]
  if (all.length === 0) return null
  // What holds nothing but the foot is the foot; of several inside each other, the outermost.
  let foot: E = all[all.length - 1] as E
  for (let at = tree.parent(foot); at !== null && at !== tree.body; at = tree.parent(at)) {
    const isFoot = tree.tag(at) === 'footer' || namesOf(tree, at).some((name) => FOOT_NAMES.test(name))
    if (isFoot || tree.children(at).length === 1) foot = at
    else break
  }
  return foot
}

import { appliesTo, isForVisitor } from '../core/rule/applies'
import { type FoundPlace, MOST_PLACES, placesOf } from '../core/rule/places'
import { cameFrom } from '../core/signup/came-from'
import { domTree } from '../core/rule/dom-tree'
import type { PublishedRule } from '#core/rule'
import type { FormElement } from './form-element'
import { stored } from './joined'
import { load } from './load'
import { element } from './nodes'
import type { PublishedForm } from './published'

/*
 * Fetched by the visitors' script where a host has rules: puts forms where these say. It moves nothing that is seen: a form
 * comes where its place is out of sight, or before the page was painted.
 */

/** A page that changes is looked at so often. */
const LOOK_MS = 500
const MOST_LOOK_MS = 16_000
const DAY_MS = 86_400_000
/** Whoever closed a form at the lower edge is left in peace so long. */
const CLOSED_DAYS = 30

interface PlacedHere {
  rule: PublishedRule
  place: FoundPlace<Element>
  /** What stands in the page; null while it waits for a moment that moves nothing. */
  outer: HTMLElement | null
  /** Whether the page has changed so that it has no place any more. */
  isGone: boolean
}

/** What we put into the page is no part of it: no rule means it. */
const ours = new WeakSet<Element>()
/** Selectors that ask for neighbours or positions mean others once something of ours stands between. */
const POSITIONS = /[+~]|:(?:nth|first|last|only)/

/** @param isPainted whether somebody may have seen the page */
export function placeForms(rules: readonly PublishedRule[], base: string, isPainted: () => boolean): void {
  let placed: PlacedHere[] = []
  /** @returns whether anything was put or taken away */
  function look(): boolean {
    const before = placed.length
    let isNew = false
    const tree = domTree<Element>(document, (one) => one.localName === 'askbox-form' || ours.has(one))
    placed = placed.filter((one) => {
      const isHere = one.place.beside.isConnected && appliesTo(one.rule, location.pathname, tree)
      one.isGone = !isHere
      if (!isHere) one.outer?.remove()
      else if (one.outer !== null && !one.outer.isConnected) insert(one.place, one.outer)
      return isHere
    })
    for (const rule of rules) {
      const { spot, times, place: wanted } = rule
      const here = placed.filter((one) => one.rule === rule)
      const isSettled = times === 'once' || (wanted.kind === 'selector' && POSITIONS.test(wanted.selector))
      if (here.length > 0 && (isSettled || here.length >= MOST_PLACES)) continue
      if (!appliesTo(rule, location.pathname, tree) || isPasted(base, spot)) continue
      const [address, referrer] = [location.href, document.referrer]
      const { campaign } = cameFrom(address, referrer)
      const visit = { address, referrer, campaign, hasJoined: stored(spot) === 'joined' }
      if (!isShownAnyway() && !isForVisitor(rule, visit, tree)) continue
      for (const place of placesOf(tree, rule)) {
        if (here.some((one) => one.place.beside === place.beside)) continue
        const one: PlacedHere = { rule, place, outer: null, isGone: false }
        placed.push(one)
        isNew = true
        void fill(base, one, () => isShownAnyway() || !isPainted())
      }
    }
    return isNew || placed.length !== before
  }

  let isDue = false
  let wait = LOOK_MS
  const changes = new MutationObserver(() => {
    if (!isDue)
      setTimeout(() => {
        isDue = false
        // A page that goes on changing where no form has its place is looked at ever less often.
        wait = look() ? LOOK_MS : Math.min(wait * 2, MOST_LOOK_MS)
      }, wait)
    isDue = true
  })
  const begin = () => {
    look()
    changes.observe(document, { childList: true, subtree: true })
  }
  if (document.readyState === 'loading') addEventListener('DOMContentLoaded', begin)
  else begin()
  addEventListener('load', () => look())
}

/** A rehearsal, and its owner, are shown it where it should stand, at once and whoever it is for. */
const isShownAnyway = () => /^#askbox-(?:r|again)/.test(location.hash)

/** Code of the spot that its owner pasted on the page goes before the rule. */
function isPasted(base: string, spot: string): boolean {
  return document.querySelector(`a[href$="page/${spot}#askbox"],form[action="${base}join/${spot}"]`) !== null
}

async function fill(base: string, one: PlacedHere, isAtOnce: () => boolean): Promise<void> {
  const { rule, place } = one
  const published = await load(base, rule.spot)
  if (published?.state !== 'live') return
  if (rule.place.kind === 'edge') return atEdge(published, one, isShownAnyway())
  if (!isAtOnce()) await outOfSight(place)
  if (!place.beside.isConnected || one.isGone || one.outer !== null) return
  const host = document.createElement('askbox-form') as FormElement
  const isItem = /^[uo]l$/.test(place.beside.parentElement?.localName ?? '') && place.at !== 'inside'
  const outer = element(isItem ? 'li' : 'div', isItem ? { style: 'list-style:none' } : {}, host)
  ours.add(outer)
  one.outer = outer
  const reference = place.beside.getBoundingClientRect().top < 0 ? seenElement() : null
  const before = reference?.getBoundingClientRect().top ?? 0
  insert(place, outer)
  host.show(published)
  // What is read stays where it is. Browsers that do not see to it themselves (CSS Scroll Anchoring) are helped.
  if (reference !== null && !CSS.supports('overflow-anchor', 'auto'))
    scrollBy({ top: reference.getBoundingClientRect().top - before, behavior: 'instant' })
}

function seenElement(): Element | null {
  return document.elementFromPoint(innerWidth / 2, innerHeight / 2)
}

/** How far a shadow may reach above what throws it, in CSS pixels: it is seen, and moves, before that. */
const SHADOW_PX = 200
const shadowOf = (one: Element) => (getComputedStyle(one).boxShadow === 'none' ? 0 : SHADOW_PX)

/** Whether something of the page that is in sight stands below the place, and would move down. */
function isFollowed({ beside, at }: FoundPlace<Element>): boolean {
  let next: Element | null = at === 'before' ? beside : beside.nextElementSibling
  // From the inside out: what comes after what the place is in.
  for (let around = beside.parentElement; ; around = around.parentElement) {
    for (; next !== null; next = next.nextElementSibling) {
      const { top, height } = next.getBoundingClientRect()
      const isInFlow = height > 0 && !/fixed|absolute/.test(getComputedStyle(next).position)
      if (isInFlow) return top - shadowOf(next) < innerHeight
    }
    if (around === null || around === document.documentElement) return false
    next = around.nextElementSibling
  }
}

/** Resolves when nothing that is seen would move. */
function outOfSight(place: FoundPlace<Element>): Promise<void> {
  return new Promise((resolve) => {
    const end = new AbortController()
    let isDue = false
    const look = () => {
      isDue = false
      const there = settled(place)
      const { beside, at } = there
      const { top, bottom } = beside.getBoundingClientRect()
      const line = at === 'before' ? top : bottom
      if (line > 0 && line < innerHeight + SHADOW_PX && isFollowed(there)) return
      end.abort()
      resolve()
    }
    const soon = () => {
      if (!isDue) requestAnimationFrame(look)
      isDue = true
    }
    for (const type of ['scroll', 'resize'])
      addEventListener(type, soon, { capture: true, passive: true, signal: end.signal })
    look()
  })
}

/** The place as the page's layout allows it: nobody puts a form between two columns, or into a row of links. */
function settled(place: FoundPlace<Element>): FoundPlace<Element> {
  const { at } = place
  let { beside } = place
  while (at !== 'inside' && beside.parentElement !== null && beside.parentElement !== document.documentElement) {
    const parent = beside.parentElement
    const { display, flexDirection, flexWrap, gridTemplateAreas } = getComputedStyle(parent)
    const isRow = display.endsWith('flex') && flexDirection.startsWith('row') && flexWrap === 'nowrap'
    const isInTable = /^table-(?!cell|caption)/.test(display)
    if (isRow || isInTable) beside = parent
    else if (
      display.endsWith('grid') &&
      gridTemplateAreas !== 'none' &&
      getComputedStyle(beside).gridRowStart !== 'auto'
    ) {
      // Each area is taken; what comes before the foot is the end of the main part.
      const main = at === 'before' ? [...parent.children].find((one) => one.matches('main,[role=main]')) : undefined
      return { beside: main ?? beside, at: 'inside' }
    } else break
    if (beside === document.body) return { beside, at: 'inside' }
  }
  return { beside, at }
}

function insert(place: FoundPlace<Element>, outer: HTMLElement): void {
  const { beside, at } = settled(place)
  if (at === 'inside') return beside.append(outer)
  const { display, flexWrap, flexDirection } = getComputedStyle(beside.parentElement!)
  const { gridColumnStart, gridColumnEnd, float } = getComputedStyle(beside)
  if (display.endsWith('grid'))
    outer.style.gridColumn = gridColumnStart === 'auto' ? '1 / -1' : `${gridColumnStart} / ${gridColumnEnd}`
  if (display.endsWith('flex') && flexDirection.startsWith('row') && flexWrap !== 'nowrap')
    outer.style.flex = '1 0 100%'
  if (float !== 'none') outer.style.clear = 'both'
  beside[at](outer)
}

/** Over the page, at its lower edge, until it is closed. The page is as much longer, so that its end can be seen. */
function atEdge(published: PublishedForm, one: PlacedHere, isAtOnce: boolean): void {
  const { spot } = published
  const closedAt = Number(stored(`closed-${spot}`) ?? 0)
  if (one.outer !== null || (!isAtOnce && Date.now() - closedAt < CLOSED_DAYS * DAY_MS)) return
  const host = document.createElement('askbox-form') as FormElement
  host.className = 'pop-up'
  const outer = element('div', {}, host)
  ours.add(outer)
  one.outer = outer
  document.body.append(outer)
  const close = element(
    'button',
    { type: 'button', class: 'close', 'aria-label': published.settings!.texts.close },
    '×',
  )
  const page = document.documentElement.style
  const before = page.scrollPaddingBottom
  host.show(published, 0, (form) => {
    const over = element(
      'div',
      { class: 'over', role: 'region', 'aria-label': published.title! },
      close,
      form as Element,
    )
    over.dir = published.direction!
    const end = () => {
      stored(`closed-${spot}`, Date.now())
      page.scrollPaddingBottom = before
      outer.hidden = true
      outer.style.display = 'none'
    }
    close.addEventListener('click', end)
    over.addEventListener('keydown', ({ key }) => {
      if (key === 'Escape') end()
    })
    new ResizeObserver(([entry]) => {
      const height = `${entry!.target.clientHeight}px`
      outer.style.height = height
      // What has the focus is scrolled to above it (WCAG 2.2, success criterion 2.4.11).
      if (!outer.hidden) page.scrollPaddingBottom = height
    }).observe(over)
    return over
  })
}

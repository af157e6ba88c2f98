import { honeypotName } from '#core/form'
import { personFor } from '#core/proof'
import { attribute, elementsBelow, type FormOnPage, parsePage } from '#core/submission'
import { buttonOf, filledIn, fillsOf, formsWith, obstacleIn, visibilityOn } from '#core/usable'
import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Html, html, serialize } from 'parse5'
import { textIn } from './by-hand'
import { damage } from './words'
import { linesOf } from './lines'
import { addressesOf, isCode } from './recognise'
import type { ExpectedCode, InstallFinding, InstallFindingCode, PageToCheck } from './report'

/*
 * Whether somebody could use what stands there whole.
 */

/** Which inert part of the page contains the code: a comment, `<template>`, `<noscript>` or `<textarea>`; null for none. */
export function withinWhat(
  document: Html.Document,
  expected: ExpectedCode,
): Pick<InstallFinding, 'code' | 'message' | 'mend'> | null {
  const { spot, code, receiver } = expected
  const addresses =
    code === 'plain' || code === 'in-tags' ? [`${receiver}/join/${spot.id}`] : addressesOf({ spot, code, receiver })
  const holds = (text: string) =>
    addresses.some((address) => text.includes(address) || text.includes(address.replaceAll('&', '&amp;')))
  const mend = 'Take it out of there, and paste it where the page’s words stand.'
  const look = (node: Html.Node): Pick<InstallFinding, 'code' | 'message' | 'mend'> | null => {
    if (tree.isCommentNode(node))
      return holds(node.data)
        ? { code: 'in-comment', message: 'The code stands within a comment: browsers skip it.', mend }
        : null
    if (!('childNodes' in node)) return null
    if (tree.isElementNode(node)) {
      const { tagName } = node
      if (tagName === 'template')
        return holds(serialize((node as Html.Template).content))
          ? { code: 'in-template', message: 'The code stands within <template>: browsers show nothing of it.', mend }
          : null
      if (tagName === 'noscript' && holds(textIn(node)))
        return {
          code: 'in-noscript',
          message: 'The code stands within <noscript>: only browsers without scripts show it.',
          mend,
        }
      if (['textarea', 'title', 'xmp'].includes(tagName) && holds(textIn(node)))
        return { code: 'as-text', message: damage['as-text'][0], mend: damage['as-text'][1] }
    }
    for (const child of node.childNodes) {
      const finding = look(child)
      if (finding !== null) return finding
    }
    return null
  }
  return look(document)
}

/** Longest page, in UTF-16 code units, that is parsed whole: a rule that hides the code may stand anywhere in it. */
const WHOLE = 500_000

/** The page, what should stand on it, and what its styles hide. */
interface Standing {
  document: Html.Document
  expected: ExpectedCode
  visibility: ReturnType<typeof visibilityOn>
}

/** Whether a visitor can see, fill in and send an unaltered form, as far as the page's markup and styles tell. */
export function useFindings(whole: PageToCheck, reducedPage: Html.Document, expected: ExpectedCode): InstallFinding[] {
  const document = whole.html.length > WHOLE ? reducedPage : parsePage(whole.html)
  const standing: Standing = { document, expected, visibility: visibilityOn(document) }
  // A tag that a drawing or a formula takes in is one of theirs, and none that browsers know.
  const taken = elementsBelow(document).find((one) => isCode(one, expected) && one.namespaceURI !== html.NS.HTML)
  if (taken !== undefined)
    return damaged(
      'changed',
      'It stands within a drawing or a formula (<svg>, <math>), where browsers do not know its tags.',
      'Paste the code outside of it.',
      taken,
    )
  if (expected.code === 'plain' || expected.code === 'in-tags') return formFindings(standing)
  return expected.spot.kind === 'pop-up' ? openDialogFindings(document) : placeFindings(standing)
}

function damaged(code: InstallFindingCode, message: string, mend: string, element: Html.Element): InstallFinding[] {
  return [{ code, weight: 'damage', message, mend, lines: linesOf(element, true) }]
}

function hidden(by: string, element: Html.Element): InstallFinding[] {
  return damaged(
    'hidden',
    `It stands there, and visitors do not see it or cannot press it: ${by}.`,
    'Take that away, or paste the code where nothing hides it.',
    element,
  )
}

/** Fine means that each thing that a sign-up needs was found working: what is not read here is not seen. */
function unseen({ visibility }: Standing, elements: readonly Html.Element[]): InstallFinding[] {
  const rule = elements.map((one) => visibility.unread(one)).find((one) => one !== null)
  return rule === undefined || rule === null
    ? []
    : [
        {
          code: 'styles-unseen',
          weight: 'hint',
          message: `A rule of the site may hide it, and only a browser can tell whether it does: ${rule.selector.slice(0, 120)} (${rule.because}).`,
          mend: 'Rehearse the spot: with a browser at the receiver it tells.',
          lines: null,
        },
      ]
}

function formFindings(standing: Standing): InstallFinding[] {
  const { document, expected } = standing
  const all = formsWith(document, `${expected.receiver}/join/${expected.spot.id}`)
  if (all.every(({ controls }) => controls.length === 0))
    return damaged(
      'form-lost',
      'Its fields stand there without the form around them: pressing the button sends nothing.',
      'This kind of site takes forms out: choose a script, a frame, or a link to its page.',
      elementsBelow(document).find((element) => isCode(element, expected))!,
    )
  // Of several, the one that works: a copy may stand in a menu that is shut.
  const judged = all.map((form) => oneFormFindings(standing, form))
  return judged.find((findings) => findings.every(({ weight }) => weight !== 'damage')) ?? judged[0]!
}

/** One form that sends to the receiver. */
function oneFormFindings(standing: Standing, form: FormOnPage): InstallFinding[] {
  const { document, expected, visibility } = standing
  const { spot, receiver, versions } = expected
  const content = versions.at(-1)?.content
  const action = `${receiver}/join/${spot.id}`
  const fills = content === undefined ? [] : fillsOf(content, personFor(content, 'ilse@people.example'))
  const button = buttonOf(form, action)
  const { touches, missing } = filledIn(form, fills)
  if (missing.length > 0)
    return damaged(
      'field-missing',
      `Its field “${missing[0]}” is not part of the form any more: what is typed there is not sent.`,
      'Paste the code anew in its place.',
      form.form,
    )
  const touched = [...touches.keys()]
  for (const one of [...touched, ...(button === null ? [] : [button]), form.form]) {
    const by = attribute(one, 'type') === 'hidden' ? null : visibility.hiddenBy(one)
    if (by !== null) return hidden(by, one)
  }
  const trap = form.controls.find((control) => attribute(control, 'name') === honeypotName(spot.form))
  if (trap !== undefined && visibility.hiddenBy(trap, { isOnlySeen: true }) === null)
    return damaged(
      'trap-visible',
      'The field that only bots fill in can be seen: people fill it in, and are taken for bots.',
      'Paste the code anew, or choose a frame or a script, which the site’s styles do not reach.',
      trap,
    )
  const obstacle = obstacleIn({ page: document, form, action, fills, visibility })
  if (obstacle !== null)
    return damaged(obstacle.code as InstallFindingCode, obstacle.happened, obstacle.mend, form.form)
  const patterned = touched.find((one) => attribute(one, 'pattern') !== null)
  return patterned !== undefined && attribute(form.form, 'novalidate') === null
    ? [patternHint(patterned)]
    : unseen(standing, [...touched, ...(button === null ? [] : [button])])
}

function patternHint(control: Html.Element): InstallFinding {
  return {
    code: 'styles-unseen',
    weight: 'hint',
    message: `Its field “${attribute(control, 'name')}” takes only what fits a pattern: ${attribute(control, 'pattern')!.slice(0, 80)}. Whether people’s answers do, only a browser tells.`,
    mend: 'Take “pattern” away from it, or rehearse the spot.',
    lines: linesOf(control),
  }
}

function openDialogFindings(document: Html.Document): InstallFinding[] {
  const dialog = elementsBelow(document).find((one) => one.tagName === 'dialog' && attribute(one, 'open') !== null)
  return dialog === undefined
    ? []
    : [
        {
          code: 'styles-unseen',
          weight: 'hint',
          message: 'A dialog of the page is open from the beginning: the pop-up waits until it is closed.',
          mend: 'Rehearse the spot, or look whether visitors can close that dialog.',
          lines: linesOf(dialog),
        },
      ]
}

/** A frame, a link, or the place of a script. */
function placeFindings(standing: Standing): InstallFinding[] {
  const { document, expected, visibility } = standing
  const { code } = expected
  const all = elementsBelow(document).filter((one) => isCode(one, expected))
  const element = all.find((one) => visibility.hiddenBy(one, { isReset: code === 'script' }) === null) ?? all[0]
  if (element === undefined) return []
  // The script puts the form beside its link: what hides the link alone hides nothing of it.
  const place =
    code === 'script' && element.parentNode !== null && tree.isElementNode(element.parentNode)
      ? element.parentNode
      : element
  const by = visibility.hiddenBy(place, { isReset: code === 'script' })
  if (by !== null) return hidden(by, element)
  const own = code === 'frame' ? frameFindings(element) : code === 'link' ? linkFindings(element) : []
  return own.length > 0 ? own : unseen(standing, [place])
}

function frameFindings(frame: Html.Element): InstallFinding[] {
  const sandbox = attribute(frame, 'sandbox')
  if (sandbox !== null && !sandbox.toLowerCase().split(/\s+/).includes('allow-forms'))
    return damaged(
      'sandboxed',
      'The frame’s sandbox lets no form be sent.',
      'Add “allow-forms allow-scripts allow-popups” to its sandbox, or take “sandbox” away.',
      frame,
    )
  return attribute(frame, 'srcdoc') === null
    ? []
    : damaged('changed', 'The frame shows something else in its place (srcdoc).', 'Paste the code anew.', frame)
}

function linkFindings(link: Html.Element): InstallFinding[] {
  const isEmpty =
    textIn(link).trim() === '' && !elementsBelow(link).some(({ tagName }) => ['img', 'svg'].includes(tagName))
  if (isEmpty)
    return damaged(
      'link-empty',
      'The link is there and has no words: nobody can see or press it.',
      'Paste it anew, with its words.',
      link,
    )
  return /\breturn\s+false\b|preventDefault\s*\(/.test(attribute(link, 'onclick') ?? '')
    ? damaged('submit-stopped', 'A handler on the link keeps it from opening.', 'Take “onclick” away.', link)
    : []
}

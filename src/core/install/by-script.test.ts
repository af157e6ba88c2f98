import { frameAddress, frameCode, linkCode, pageAddress, placePart, plainCode, sharedLine } from '#core/embed'
import { inTagsCode } from '#core/inlining'
import { content, spot, version } from '../../../tests/tables/samples'
import { checkInstall, type InstallReport } from '.'

/*
 * Code that scripts make a form of, that stands there more than once, or whose own attributes decide: what is told of it is
 * no more than what can be known. HTML, sections 4.10.18 and 13.2.
 */
const receiver = 'http://localhost:4310'
const plain = plainCode({ content, form: version.form, version: version.number, spot: spot.id, receiver })
const line = sharedLine(receiver)
const frame = frameCode(frameAddress(receiver, spot.id), 'Sign up', { width: 480, height: 320 })
const link = linkCode(content, pageAddress(receiver, spot.id), { shownAs: 'button', opens: 'here' })
const script = placePart(content, receiver, spot.id, null)
const literal = JSON.stringify(plain).replaceAll('</', '<\\/')
const escaped = plain.replaceAll('&', '&amp;').replaceAll('"', '&quot;')
const email = (attributes: string) => plain.replace('name="email"', `name="email" ${attributes}`)

type Row = [
  name: string,
  code: 'plain' | 'link' | 'frame' | 'script',
  body: string,
  state: InstallReport['state'],
  found: string,
  head?: string,
]
test.each<Row>([
  [
    'a string of a script',
    'plain',
    `<div id=p></div><script>p.innerHTML = ${literal}</script>`,
    'unclear',
    'by-script',
  ],
  ['JSON in a script', 'plain', `<script type="application/json">${literal}</script>`, 'unclear', 'by-script'],
  ['srcdoc', 'plain', `<iframe srcdoc="${escaped}"></iframe>`, 'unclear', 'by-script'],
  ['an attribute that a script reads', 'plain', `<div data-html="${escaped}"></div>`, 'unclear', 'by-script'],
  ['a declarative shadow root', 'plain', `<template shadowrootmode="open">${plain}</template>`, 'unclear', 'by-script'],
  ['a template that is cloned', 'plain', `<template>${plain}</template><script>go()</script>`, 'unclear', 'by-script'],
  ['a template that nothing clones', 'plain', `<template>${plain}</template>`, 'damaged', 'in-template'],
  ['a link twice', 'link', `${link}<p>x</p>${link}`, 'whole', 'twice'],
  ['a frame twice', 'frame', `${frame}<p>x</p>${frame}`, 'whole', 'twice'],
  ['a form twice', 'plain', `${plain}<p>x</p>${plain}`, 'damaged', 'twice'],
  ['a copy in a menu that is shut', 'plain', `<nav hidden>${plain}</nav>${plain}`, 'whole', 'twice'],
  ['without its version', 'plain', plain.replace(/<input[^>]*askbox-version[^>]*>/, ''), 'edited', 'changed'],
  ['a pattern', 'plain', email('pattern="[0-9]+"'), 'unclear', 'styles-unseen'],
  ['too much wanted', 'plain', email('minlength="200"'), 'damaged', 'field-locked'],
  [
    'a second field of its name',
    'plain',
    plain.replace(/(<form[^>]*>)/, '$1<input name="email" type="hidden">'),
    'damaged',
    'field-locked',
  ],
  ['a field of another form', 'plain', `<form id="z"></form>${email('form="z"')}`, 'damaged', 'field-missing'],
  ['a frame in a drawing', 'frame', `<svg>${frame}</svg>`, 'damaged', 'changed'],
  ['a frame in <object>', 'frame', `<object>${frame}</object>`, 'unclear', 'styles-unseen'],
  ['a form in a link', 'plain', `<a href="/x">${plain}</a>`, 'damaged', 'within-link'],
  ['only its address, in a picture', 'frame', `<img src="${frameAddress(receiver, spot.id)}">`, 'damaged', 'changed'],
  ['its line written as XML', 'script', script, 'damaged', 'line-inert', `<script src="${receiver}/askbox.js"/>`],
  ['its line, ended', 'script', script, 'whole', '', line],
])('%s', (_, code, body, state, found, head = '') => {
  const html = `<!DOCTYPE html><html><head><title>x</title>${head}</head><body><h1>Hi</h1>${body}<p>end</p></body></html>`
  const report = checkInstall(
    { html, address: 'http://127.0.0.1:4320', policies: [] },
    { spot, code, receiver, versions: [version], others: new Map(), inTags: inTagsCode },
  )
  expect([report.state, report.findings[0]?.code ?? '']).toEqual([state, found])
})

import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { test, expect } from '@playwright/test'
import { attribute, elementsBelow, formsOn, parsePage, submissionOf, type Touched } from '#core/submission'

/*
 * What the rehearsal sends, held against what Chromium itself sends for the same page: HTML Living Standard, sections
 * 4.10.18.3 (form owner), 4.10.22.3 (form submission), 4.10.22.4 (entry list), 4.10.22.7 to .9 (encodings), and URL
 * Standard, section 5.2.
 */
interface Case {
  html: string
  /** Of the page's bytes and header. */
  charset?: 'utf-8' | 'windows-1252'
  /** Typed by hand, by id. */
  typed?: Record<string, string>
  /** What Chromium sends although the standard says otherwise. */
  against?: string
}
const MIXED = 'Zoë “quoted” & a=b +%41 – نورة 🌙'
const cases: Record<string, Case> = {
  'all kinds of input': {
    html: `<form method="post" action="/take"><input name="none" value="text"><input name="email" type="email" value="  a@b.example ">
      <input name="url" type="url" value=" https://x.example "><input name="tel" type="tel" value="+1"><input name="search" type="search" value="s">
      <input name="password" type="password" value="p"><input name="number" type="number" value="12"><input name="wrong" type="number" value="twelve">
      <input name="date" type="date" value="2026-02-03"><input name="nodate" type="date" value="3 Feb"><input name="month" type="month" value="2026-02">
      <input name="week" type="week" value="2026-W05"><input name="time" type="time" value="12:30"><input name="local" type="datetime-local" value="2026-02-03T12:30">
      <input name="color" type="color" value="#AABBCC"><input name="nocolor" type="color" value="no colour"><input name="range" type="range" value="7">
      <input name="hidden" type="hidden" value="h"><input name="unknown" type="whatever" value="u"><textarea name="area">
first
second</textarea><input name="file" type="file"><button id="go">Go</button></form>`,
  },
  'boxes, buttons of a group and menus': {
    html: `<form method="post" action="/take"><input type="checkbox" name="on" checked><input type="checkbox" name="off"><input type="checkbox" name="v" value="1" checked><input type="checkbox" name="v" value="2" checked>
      <input type="radio" name="r" value="1" checked><input type="radio" name="r" value="2" checked><select name="first"><option>  spaced   words </option><option value="b">B</option></select>
      <select name="skips"><option disabled>No</option><option>Yes</option></select><select name="two"><option selected>1</option><option selected>2</option></select>
      <select name="many" multiple><option selected>1</option><option disabled selected>2</option><option selected value="">3</option></select>
      <select name="list" size="3"><option>1</option></select><select name="group"><optgroup disabled><option>1</option></optgroup><option>2</option></select><button id="go" name="b" value="pressed">Go</button><button name="other" value="no">No</button></form>`,
  },
  'disabled, unnamed and outside': {
    html: `<input form="f" name="before" value="1"><form id="f" method="post" action="/take"><input value="no name"><input name="" value="empty"><input name="off" value="x" disabled>
      <fieldset disabled><legend><input name="legend" value="in"></legend><input name="fieldset" value="x"></fieldset><datalist><input name="suggested" value="x"></datalist>
      <input form="other" name="elsewhere" value="x"><button id="go" type="submit">Go</button></form><form id="other"></form><textarea form="f" name="after">a</textarea><input form="nowhere" name="nobody" value="x">`,
    // Section 4.10.22.4, step 5.1: what stands in a datalist is left out.
    against: 'suggested=x&',
  },
  'a form torn apart by a table': {
    html: `<table><form method="post" action="/take"><tr><td><input name="cell" value="1"></td></tr><tr><td><button id="go" name="go" value="2">Go</button></td></tr></form></table><input name="outside" value="no">`,
  },
  'one form in another': {
    html: `<form method="post" action="/outer"><input name="outer" value="1"><div><form class="inner" method="post" action="/take"><input name="inner" value="2"><button id="go" formaction="/take" formmethod="post">Go</button></div></form>`,
  },
  'a button that says otherwise, and an image': {
    html: `<form method="get" action="/wrong" enctype="text/plain"><input name="a" value="1"><button id="go" formmethod="POST" formaction="/take?kept=1" formenctype="application/x-www-form-urlencoded" formnovalidate name="s" value="x">Go</button></form>`,
  },
  'typed, beyond ASCII, in UTF-8': {
    html: `<form method="post" action="/take"><input id="t" name="n\u00e4me"><textarea id="u" name="area"></textarea><button id="go">Go</button></form>`,
    typed: { t: MIXED, u: `${MIXED}\nnext` },
  },
  'typed, beyond Latin-1, in a Latin-1 page': {
    html: `<form method="post" action="/take"><input id="t" name="n\u00e4me"><input type="hidden" name="_charset_"><button id="go">Go</button></form>`,
    charset: 'windows-1252',
    typed: { t: MIXED },
  },
  'UTF-8 asked for in a Latin-1 page': {
    html: `<form method="post" action="/take" accept-charset="utf-8"><input id="t" name="n"><input type="hidden" name="_charset_" value="x"><button id="go">Go</button></form>`,
    charset: 'windows-1252',
    typed: { t: MIXED },
  },
  'in several parts': {
    html: `<form method="post" action="/take" enctype="multipart/form-data"><input id="t" name='a"b'><textarea name="area">one\ntwo</textarea><input type="file" name="file"><button id="go">Go</button></form>`,
    typed: { t: MIXED },
  },
  'as plain text': {
    html: `<form method="post" action="/take" enctype="text/plain"><input id="t" name="a"><textarea name="area">one\ntwo</textarea><button id="go">Go</button></form>`,
    typed: { t: MIXED },
  },
  'directions, and another base': {
    html: `<base href="/below/"><form method="post" action="../take"><input name="q" value="نورة" dirname="q.dir" dir="auto"><input name="r" value="x" dirname="r.dir"><button id="go">Go</button></form>`,
  },
}

test('entry lists and bodies are those that Chromium sends', { tag: '@way' }, async ({ page }) => {
  let served: { html: string; charset: string } = { html: '', charset: 'utf-8' }
  let taken: { url: string; type: string; body: Buffer } | null = null
  const server = createServer((request, response) => {
    if (request.method === 'POST') {
      const chunks: Buffer[] = []
      request.on('data', (chunk: Buffer) => chunks.push(chunk))
      request.on('end', () => {
        taken = { url: request.url!, type: request.headers['content-type'] ?? '', body: Buffer.concat(chunks) }
        response.end('taken')
      })
      return
    }
    response.writeHead(200, { 'Content-Type': `text/html; charset=${served.charset}` })
    response.end(Buffer.from(served.html, served.charset === 'utf-8' ? 'utf8' : 'latin1'))
  }).listen(0, '127.0.0.1')
  await new Promise((resolve) => server.once('listening', resolve))
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  try {
    for (const [name, { html, charset = 'utf-8', typed = {}, against = '' }] of Object.entries(cases)) {
      await test.step(name, async () => {
        served = { html: `<!DOCTYPE html><title>A page</title>${html}`, charset }
        taken = null
        await page.goto(`${origin}/page`)
        for (const [id, text] of Object.entries(typed)) await page.locator(`#${id}`).fill(text)
        await page.locator('#go').click()
        await expect.poll(() => taken).not.toBeNull()
        const sent = taken as unknown as { url: string; type: string; body: Buffer }

        const parsed = parsePage(served.html)
        const elements = elementsBelow(parsed)
        const byId = (id: string) => elements.find((element) => attribute(element, 'id') === id)!
        const touches = new Map(Object.entries(typed).map(([id, value]) => [byId(id), { value } as Touched]))
        const form = formsOn(parsed).find(({ controls }) => controls.includes(byId('go')))!
        const boundary = /boundary=(.+)$/.exec(sent.type)?.[1] ?? ''
        const ours = submissionOf(form, byId('go'), touches, {
          page: parsed,
          address: `${origin}/page`,
          encoding: charset,
          boundary,
        })!
        expect(new URL(ours.address).pathname + new URL(ours.address).search).toBe(sent.url)
        expect(ours.contentType).toBe(sent.type)
        expect(Buffer.from(ours.body).toString('latin1')).toBe(sent.body.toString('latin1').replace(against, ''))
      })
    }
  } finally {
    server.closeAllConnections()
    server.close()
  }
})

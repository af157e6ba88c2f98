import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import PostalMime, { type Email } from 'postal-mime'
import { codeAs, sharedLine } from '#core/embed'
import { type AnswerCase, newField, type FormContent, startContent, type Version } from '#core/form'
import type { FormId, ListId, SpotId } from '#core/ids'
import type { Entry } from '#core/journal'
import { startList } from '#core/list'
import { startRule } from '#core/rule'
import { type Spot, startPopUp } from '#core/spot'
import { textsOf } from '#core/texts'
import { changeObject, entriesAfter, type Made, makeObjects, objectsOf } from '../api'
import type { RunningBox } from '../programs'

/** What somebody who presses is answered with. */
export const answerKinds = ['ours', 'own', 'with values', 'forwarding', 'forwarding elsewhere', 'gone', 'gift'] as const
export type AnswerKind = (typeof answerKinds)[number]

/** When a list's people are on it: at once, or once they press in a mail. */
export type Joining = 'at once' | 'by mail'

const createdAt = '2026-01-02T03:04:05.000Z'
const named = (joining: Joining, kind: AnswerKind) =>
  `press${joining === 'at once' ? 'a' : 'm'}${answerKinds.indexOf(kind)}`

/**
 * Pages of the owner's at one origin, and of another that these lead on to. `/forward` leads on within it, `/out` to the
 * other one, `/gone` is not there.
 */
export async function startOwnPages(): Promise<{ own: string; other: string; close(): void }> {
  const other = await serve((path) => (path.startsWith('/thanks') ? [200] : [404]))
  const own = await serve((path) => {
    const query = path.split('?')[1]
    const more = query === undefined ? '' : `?${query}`
    if (path.startsWith('/forward')) return [302, `/thanks${more}`]
    if (path.startsWith('/out')) return [302, `${other.address}/thanks${more}`]
    return path.startsWith('/thanks') ? [200] : [404]
  })
  return {
    own: own.address,
    other: other.address,
    close() {
      for (const { server } of [own, other]) {
        server.closeAllConnections()
        server.close()
      }
    },
  }
}

async function serve(answer: (path: string) => [status: number, location?: string]) {
  const server: Server = createServer(({ url = '' }, response) => {
    const [status, location] = answer(url)
    response
      .writeHead(status, { 'Content-Type': 'text/html; charset=utf-8', ...(location && { Location: location }) })
      .end(
        `<!DOCTYPE html><title>A page</title><link rel="icon" href="data:,"><h1>${status === 200 ? 'Thanks' : 'Not here'}</h1>`,
      )
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  return { server, address: `http://127.0.0.1:${(server.address() as AddressInfo).port}` }
}

/** Publishes a form a kind of answer, on a list joined at once and on one joined by mail. */
export async function pressGround(box: RunningBox, pages: { own: string; other: string }, site: { address: string }) {
  const [{ body: demoSpot } = {}] = (await objectsOf(box, 'spot')).filter(({ key }) => key === 'opennights')
  await changeObject(box, 'site', demoSpot!.site, { address: site.address })
  const { body: demoMail } = (await objectsOf(box, 'mail')).find(({ key }) => key === 'clearskyalerts')!
  const versions = new Map<string, Version>()
  const made: Made[] = []
  for (const joining of ['at once', 'by mail'] as const)
    for (const kind of answerKinds) {
      const name = named(joining, kind)
      const list = startList(`${name}list` as ListId, `List of ${name}`, createdAt)
      made.push(['list', list])
      const gift = { ...demoMail!.draft.gift!, onAnswer: kind === 'gift', inWelcome: 'link' as const }
      const settings = {
        ...demoMail!.draft,
        confirm: joining === 'at once' ? ('never' as const) : ('always' as const),
        gift: kind === 'gift' ? gift : null,
      }
      made.push(['mail', { list: list.id, draft: settings, published: settings }])
      const content = contentOf(kind, joining, pages)
      const form = {
        id: `${name}form` as FormId,
        name,
        list: list.id,
        theme: null,
        isArchived: false,
        draft: content,
        createdAt,
      }
      made.push(['form', form])
      const version: Version = { form: form.id, number: 1, list: list.id, content, publishedAt: createdAt }
      made.push(['version', version])
      versions.set(name, version)
      const spot = (id: string, more: Partial<Spot>) =>
        made.push([
          'spot',
          {
            id: id as SpotId,
            form: form.id,
            site: demoSpot!.site,
            kind: 'inline',
            page: site.address,
            state: 'live',
            createdAt,
            ...more,
          },
        ])
      spot(name, {})
      spot(`${name}page`, { kind: 'landing' })
      spot(`${name}popup`, {
        kind: 'pop-up',
        popUp: { ...startPopUp, when: { kind: 'at-once' }, often: { kind: 'every-visit' } },
      })
      spot(`${name}rule`, {
        code: 'rule',
        placing: {
          draft: startRule,
          published: {
            ...startRule,
            place: { kind: 'selector', selector: `#${name}`, at: 'after' },
            who: { ...startRule.who, joined: 'asked' },
          },
        },
      })
    }
  await makeObjects(box, made)
  return {
    version: (joining: Joining, kind: AnswerKind) => versions.get(named(joining, kind))!,
    spotOf: (joining: Joining, kind: AnswerKind, more = '') => `${named(joining, kind)}${more}` as SpotId,
    nameOf: named,
    /** What is pasted, with the shared line where it needs one. */
    code(as: 'plain' | 'script' | 'frame' | 'pop-up' | 'rule', joining: Joining, kind: AnswerKind) {
      const name = named(joining, kind)
      const line = sharedLine(box.workshop)
      if (as === 'rule') return { head: line, body: `<div style="height:3000px"></div><p id="${name}">Here</p>` }
      const version = versions.get(name)!
      const [id, spotKind] = as === 'pop-up' ? [`${name}popup`, 'pop-up' as const] : [name, 'inline' as const]
      const spot = { id: id as SpotId, kind: spotKind } as Spot
      const code = codeAs(
        as === 'pop-up' ? 'script' : as,
        { spot, version, heights: null, title: 'Sign up' },
        box.workshop,
      )
      return as === 'pop-up' ? { head: code, body: '<p>Words</p>' } : { head: as === 'script' ? line : '', body: code }
    },
    /** What the journal says of somebody, in its order. */
    async happenedTo(email: string): Promise<string[]> {
      const entries = await entriesAfter<Entry>(box, 0)
      const members = new Set(
        entries.flatMap((entry) =>
          entry.kind === 'arrival' && entry.personal?.email?.compared === email && entry.member !== null
            ? [entry.member]
            : [],
        ),
      )
      return entries
        .filter((entry) => entry.member !== null && members.has(entry.member))
        .map((entry) => (entry.kind === 'arrival' ? entry.verdict : entry.kind.replace('member-', '')))
    },
    mailsTo(email: string): Promise<Email[]> {
      const folder = join(box.folder, 'mailbox', email.replaceAll('@', '%40').replaceAll('.', '%2E'), 'new')
      const files = existsSync(folder) ? readdirSync(folder).sort() : []
      return Promise.all(files.map((name) => PostalMime.parse(readFileSync(join(folder, name)))))
    },
  }
}
export type PressGround = Awaited<ReturnType<typeof pressGround>>

function contentOf(kind: AnswerKind, joining: Joining, { own }: { own: string }): FormContent {
  const content = startContent('Sample list')
  const texts = textsOf('en')
  const fields = [
    newField('email', texts),
    newField('first-name', texts),
    { ...newField('line', texts), key: 'wish', label: 'A wish', column: '' },
    newField('consent', texts),
  ]
  const address = {
    ours: '',
    own: '/thanks',
    'with values': '/thanks?from=us',
    forwarding: '/forward',
    'forwarding elsewhere': '/out',
    gone: '/gone',
    gift: '',
  }[kind]
  const led = {
    show: 'address' as const,
    heading: '',
    message: '',
    address: own + address,
    ...(kind === 'with values' && { pass: ['email', 'first-name', 'wish', 'consent'] }),
  }
  const cases: AnswerCase[] = joining === 'at once' ? ['joined'] : ['confirmed', 'left']
  return {
    ...content,
    fields: fields as FormContent['fields'],
    answers: { ...content.answers, ...(address !== '' && Object.fromEntries(cases.map((one) => [one, led]))) },
  }
}

import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { gunzipSync } from 'node:zlib'
import type { FormContent, Version } from '#core/form'
import type { Proof } from '#core/proof'
import { gift, type MailGround, openMailGround, settingsFor } from '../../../tests/mail-ground'
import { programsBuilt } from '../../../tests/rehearsal-ground'
import { oneTestIn } from '../../../tests/seed'
import * as samples from '../../../tests/tables/samples'
import { Browsers, LIMITS } from '../browser'
import type { Settings } from '../settings'

/**
 * The mail's leg by a hand in a browser, against a receiver over the network. Then faults that visitors met while a proof by
 * requests was green, put back on purpose: each has to be red, with its cause.
 */
const someTest = oneTestIn(4)
let ground: MailGround
let own: Server
let elsewhere: Server
const addressOf = (server: Server, path: string) => `http://127.0.0.1:${(server.address() as AddressInfo).port}${path}`
let number = 10

beforeAll(async () => {
  const thanks = (path = '') => `<!DOCTYPE html><title>Thanks</title><h1>Thanks</h1><p>${path}</p>`
  elsewhere = createServer((_, response) => void response.setHeader('Content-Type', 'text/html').end(thanks()))
  own = createServer(({ url }, response) => {
    if (url === '/out') return void response.writeHead(302, { Location: addressOf(elsewhere, '/out') }).end()
    const framed = `<iframe title="A form" width="600" height="700" sandbox="allow-scripts allow-forms allow-popups" src="${ground.settings.publicUrl}/frame/${samples.spot.id}"></iframe>`
    response
      .writeHead(200, { 'Content-Type': 'text/html' })
      .end(url === '/framed' ? `<!DOCTYPE html><title>A page</title><main>${framed}</main>` : thanks(url))
  })
  for (const server of [own, elsewhere]) await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  const browsers = (settings: Settings) =>
    new Browsers({ ...settings, serviceStandIns: addressOf(elsewhere, '') }, undefined, { ...LIMITS, hopelessFrom: 2 })
  ground = await openMailGround(browsers, addressOf(own, ''))
  await programsBuilt()
}, 240_000)
afterEach(() => ground.changes((_, answer) => answer))
afterAll(async () => {
  await ground.close()
  own.close()
  elsewhere.close()
})

async function published(change: (content: FormContent) => FormContent): Promise<Version> {
  const version = { ...samples.version, number: (number += 1), content: change(samples.content) }
  await ground.ledger.takeChanges([samples.change('version', version)])
  return version
}
const ownPage = (path: string) => ({
  show: 'address' as const,
  heading: '',
  message: '',
  address: addressOf(own, path),
})
const withAnswers = (answers: Partial<FormContent['answers']>) => (content: FormContent) => ({
  ...content,
  answers: { ...content.answers, ...answers },
})
const linesOf = ({ steps }: Proof) => steps.map(({ verdict, what }) => `${verdict}: ${what}`)
const lastOf = ({ steps }: Proof) => steps.at(-1)!
const withPolicy = (answer: Response, change: (policy: string) => string) => {
  const headers = new Headers(answer.headers)
  headers.set('Content-Security-Policy', change(headers.get('Content-Security-Policy') ?? ''))
  return new Response(answer.body, { status: answer.status, headers })
}

test('the first person’s whole way: the form, the mail’s button, the gift on the answer and in the welcome, left, back', async () => {
  const version = await published(withAnswers({ left: ownPage('/left') }))
  const written = settingsFor({ gift: { ...settingsFor().gift!, onAnswer: true } })
  const proof = await ground.proofOf(written, { version, cases: ['first', 'mail'] })
  expect([linesOf(proof).filter((line) => !line.startsWith('passed')), proof.verdict]).toEqual([[], 'passed'])
  const of = (what: string) => proof.steps.find((step) => step.what === what)
  expect(of('The button pressed')).toMatchObject({
    seen: expect.stringContaining('You are on the list'),
    look: { viewer: 'desk' },
  })
  for (const what of ['The gift on the answer', 'The gift'])
    expect(of(what)?.seen).toBe(`Pressed: chart.pdf, ${gift.length} bytes, the same as published.`)
  expect(of('Left by the link in the mail')?.seen).toContain('Thanks')
  expect(linesOf(proof)).toEqual(
    expect.arrayContaining(['passed: Put back by one press', 'passed: Left by one press in the mail program']),
  )
})

someTest(
  'an own page after confirming that a policy of the page forbids: red, and the browser’s words are said',
  async () => {
    const version = await published(withAnswers({ confirmed: ownPage('/confirmed') }))
    expect((await ground.proofOf(settingsFor(), { version })).verdict).toBe('passed')
    // As it was: the press was answered by a redirect that the page's own policy holds back.
    ground.changes((request, answer) => {
      if (request.method === 'POST' && request.url.includes('/confirm/')) {
        const headers = new Headers(answer.headers)
        headers.set('Location', addressOf(own, '/confirmed'))
        return new Response(null, { status: 303, headers })
      }
      return request.url.includes('/confirm/')
        ? withPolicy(answer, (policy) => policy.replace(/form-action [^;]*/, "form-action 'self'"))
        : answer
    })
    const { what, failure } = lastOf(await ground.proofOf(settingsFor(), { version }))
    expect([what, failure?.code]).toEqual(['The button pressed', 'press-held-back'])
    expect(failure?.happened).toContain('form-action')
  },
)

someTest(
  'an own page that forwards elsewhere, from a landing page without scripts: red where the policy holds redirects to it',
  async () => {
    const version = await published(withAnswers({ joined: ownPage('/out') }))
    const written = settingsFor({ confirm: 'never' })
    const cases: Proof['cases'] = ['scripts-off']
    const sound = await ground.proofOf(written, { version, cases })
    // It arrives, where its owner's page forwards to.
    expect(lastOf(sound).failure?.code ?? 'passed').toMatch(/passed|own-page-leads-elsewhere/)
    ground.changes((request, answer) => {
      if (request.method === 'POST' && request.url.includes('/join/')) {
        const headers = new Headers(answer.headers)
        headers.set('Location', addressOf(own, '/out'))
        return new Response(null, { status: 303, headers })
      }
      return request.url.includes('/page/')
        ? withPolicy(answer, (policy) =>
            policy.replace(
              /form-action [^;]*/,
              `form-action 'self' ${ground.settings.publicUrl} ${addressOf(own, '')}`,
            ),
          )
        : answer
    })
    const { failure } = lastOf(await ground.proofOf(written, { version, cases }))
    expect(failure?.code).toBe('send-blocked')
  },
)

someTest('a gift on the answer that the page’s sandbox keeps from being had: red', async () => {
  const written = settingsFor({ gift: { ...settingsFor().gift!, inWelcome: 'no', onAnswer: true } })
  const version = await published((content) => content)
  ground.changes((request, answer) =>
    request.url.includes('/confirm/') ? withPolicy(answer, (policy) => policy.replace(' allow-downloads', '')) : answer,
  )
  const { what, failure } = lastOf(await ground.proofOf(written, { version }))
  expect([what, failure?.code]).toEqual(['The gift on the answer', 'press-held-back'])
})

someTest(
  'a frame within a sandboxed frame, with an own page: its link leads there; sent to the whole window it is not sent: red',
  async () => {
    const version = await published(withAnswers({ joined: ownPage('/joined') }))
    const written = settingsFor({ confirm: 'never' })
    const spot = { kind: 'inline', code: 'frame', page: addressOf(own, '/framed') } as const
    const sound = await ground.proofOf(written, { version, cases: ['first'], spot })
    expect([linesOf(sound).filter((line) => !line.startsWith('passed')), sound.verdict]).toEqual([[], 'passed'])
    ground.changes(async (request, answer) => {
      if (!request.url.includes('/frame/')) return answer
      const bytes = Buffer.from(await answer.arrayBuffer())
      const headers = new Headers(answer.headers)
      const isZipped = headers.get('Content-Encoding') === 'gzip'
      for (const name of ['Content-Encoding', 'Content-Length']) headers.delete(name)
      const html = (isZipped ? gunzipSync(bytes) : bytes)
        .toString()
        .replaceAll(/<script[^>]*src=[^>]*><\/script>/g, '')
        .replace(/<form /, '<form target="_top" ')
      return new Response(html, { headers })
    })
    const { station, failure } = lastOf(await ground.proofOf(written, { version, cases: ['first'], spot }))
    expect([station, failure?.code]).toEqual(['form', 'send-blocked'])
    expect(failure?.happened).toContain('sandbox')
  },
)

import { rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { POPULAR_DOMAINS } from '@zootools/email-spell-checker'
import type { ProofId } from '#core/ids'
import type { MailSettings } from '#core/mail'
import { answerTo, type Version } from '#core/form'
import { withPlaceholders } from '#core/message'
import { richText } from '#core/text'
import type { Proof } from '#core/proof'
import type { Ports } from '#core/rehearsal'
import { giftId, type MailGround, openMailGround, settingsFor } from '../../../tests/mail-ground'
import { rowsOfThisRun } from '../../../tests/seed'
import * as samples from '../../../tests/tables/samples'
import { MAIL } from '../mail/queued'
import { LateMail } from './late-mail'
import { receiverPorts } from './ports'

/** Without a browser: mails are judged, and what is pressed by a request alone is not proven. */
let ground: MailGround
const proofOf: MailGround['proofOf'] = (written, more) => ground.proofOf(written, more)

beforeEach(async () => {
  ground = await openMailGround()
})
afterEach(() => ground.close())

test.each(
  rowsOfThisRun<[what: string, changes: Partial<MailSettings>, steps: string[]]>(
    [
      [
        'everybody confirms',
        {},
        [
          'The mail to confirm',
          'Its link, opened and not pressed',
          'The button pressed',
          'The link used twice',
          'The welcome',
          'The gift',
          'Left by one press in the mail program',
          'The notice of leaving',
          'The mail once more',
          'A link that is older than 7 days',
        ],
      ],
      [
        'nobody confirms, the gift is attached',
        { confirm: 'never', gift: { ...settingsFor().gift!, inWelcome: 'attachment' } },
        ['The welcome', 'The gift', 'Left by one press in the mail program', 'The notice of leaving'],
      ],
      [
        'nobody is told who is on the list',
        { isDiscreet: true, gift: null },
        [
          'The mail to confirm',
          'Its link, opened and not pressed',
          'The button pressed',
          'The link used twice',
          'The welcome',
          'Left by one press in the mail program',
          'The notice of leaving',
          'The mail once more',
          'A link that is older than 7 days',
        ],
      ],
    ],
    3,
  ),
)('goes on through the mail: %s', async (_, changes, steps) => {
  const proof = await proofOf(settingsFor(changes))
  // What a browser would let happen is not proven by a request.
  const byBrowser = ['The button pressed', 'The gift']
  const isAttached = changes.gift?.inWelcome === 'attachment'
  expect(proof.steps.flatMap(({ verdict, what }) => (verdict === 'passed' ? [] : [`${verdict}: ${what}`]))).toEqual(
    steps.filter((what) => byBrowser.includes(what) && !isAttached).map((what) => `not-tried: ${what}`),
  )
  expect(proof.steps.filter(({ station }) => station === 'mail').map(({ what }) => what)).toEqual(steps)
  expect(proof.verdict).toBe('passed')
  // Nothing of it is left.
  expect(await ground.ledger.queue.counts(MAIL)).toMatchObject({ open: 0, done: 0 })
})

const received =
  (change: (mail: Awaited<ReturnType<Ports['mails']>>['received'][number]) => object) =>
  (ports: Ports): Ports => ({
    ...ports,
    mails: async (email) => {
      const { received: all, queued } = await ports.mails(email)
      return { received: all.map((one) => ({ ...one, ...change(one) })), queued }
    },
  })
const DAY_MS = 86_400_000
/** A mail that stays as it is, while time passes without being waited for. */
const staying =
  (state: 'sending' | 'sent', said: string) =>
  (ports: Ports): Ports => {
    let at = 0
    return {
      ...ports,
      now: () => (at += 500),
      pause: async () => {},
      mails: async () => ({ received: [], queued: [{ kind: 'confirmation', state, said }] }),
    }
  }
/** As mail servers do that count who presses a link. */
const led = (text: string) =>
  text.replaceAll(
    new RegExp(`${ground.settings.publicUrl}/confirm/[^\\s"<]+`, 'g'),
    (link) => `https://click.example/?to=${encodeURIComponent(link)}`,
  )

/** Where it leads. */
const unled = (address: string) =>
  address.startsWith('https://click.example/') ? new URL(address).searchParams.get('to')! : address

test('a link that is led over another host and works is a warning, and fails nothing', async () => {
  const through = (ports: Ports): Ports => ({
    ...received(({ text, html }) => ({ text: led(text), html: led(html) }))(ports),
    fetch: (address, as) => ports.fetch(unled(address), as),
  })
  const { steps } = await proofOf(settingsFor(), { change: through })
  expect(steps.filter(({ verdict }) => verdict === 'failed')).toEqual([])
  expect(steps.find(({ what }) => what === 'The mail to confirm')!.seen).toMatch(/led over \S+ first/)
})

test('a server that asks to come again later: not yet arrived, and no failure', async () => {
  const { steps, verdict } = await proofOf(settingsFor(), {
    change: (ports) => ({
      ...staying('sent', '')(ports),
      mails: async () => ({
        received: [],
        queued: [{ kind: 'confirmation', state: 'waiting', said: '450 4.2.0 Greylisted, see you in five minutes' }],
      }),
    }),
  })
  expect(verdict).not.toBe('failed')
  expect(steps.at(-1)).toMatchObject({ station: 'mail', verdict: 'not-tried' })
  expect(steps.at(-1)!.seen).toMatch(/^Not yet arrived: .*Greylisted/)
})

/** A server that lets nobody in before they came a second time, after minutes of this clock. */
const greylisting = (lookups: number) => (ports: Ports) => {
  let [looked, ms] = [0, 0]
  return {
    ...ports,
    now: () => (ms += 1_500),
    // Its clock goes by itself; only what is really on its way is waited for.
    pause: (pauseMs: number) => (looked > lookups ? ports.pause(Math.min(pauseMs, 100)) : Promise.resolve()),
    mails: async (email: string) =>
      (looked += 1) > lookups
        ? ports.mails(email)
        : { received: [], queued: [{ kind: 'confirmation', state: 'waiting', said: '451 4.7.1 Come later' } as const] },
  }
}

test('what was put off is completed by itself once it comes, and never twice', async () => {
  const [awaiting, published] = [
    await proofOf(settingsFor(), { change: greylisting(1_000) }),
    ground.ledger.published(),
  ]
  const live = published.liveSpots().find(({ id }) => id === samples.spot.id)!
  await ground.ledger.takeChanges([samples.change('proof', { ...awaiting, id: 'awaiting' as ProofId })])
  const told: Proof[] = []
  const late = new LateMail(
    ground.ledger,
    ground.rehearsals,
    {
      subjectOf: () => ground.subjectFor(settingsFor(), samples.version),
      portsFor: (rehearsal) =>
        greylisting(40)(receiverPorts(rehearsal, { settings: ground.settings, mail: ground.mail.rehearsalMail })),
      tell: async (proof) => void told.push(proof),
    },
    Date.now,
  )
  const [both, nothing] = await Promise.all([late.look(), late.look()])
  expect([live.state, nothing]).toEqual(['live', []])
  expect(both).toHaveLength(1)
  expect(both[0]).toMatchObject({ verdict: awaiting.verdict, by: 'receiver', cases: awaiting.cases })
  expect(both[0]!.steps.filter(({ case: one }) => one === 'page')).toEqual(
    awaiting.steps.filter((one) => one.case === 'page'),
  )
  expect(both[0]!.steps.find(({ what }) => what === 'The mail to confirm')?.verdict).toBe('passed')
  expect(both[0]!.steps.some(({ isAwaited, verdict }) => isAwaited === true || verdict === 'failed')).toBe(false)
  expect(told).toEqual(both)
  expect(await late.look()).toEqual([])
  expect((await ground.ledger.objectsAfter(0, null, 1000))!.items.filter(({ kind }) => kind === 'proof')).toHaveLength(
    2,
  )
})

test.each(
  rowsOfThisRun<[code: string, sabotage: () => Promise<Proof>]>(
    [
      [
        'no-link',
        () =>
          proofOf(settingsFor(), {
            change: received(({ text, html }) => ({
              text: text.replaceAll(/https?:\S+/g, ''),
              html: html.replaceAll(/https?:[^"]+/g, ''),
            })),
          }),
      ],
      // A line of the plain part that a server broke: its button works.
      [
        'text-link-broken',
        () =>
          proofOf(settingsFor(), {
            change: received(({ text }) => ({ text: text.replaceAll(/(https?:\S{30})(\S+)/g, '$1\n$2') })),
          }),
      ],
      [
        'mail-twice',
        () =>
          proofOf(settingsFor(), {
            change: (ports) => ({
              ...ports,
              mails: async (email) => {
                const { received: all, queued } = await ports.mails(email)
                return { received: all.flatMap((one) => [one, one]), queued }
              },
            }),
          }),
      ],
      [
        'other-sender',
        () =>
          proofOf(settingsFor(), {
            change: received(({ from }) => ({ from: { ...from, address: 'box4711@hosting.example' } })),
          }),
      ],
      [
        'sender-domain',
        () =>
          proofOf(settingsFor(), {
            change: received(({ headers }) => ({ headers: { ...headers, 'return-path': '<x@hosting.example>' } })),
          }),
      ],
      [
        'gift-missing',
        () => {
          rmSync(join(ground.folder, 'gifts', giftId))
          return proofOf(settingsFor())
        },
      ],
      [
        'gift-missing',
        () => {
          writeFileSync(join(ground.folder, 'gifts', giftId), 'another file')
          return proofOf(settingsFor())
        },
      ],
      [
        'other-subject',
        () => proofOf(settingsFor(), { change: received(() => ({ subject: '[LIST] Please confirm' })) }),
      ],
      ['one-part', () => proofOf(settingsFor(), { change: received(() => ({ html: '' })) })],
      [
        'placeholder-left',
        () =>
          proofOf(settingsFor(), { change: received(({ text }) => ({ text: `Hello {first-name|there}\n${text}` })) }),
      ],
      [
        'header-missing',
        () =>
          proofOf(settingsFor(), {
            change: received(({ headers }) => ({ headers: { ...headers, 'list-id': '' } })),
          }),
      ],
      ['clock', () => proofOf(settingsFor(), { change: (ports) => ({ ...ports, today: () => Date.now() - DAY_MS }) })],
      [
        'mail-refused',
        () =>
          proofOf(settingsFor(), {
            change: (ports) => ({
              ...ports,
              mails: async () => ({
                received: [],
                queued: [{ kind: 'confirmation', state: 'refused', said: '550 no such sender' }],
              }),
            }),
          }),
      ],
      ['mail-slow', () => proofOf(settingsFor(), { change: staying('sent', '250 taken') })],
      ['mail-server-slow', () => proofOf(settingsFor(), { change: staying('sending', '') })],
      [
        'link-rewritten',
        () =>
          proofOf(settingsFor(), {
            change: received(({ text, html }) => ({ text: led(text), html: led(html) })),
          }),
      ],
      ['other-html-link', () => proofOf(settingsFor(), { change: received(({ html }) => ({ html: led(html) })) })],
      [
        'link-over',
        () =>
          proofOf(settingsFor(), {
            change: (ports) => ({
              ...ports,
              send: async (submission, as) => {
                const page = await ports.send(submission, as)
                const { heading } = answerTo(samples.content, 'link-expired')
                return submission.address.includes('/confirm/')
                  ? { ...page, status: 410, html: `<main><h1>${heading}</h1></main>` }
                  : page
              },
            }),
          }),
      ],
      [
        'gift-over',
        () =>
          proofOf(settingsFor(), {
            change: (ports) => ({
              ...ports,
              download: async (address) => ({ status: 410, address, size: 0, sha256: '' }),
            }),
          }),
      ],
      [
        'gift-not-attached',
        () =>
          proofOf(settingsFor({ gift: { ...settingsFor().gift!, inWelcome: 'attachment' } }), {
            change: received(() => ({ attachments: [] })),
          }),
      ],
      [
        'mail-page',
        () =>
          proofOf(settingsFor(), {
            change: (ports) => ({
              ...ports,
              fetch: async (address, as) => {
                const page = await ports.fetch(address, as)
                return address.includes('/confirm/') ? { ...page, status: 404, html: '<h1>Nothing here</h1>' } : page
              },
            }),
          }),
      ],
    ],
    3,
  ),
)('sabotage: %s, found at Mail', async (code, sabotage) => {
  const proof = await sabotage()
  const last = proof.steps.at(-1)!
  expect([last.station, last.failure?.code]).toEqual(['mail', code])
  expect(proof.verdict).toBe('failed')
})

test.each(
  rowsOfThisRun<[what: string, settings: () => MailSettings, version: Version]>(
    [
      [
        'a placeholder in the subject that nothing is known for',
        () => {
          const written = settingsFor()
          const { welcome } = written.messages
          const subject = withPlaceholders('Welcome {first-name|}, to {list}')
          return { ...written, messages: { ...written.messages, welcome: { ...welcome, subject } } }
        },
        { ...samples.version, number: 5, content: { ...samples.content, fields: samples.content.fields.slice(0, 1) } },
      ],
      [
        'braces of its owner',
        () => {
          const written = settingsFor()
          const { welcome } = written.messages
          const text = [...welcome.text, ...richText('Write {member} on the slip, and {not-this|or that}.')]
          return { ...written, messages: { ...written.messages, welcome: { ...welcome, text } } }
        },
        samples.version,
      ],
      [
        'a whole name in the column of the first',
        () => settingsFor(),
        {
          ...samples.version,
          number: 6,
          content: {
            ...samples.content,
            fields: samples.content.fields.map((field) =>
              field.kind === 'first-name' ? { ...field, kind: 'full-name' as const, key: 'name' } : field,
            ),
          },
        },
      ],
    ],
    3,
  ),
)('no false alarm: %s', async (_, written, version) => {
  if (version !== samples.version) await ground.ledger.takeChanges([samples.change('version', version)])
  const proof = await proofOf(written(), { version })
  expect(proof.steps.filter(({ verdict }) => verdict === 'failed')).toEqual([])
  expect(proof.verdict).toBe('passed')
})

test.each(['always', 'never'] as const)(
  'a gift on the answer is taken as its reader would: confirmed %s',
  async (confirm) => {
    const written = settingsFor({ confirm, gift: { ...settingsFor().gift!, inWelcome: 'no', onAnswer: true } })
    const held = (proof: Proof) => proof.steps.find(({ what }) => what === 'The gift on the answer')
    // By a request alone it is not proven; presses.test.ts has it pressed.
    expect(held(await proofOf(written))?.verdict).toBe('not-tried')
    rmSync(join(ground.folder, 'gifts', giftId))
    expect(held(await proofOf(written))?.failure?.code).toBe('gift-missing')
  },
)

test('a sender at a free mailbox: not tried, because others are told to refuse such mail', async () => {
  const [domain] = POPULAR_DOMAINS
  const senderAddress = `letters@${domain}`
  const { steps } = await proofOf(settingsFor({ senderAddress, bounceAddress: senderAddress }))
  expect(steps.find(({ what }) => what === 'The sender')).toMatchObject({ station: 'mail', verdict: 'not-tried' })
})

test('the page of the owner’s that who confirmed is led to: it has to be that page', async () => {
  const { answers } = samples.content
  const confirmed = {
    show: 'address' as const,
    heading: '',
    message: '',
    address: `${ground.settings.publicUrl}/page/${samples.spot.id}`,
  }
  const version = { ...samples.version, number: 7, content: { ...samples.content, answers: { ...answers, confirmed } } }
  await ground.ledger.takeChanges([samples.change('version', version)])
  const pressed = (proof: Proof) => proof.steps.find(({ what }) => what === 'The button pressed')
  expect(pressed(await proofOf(settingsFor(), { version }))?.verdict).toBe('not-tried')
  const led = await proofOf(settingsFor(), {
    version,
    change: (ports) => ({
      ...ports,
      fetch: async (address, as) => {
        const page = await ports.fetch(address, as)
        return address === confirmed.address ? { ...page, address: 'https://elsewhere.example/' } : page
      },
    }),
  })
  expect(pressed(led)).toMatchObject({ failure: { code: 'own-page-leads-elsewhere', at: 'answer' } })
})

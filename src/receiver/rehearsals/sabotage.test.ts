import type { ServerResponse } from 'node:http'
import { frameAddress, frameCode, linkCode, pageAddress, placePart, plainCode, sharedLine } from '#core/embed'
import { inTagsCode } from '#core/inlining'
import { mangled, type Mangling } from '#core/install'
import { honeypotName, type Version } from '#core/form'
import type { Proof } from '#core/proof'
import { type Browser, rehearse, type RehearsalSubject } from '#core/rehearsal'
import type { Spot } from '#core/spot'
import { type Ground, openGround, page } from '../../../tests/rehearsal-ground'
import { rowsOfThisRun } from '../../../tests/seed'
import * as samples from '../../../tests/tables/samples'
import { receiverPorts } from './ports'

let ground: Ground
beforeAll(async () => void (ground = await openGround()))
afterAll(() => ground.close())
const serves: Ground['serves'] = (...args) => ground.serves(...args)
const placed: Ground['placed'] = (...args) => ground.placed(...args)
const plain: Ground['plain'] = (...args) => ground.plain(...args)
const subject: Ground['subject'] = (...args) => ground.subject(...args)
const proofOf = (of: RehearsalSubject, cases = CASES, browser: Browser | null = null) =>
  ground.proofOf(of, cases, browser)
const CASES: Proof['cases'] = [
  'first',
  'again',
  'wrong',
  'empty',
  'names',
  'bot',
  'double',
  'closed',
  'elsewhere',
  'scripts-off',
  'phone',
]
const failureOf = ({ steps }: Proof) => {
  const failed = steps.filter(({ verdict }) => verdict === 'failed')
  expect(failed.length).toBeLessThanOrEqual(1)
  return failed[0] === undefined ? null : `${failed[0].station}: ${failed[0].failure!.code}`
}

describe('a sound spot', () => {
  const codes: Record<string, () => { html: string; spot?: Partial<Spot> }> = {
    plain: () => ({ html: page(plain()) }),
    'plain, in another form': () => ({ html: `<body><form>${plain()}</form></body>` }),
    'styles in the tags': () => ({ html: page(inTagsCode(placed())), spot: { code: 'in-tags' } }),
    frame: () => ({
      html: page(
        frameCode(frameAddress(ground.settings.publicUrl, samples.spot.id), 'Sign up', { width: 480, height: 320 }),
      ),
      spot: { code: 'frame' },
    }),
    link: () => ({
      html: page(
        linkCode(samples.content, pageAddress(ground.settings.publicUrl, samples.spot.id), {
          shownAs: 'button',
          opens: 'here',
        }),
      ),
      spot: { code: 'link' },
    }),
    'landing page': () => ({ html: '', spot: { kind: 'landing' } }),
  }
  test.each(rowsOfThisRun(Object.keys(codes), 4))('%s: passes, again and again, and leaves no trace', async (name) => {
    const { html, spot = {} } = codes[name]!()
    serves(html)
    const before = [await ground.ledger.latest(), await ground.ledger.latestChange()]
    // Twenty times in a row.
    for (let count = 0; count < (name === 'plain' ? 20 : 2); count++) {
      const proof = await proofOf(subject({}, spot))
      expect(proof.steps.filter(({ verdict }) => verdict === 'failed')).toEqual([])
      expect(proof.verdict).toBe('passed')
      // What it has no means to try is said to be not tried, and never passed.
      expect(new Set(proof.steps.filter(({ verdict }) => verdict === 'not-tried').map((step) => step.case))).toEqual(
        // On a page of ours stand no scripts of others.
        new Set([...(name === 'landing page' ? [] : ['first']), 'scripts-off', 'phone']),
      )
    }
    expect([await ground.ledger.latest(), await ground.ledger.latestChange()]).toEqual(before)
  })

  test('under a style sheet in a file that hides others, and only on paper: passes', async () => {
    servesWith(
      '.aside { display: none } @media print { .promo { display: none } } @media (max-width: 200px) { .promo { display: none } }',
      `<div class="promo">${plain()}</div>`,
    )
    expect((await proofOf(subject())).verdict).toBe('passed')
  })

  test('under a style sheet that cannot be read: that it is seen was not tried', async () => {
    const html = page(plain(), '<link rel="stylesheet" href="/missing.css">')
    ground.answers((request, response) =>
      request.url === '/missing.css'
        ? response.writeHead(404).end()
        : response.writeHead(200, { 'Content-Type': 'text/html' }).end(html),
    )
    const { steps } = await proofOf(subject())
    expect(steps.find(({ verdict }) => verdict === 'not-tried')).toMatchObject({ case: 'page', station: 'spot' })
    expect(steps.filter(({ verdict }) => verdict === 'failed')).toEqual([])
  })

  test('script code: the page is proven, the rest needs a browser and is not tried', async () => {
    serves(
      page(
        placePart(samples.content, ground.settings.publicUrl, samples.spot.id, null),
        sharedLine(ground.settings.publicUrl),
      ),
    )
    const proof = await proofOf(subject({}, { code: 'script' }))
    expect(failureOf(proof)).toBeNull()
    expect(proof.verdict).toBe('not-tried')
    expect(proof.steps.find((step) => step.case === 'first')!.verdict).toBe('not-tried')
  })
})

describe('a landing page is tried as the file that is handed out, too', () => {
  const landing = () => subject({}, { kind: 'landing' })
  const damages: Record<string, [found: string | null, damage: (html: string) => string | null]> = {
    whole: [null, (html) => html],
    'with an address to write to': [
      null,
      (html) => html.replace('</body>', '<a href="mailto:ilse@people.example">Write</a><a href="#top">Up</a></body>'),
    ],
    'a field taken out': ['form: field-missing', (html) => html.replace('name="first-name"', '')],
    'sends to an address that leads nowhere from a disk': [
      'form: file-not-whole',
      (html) => html.replace(` action="${ground.settings.publicUrl}`, ' action="'),
    ],
    'a style sheet beside it': [
      'form: file-not-whole',
      (html) => html.replace('</head>', '<link rel="stylesheet" href="page.css"></head>'),
    ],
    'not handed out': ['form: page-missing', () => null],
  }
  test.each(rowsOfThisRun(Object.keys(damages), 4))('%s', async (name) => {
    const [found, damage] = damages[name]!
    const rehearsal = (await ground.rehearsals.start(landing().spot.id))!
    const ports = receiverPorts(rehearsal, {
      settings: ground.settings,
      mail: {
        queue: ground.ledger.queue,
        mailbox: () => Promise.resolve(null),
      },
    })
    const steps: Proof['steps'][number][] = []
    await rehearse(
      landing(),
      ['first'],
      {
        ...ports,
        async fetch(address, as) {
          const page = await ports.fetch(address, as)
          if (!address.includes('/file/')) return page
          const html = damage(page.html)
          if (found !== null) expect(html).not.toBe(page.html)
          return html === null ? { ...page, status: 404, html: '' } : { ...page, html }
        },
      },
      (step) => steps.push(step) > 0,
    )
    await ground.rehearsals.end(rehearsal.code)
    const byFile = steps.filter(({ what }) => what.includes('file'))
    expect(byFile.length).toBe(found === null ? 2 : 1)
    const { station, verdict, failure } = byFile.at(-1)!
    expect(verdict === 'failed' ? `${station}: ${failure!.code}` : null).toBe(found)
  })
})

test('an answer of many words is compared whole, and kept short', async () => {
  const { answers } = samples.content
  const message = 'Thank you very much. '.repeat(400).trim()
  const version = {
    ...samples.version,
    number: 4,
    content: { ...samples.content, answers: { ...answers, joined: { ...answers.joined, heading: message, message } } },
  }
  await ground.ledger.takeChanges([samples.change('version', version)])
  serves(page(plain(version)))
  expect((await proofOf(subject({ versions: [version] }), ['first'])).verdict).toBe('passed')
})

test('a page that forbids being framed: what needs the frame is not tried, and it says why', async () => {
  const html = page(
    placePart(samples.content, ground.settings.publicUrl, samples.spot.id, null),
    sharedLine(ground.settings.publicUrl),
  )
  const browser: Browser = {
    kind: 'frames' as const,
    origin: 'http://localhost:4310',
    zone: '',
    withScripts: () => Promise.reject(new Error('must not be asked')),
    withoutScripts: async () => ({ isTried: false, reason: 'No copy.' }),
  }
  for (const [headers, reason] of [
    [{ 'X-Frame-Options': 'SAMEORIGIN' }, /X-Frame-Options: SAMEORIGIN/],
    [{ 'Content-Security-Policy': "frame-ancestors 'self' https://partner.example" }, /frame-ancestors/],
    [{ 'Content-Security-Policy': "frame-ancestors 'none'", 'X-Frame-Options': 'ALLOWALL' }, /frame-ancestors/],
  ] as const) {
    serves(html, { headers })
    const { steps, verdict } = await proofOf(subject({}, { code: 'script' }), ['first', 'phone'], browser)
    expect(verdict).toBe('not-tried')
    const untried = steps.filter((step) => step.verdict === 'not-tried')
    expect(untried.map((step) => step.case)).toEqual(['first', 'phone'])
    for (const { seen } of untried) expect(seen).toMatch(reason)
  }
})

const manglings: Mangling[] = [
  'as-text',
  'curly-quotes',
  'paragraphs',
  'no-style-sheets',
  'no-attributes',
  'no-forms',
  'links-only',
]
const changed = (from: string | RegExp, to: string) => () => {
  const html = plain().replace(from, to)
  expect(html).not.toBe(plain())
  serves(page(html))
}
const later: Version = {
  ...samples.version,
  number: 2,
  content: { ...samples.content, words: { ...samples.content.words, heading: 'Later' } },
}
const withOwnPage = (address: string): Version => ({
  ...samples.version,
  number: 3,
  content: {
    ...samples.content,
    answers: { ...samples.content.answers, joined: { ...samples.content.answers.joined, show: 'address', address } },
  },
})

/** A page with a style sheet in a file of its own. */
function servesWith(css: string, body: string, media = ''): void {
  const html = page(body, `<link rel="stylesheet" href="/theme.css?ver=1"${media}>`)
  ground.answers((request, response) =>
    request.url!.startsWith('/theme.css')
      ? response.writeHead(200, { 'Content-Type': 'text/css' }).end(css)
      : response.writeHead(200, { 'Content-Type': 'text/html' }).end(html),
  )
}

/** Versions that a sabotage needs at the receiver. */
const published: Version[] = []

/** What is done to a sound set-up, and where and as what it has to be found. */
const sabotages: Record<
  string,
  [found: string, sabotage: () => Partial<RehearsalSubject> | void, spot?: Partial<Spot>]
> = {
  ...Object.fromEntries(
    manglings.map((mangling) => [
      `damage: ${mangling}`,
      [`spot: ${mangling}`, () => serves(page(mangled(plain(), mangling)))] as [string, () => void],
    ]),
  ),
  'an older version': ['spot: older', () => (serves(page(plain())), { versions: [samples.version, later] })],
  'the code of another spot': [
    'spot: other-spot',
    () => serves(page(plainCode({ ...placed(), spot: 'otherspot' as never }))),
  ],
  'no code at all': ['spot: absent', () => serves(page('<p>Words</p>'))],
  'form action changed by hand': ['spot: changed', changed(/ action="[^"]*"/, ' action="https://elsewhere.example/"')],
  'a field renamed by hand': ['spot: changed', changed('name="first-name"', 'name="fname"')],
  'a required field removed': ['spot: changed', changed(/<input[^>]*name="email"[^>]*>/, '')],
  'a field handed to another form': [
    'form: field-missing',
    changed('name="first-name"', 'form="search" name="first-name"'),
  ],
  'the shared line missing': [
    'spot: line-missing',
    () => serves(page(placePart(samples.content, ground.settings.publicUrl, samples.spot.id, null))),
    { code: 'script' },
  ],
  'the receiver’s address wrong': [
    'spot: other-receiver',
    () => serves(page(plainCode({ ...placed(), receiver: 'https://old.example' }))),
  ],
  'the spot retired': ['spot: spot-retired', () => serves(page(plain())), { state: 'retired' }],
  'a page behind a password': ['spot: page-private', () => serves('Who are you?', { status: 401 })],
  'a site that asks everybody to sign in': [
    'spot: page-private',
    () => serves(page('<form><input type="password" name="word"></form>')),
  ],
  'a page cached in an older state': [
    'spot: cached',
    () => (serves(page(plain()), { headers: { Age: '240' } }), { versions: [samples.version, later] }),
  ],
  'the page gone': ['spot: page-missing', () => serves('Gone', { status: 404 })],
  'the site broken': ['spot: site-error', () => serves('Oh', { status: 500 })],
  'the site down': ['spot: site-down', () => (ground.answers((request) => void request.destroy()), undefined)],
  'the trap made visible': [
    'form: trap-visible',
    () =>
      serves(
        page(
          `<div id="column">${plain()}</div>`,
          '<style>#column#column#column .askbox-more { display: block !important }</style>',
        ),
      ),
  ],
  'hidden by the site’s style': [
    'spot: hidden',
    () => serves(page(`<div class="promo">${plain()}</div>`, '<style>.promo { display: none }</style>')),
  ],
  'hidden by a style sheet in a file': [
    'spot: hidden',
    () => servesWith('.promo { display: none }', `<div class="promo">${plain()}</div>`),
  ],
  'hidden on phones': [
    'spot: hidden',
    () =>
      serves(
        page(
          `<div class="promo">${plain()}</div>`,
          '<style>@media screen and (max-width: 600px) { .promo { display: none } }</style>',
        ),
      ),
  ],
  'hidden on phones by a file for them': [
    'spot: hidden',
    () =>
      servesWith('.promo { visibility: hidden }', `<div class="promo">${plain()}</div>`, ' media="(max-width:40em)"'),
  ],
  'hidden by an attribute': ['spot: hidden', () => serves(page(`<div hidden>${plain()}</div>`))],
  'a button that sends nothing': ['form: no-button', changed('type="submit"', 'type="button"')],
  'a button that is switched off': ['form: button-disabled', changed('type="submit"', 'type="submit" disabled')],
  'a handler that stops sending': ['form: submit-stopped', changed('<form ', '<form onsubmit="return false" ')],
  'a field that only reads': ['form: field-locked', changed('name="email"', 'readonly name="email"')],
  'a field with room for little': ['form: field-locked', changed('name="email"', 'maxlength="10" name="email"')],
  'a wrapper’s own required field': [
    'form: foreign-required',
    () => serves(`<body><form><input name="search" required>${plain()}</form></body>`),
  ],
  'an answer that goes into a hidden frame': [
    'form: answer-unseen',
    () =>
      serves(
        page(
          `${plain().replace('<form ', '<form target="quiet" ')}<iframe name="quiet" style="display:none"></iframe>`,
        ),
      ),
  ],
  'two fields in one column': [
    'list: column-twice',
    () => {
      const [first, second] = samples.content.fields
      const version = {
        ...samples.version,
        number: 9,
        content: {
          ...samples.content,
          fields: [first!, second!, { ...second!, kind: 'line', key: 'other' }],
        },
      } as Version
      published.push(version)
      serves(page(plain(version)))
      return { versions: [version] }
    },
  ],
  'a landing page that a proxy keeps': [
    'form: cached',
    // Newer than any that the receiver hands out.
    () => ({ versions: [samples.version, { ...samples.version, number: 99 }] }),
    { kind: 'landing' },
  ],
  'a sandboxed frame': [
    'spot: sandboxed',
    () =>
      serves(
        page(
          frameCode(frameAddress(ground.settings.publicUrl, samples.spot.id), 'Sign up', {
            width: 480,
            height: 320,
          }).replace('<iframe ', '<iframe sandbox="allow-scripts" '),
        ),
      ),
    { code: 'frame' },
  ],
  'a link without words': [
    'spot: link-empty',
    () =>
      serves(
        page(
          linkCode(samples.content, pageAddress(ground.settings.publicUrl, samples.spot.id), {
            shownAs: 'words',
            opens: 'here',
          }).replace(/>[^<]+<\/a>/, '></a>'),
        ),
      ),
    { code: 'link' },
  ],
  'the list deleted': ['list: list-deleted', () => (serves(page(plain())), { list: null })],
  'a column of the list deleted': [
    'list: column-missing',
    () => (serves(page(plain())), { list: { ...samples.list, columns: [] } }),
  ],
}

describe('each sabotage is found at its station, with its cause', () => {
  test.each(rowsOfThisRun(Object.keys(sabotages), 4))('%s', async (name) => {
    const [found, sabotage, spot] = sabotages[name]!
    const more = sabotage() ?? {}
    for (const version of published.splice(0)) await ground.ledger.takeChanges([samples.change('version', version)])
    const proof = await proofOf(subject(more, spot))
    expect(failureOf(proof)).toBe(found)
    const { failure } = proof.steps.at(-1)!
    expect(
      [failure!.expected, failure!.happened, failure!.cause, failure!.mend].every((words) => words.length > 5),
    ).toBe(true)
  })

  const afterPages: Record<string, [found: string, answer: (response: ServerResponse) => void]> = {
    'the after-page missing': ['answer: own-page-missing', (response) => response.writeHead(404).end()],
    'the after-page answering 500': ['answer: own-page-error', (response) => response.writeHead(500).end()],
    'the after-page leading elsewhere': [
      'answer: own-page-leads-elsewhere',
      (response) => response.writeHead(302, { Location: '/somewhere' }).end(),
    ],
    'the after-page leading on by itself': [
      'answer: own-page-leads-elsewhere',
      (response) =>
        response
          .writeHead(200, { 'Content-Type': 'text/html' })
          .end('<html><head><meta http-equiv="refresh" content="0; url=/somewhere"></head><body>Wait</body></html>'),
    ],
    'the after-page’s site dropping connections': ['answer: own-page-unreached', (response) => void response.destroy()],
  }
  test.each(rowsOfThisRun(Object.keys(afterPages), 4))('%s', async (name) => {
    const [found, answer] = afterPages[name]!
    const version = withOwnPage(`${ground.siteAddress}/thanks`)
    await ground.ledger.takeChanges([samples.change('version', version)])
    const html = page(plain(version))
    ground.answers((request, response) => {
      if (request.url === '/thanks') answer(response)
      else response.writeHead(200, { 'Content-Type': 'text/html' }).end(html)
    })
    expect(failureOf(await proofOf(subject({ versions: [version] })))).toBe(found)
  })
})

test('the trap filled in all the same: taken for a bot, and said so', async () => {
  // As if a style sheet in a file of its own showed it, and a visitor or her browser filled in what she sees.
  const trap = honeypotName(samples.form.id)
  serves(page(plain().replace(`name="${trap}"`, `name="${trap}" value="oh"`)))
  expect(failureOf(await proofOf(subject()))).toBe('form: taken-for-bot')
})

test('what stands on the page of a spot that is closed is told', async () => {
  serves(page(plain() + plainCode({ ...placed(), spot: 'closedspot' as never })))
  const proof = await proofOf(subject({ closed: new Map([['closedspot', 'The old sidebar']]) }), ['first'])
  expect(proof.steps[0]!.seen).toMatch(/closed stands there as well.*The old sidebar/)
})

test('an address that leads on: the page that was looked at is named', async () => {
  ground.answers((request, response) =>
    request.url === '/post'
      ? response.writeHead(302, { Location: '/moved' }).end()
      : response.writeHead(200, { 'Content-Type': 'text/html' }).end(page('<p>Words</p>')),
  )
  const { failure } = (await proofOf(subject(), ['first'])).steps.at(-1)!
  expect(failure).toMatchObject({ code: 'absent', cause: expect.stringMatching(/leads on to \S+\/moved/) })
})

test.each([
  [404, 'spot: spot-unknown'],
  [429, 'settings: too-many'],
  [503, 'settings: not-ready'],
  [520, 'settings: not-taken'],
])('a sign-up that is answered by %d is named by what that means', async (status, found) => {
  serves(page(plain()))
  const rehearsal = (await ground.rehearsals.start(samples.spot.id))!
  const ports = receiverPorts(rehearsal, {
    settings: ground.settings,
    mail: {
      queue: ground.ledger.queue,
      mailbox: () => Promise.resolve(null),
    },
  })
  const steps: Proof['steps'][number][] = []
  const send = async (...args: Parameters<typeof ports.send>) => ({
    ...(await ports.send(...args)),
    status,
    html: '<h1>Not now</h1>',
  })
  await rehearse(subject(), ['first'], { ...ports, send }, (step) => steps.push(step) > 0)
  await ground.rehearsals.end(rehearsal.code)
  const { failure } = steps.at(-1)!
  expect(`${failure!.at}: ${failure!.code}`).toBe(found)
  expect(failure!.happened).toContain('Not now')
})

/** What a rehearsal through changed ports comes to: its last step. */
async function lastWith(
  of: RehearsalSubject,
  change: (ports: ReturnType<typeof receiverPorts>) => Partial<ReturnType<typeof receiverPorts>>,
): Promise<Proof['steps']> {
  const rehearsal = (await ground.rehearsals.start(of.spot.id))!
  const ports = receiverPorts(rehearsal, {
    settings: ground.settings,
    mail: {
      queue: ground.ledger.queue,
      mailbox: () => Promise.resolve(null),
    },
  })
  const steps: Proof['steps'][number][] = []
  await rehearse(of, ['first'], { ...ports, ...change(ports) }, (step) => steps.push(step) > 0)
  await ground.rehearsals.end(rehearsal.code)
  return steps
}

test.each([
  [{ frameOptions: 'SAMEORIGIN' }, /X-Frame-Options: SAMEORIGIN/],
  [{ policies: ["frame-ancestors 'self'"] }, /frame-ancestors/],
])('a proxy before the receiver that forbids frames: %o', async (headers, says) => {
  serves(
    page(frameCode(frameAddress(ground.settings.publicUrl, samples.spot.id), 'Sign up', { width: 480, height: 320 })),
  )
  const steps = await lastWith(subject({}, { code: 'frame' }), ({ fetch }) => ({
    fetch: async (address, as) => ({
      ...(await fetch(address, as)),
      ...(address.includes('/frame/') && headers),
    }),
  }))
  expect(steps.at(-1)).toMatchObject({ station: 'form', failure: { code: 'frame-forbidden', at: 'settings' } })
  expect(steps.at(-1)!.failure!.happened).toMatch(says)
})

test('the puzzle of a guard: its script has to be handed out', async () => {
  const version: Version = {
    ...samples.version,
    content: { ...samples.content, guard: { leastSeconds: 0, noThrowAway: false, puzzle: true } },
  }
  serves(page(plain()))
  const puzzle = (status: number, html: string) =>
    lastWith(subject({ versions: [version] }), ({ fetch }) => ({
      fetch: async (address, as) =>
        address.endsWith('/puzzle.js') ? { ...(await fetch(ground.siteAddress)), status, html } : fetch(address, as),
    }))
  const held = (steps: Proof['steps']) => steps.find(({ what }) => what.startsWith('The puzzle'))
  expect(held(await puzzle(200, 'export const solve = 1'))!.verdict).toBe('passed')
  expect(held(await puzzle(404, 'Nothing'))!.failure!.code).toBe('puzzle-missing')
  expect(held(await puzzle(200, '<!DOCTYPE html><p>Blocked'))!.failure!.code).toBe('puzzle-missing')
})

test('a slow page is slow, and not down', async () => {
  serves(page(plain()))
  let late = 0
  const steps = await lastWith(subject(), ({ fetch, now }) => ({
    now: () => now() + late,
    fetch: async (address, as) => {
      if (address.startsWith(ground.siteAddress)) late += 6_000
      return fetch(address, as)
    },
  }))
  expect(steps[0]).toMatchObject({ verdict: 'passed', seen: expect.stringMatching(/took 6\.\d seconds/) })
  expect(steps.filter(({ verdict }) => verdict === 'failed')).toEqual([])
})

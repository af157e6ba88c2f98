import fc from 'fast-check'
import { htmlToText } from 'html-to-text'
import { DateTime } from 'luxon'
import { parse } from 'parse5'
import type { ListId, PictureId, SpotId } from '#core/ids'
import { startMail } from '#core/message'
import { richText, type RichText } from '#core/text'
import { momentIn } from '#core/zone'
import { mailMarkupProblems, unsupportedInMail } from '../../../tests/html-checker'
import {
  type Feed,
  type LetterBlock,
  type LetterBody,
  letterFindings,
  letterOfPosts,
  linksOfLetter,
  newPosts,
  nextRound,
  nextStep,
  type Post,
  renderLetter,
  type SeriesContent,
} from '.'

const list = { name: 'Clear-sky alerts', why: 'You asked for it.' }
const settings = {
  ...startMail('clearskyalerts' as ListId, list.name).draft,
  ...{ senderAddress: 'letters@hill.example', senderName: 'Ada', postalAddress: 'Quarry Road 7' },
}
const facts = {
  ...{ firstName: 'Wren', leaveLink: 'https://f.example/leave/a', webCopy: 'https://f.example/letter/b' },
  ...{
    pictureAddress: (id: string) => `https://f.example/picture/${id}`,
    pageOf: (spot: string) => `https://f.example/page/${spot}`,
  },
}
const render = (body: LetterBody, more = {}) => renderLetter(body, { list, settings, facts: { ...facts, ...more } })
const body = (blocks: LetterBlock[], changes: Partial<LetterBody> = {}): LetterBody => ({
  ...{ subject: richText('Hello'), preview: '', isPlain: false, blocks },
  ...changes,
})
const words = (text: string | RichText, as: 'text' | 'title' | 'heading' | 'quote' = 'text'): LetterBlock => ({
  ...{ id: 'w1', kind: 'words', as, text: typeof text === 'string' ? richText(text) : text },
})
const everything = body([
  words('The title', 'title'),
  words('Some words about the sky.'),
  words('A heading', 'heading'),
  words('A quotation', 'quote'),
  {
    ...{ id: 'p1', kind: 'picture', picture: { id: 'pic1' as PictureId, width: 900, height: 600 }, address: '' },
    ...{ alt: 'The dome', link: 'https://hill.example/dome', width: 'full' },
  },
  { id: 'b1', kind: 'button', words: 'Read on', link: 'https://hill.example/more' },
  { id: 'r1', kind: 'rule' },
  { id: 's1', kind: 'space', height: 20 },
  {
    ...{ id: 'c1', kind: 'columns' },
    left: [{ id: 'l1', kind: 'words', as: 'text', text: richText('On the left') }],
    right: [{ id: 'l2', kind: 'button', words: 'On the right', link: 'https://hill.example/right' }],
  },
  { id: 'o1', kind: 'offer', spot: 'spot1' as SpotId, heading: 'Join us', text: richText('Do.'), button: 'Sign up' },
])

test('both parts of a letter say the same, as a package reads text out of HTML', () => {
  const { html, text } = render(everything)
  const read = htmlToText(html!, { wordwrap: false, selectors: [{ selector: 'img', format: 'skip' }] }).toLowerCase()
  const wordsOf = (said: string) => said.toLowerCase().match(/\p{L}{2,}/gu) ?? []
  // What the plain part says besides: the words for pictures.
  for (const word of wordsOf(text).filter((word) => word !== 'the' && word !== 'dome')) expect(read).toContain(word)
  for (const link of [
    'hill.example/dome',
    'hill.example/more',
    'hill.example/right',
    'f.example/page/spot1',
    'f.example/leave/a',
  ])
    for (const part of [html, text]) expect(part).toContain(link)
})

test('a letter of every kind of block holds in what mail programs support, and is HTML by a checker', async () => {
  const { html } = render(everything)
  expect(unsupportedInMail(html!)).toEqual([])
  expect(await mailMarkupProblems(html!)).toEqual([])
  const worse = html!.replace('</body>', '<p style="display:grid"><div></p></body>')
  expect(unsupportedInMail(worse)).toContain('display:grid')
  expect(await mailMarkupProblems(worse)).not.toEqual([])
})

test('whatever is typed is text in a letter: nothing runs, no element and no address but those that were meant', () => {
  const nasty = fc.oneof(
    fc.string({ unit: 'grapheme' }),
    fc.constantFrom(
      '<script>alert(1)</script>',
      '"><img src=x onerror=alert(1)>',
      'javascript:alert(1)',
      '[[sections]]',
      "' onmouseover='x",
      '<!--words-->',
      'https://hill.example/"><b>',
    ),
  )
  const tagsOf = (html: string) => {
    const tags = new Set<string>()
    const visit = (node: { nodeName: string; attrs?: { name: string; value: string }[]; childNodes?: never[] }) => {
      tags.add(node.nodeName)
      for (const { name, value } of node.attrs ?? []) {
        if (/^on/i.test(name)) tags.add(name)
        if ((name === 'href' || name === 'src') && !/^(https?:|mailto:|tel:|#$)/i.test(value)) tags.add(value)
      }
      for (const child of node.childNodes ?? []) visit(child)
    }
    visit(parse(html) as never)
    return tags
  }
  const plain = tagsOf(render(everything).html!)
  fc.assert(
    fc.property(nasty, nasty, nasty, (one, two, three) => {
      const { html, subject, text } = render(
        body(
          [
            words(one, 'title'),
            words([{ kind: 'paragraph', spans: [{ text: two }, { text: three, placeholder: 'first-name' }] }]),
            { id: 'b1', kind: 'button', words: one, link: two },
            { id: 'p1', kind: 'picture', picture: null, address: three, alt: two, link: one, width: 'half' },
            { id: 'o1', kind: 'offer', spot: 'spot1' as SpotId, heading: three, text: richText(one), button: two },
          ],
          { subject: [{ kind: 'paragraph', spans: [{ text: one.slice(0, 200) }] }], preview: two.slice(0, 200) },
        ),
        { firstName: three },
      )
      // Line breaks within a text are the only elements that typing adds.
      const added = [...tagsOf(html!)].filter((tag) => !plain.has(tag) && tag !== 'br')
      expect(added).toEqual([])
      expect(subject).not.toMatch(/[\r\n]/)
      expect(text).toContain('https://f.example/leave/a')
    }),
    { numRuns: 300 },
  )
})

test('a moment by a zone’s clocks is the same as a package’s, over every change of summer time of two years', () => {
  const zones = ['Europe/Vienna', 'America/New_York', 'Australia/Lord_Howe', 'Asia/Kathmandu', 'Pacific/Apia', 'UTC']
  fc.assert(
    fc.property(
      fc.constantFrom(...zones),
      fc.integer({ min: 0, max: 730 }),
      fc.integer({ min: 0, max: 47 }),
      (zone, days, half) => {
        const day = new Date(Date.UTC(2025, 0, 1 + days)).toISOString().slice(0, 10)
        const time = `${String(Math.floor(half / 2)).padStart(2, '0')}:${half % 2 === 0 ? '00' : '30'}`
        const made = momentIn(zone, day, time)
        const theirs = DateTime.fromISO(`${day}T${time}`, { zone })
        // An hour that is shown twice is one of both; ours is the first.
        const again = theirs.minus({ hours: 1 })
        const isTwice = again.toFormat('HH:mm') === time
        expect(made).toBe(isTwice ? again.toMillis() : theirs.toMillis())
      },
    ),
    { numRuns: 400 },
  )
})

test.each([
  // The last Sunday of March 2026 in Vienna has no 02:30, that of October has it twice (IANA database, EU rules).
  ['2026-03-29', '02:30', '2026-03-29T01:30:00.000Z'],
  ['2026-10-25', '02:30', '2026-10-25T00:30:00.000Z'],
])('%s at %s in Vienna is %s', (day, time, is) => {
  expect(new Date(momentIn('Europe/Vienna', day, time)).toISOString()).toBe(is)
})

describe('a series', () => {
  const step = (id: string, days: number, time: string) => ({ id, days, time, body: body([words('x')]) })
  const content: SeriesContent = {
    ...{ name: 'First weeks', list: 'l' as ListId, tag: '', includesThoseThere: false, zone: 'UTC' },
    steps: [step('b', 3, '09:00'), step('a', 0, '18:00'), step('c', 3, '12:00')],
  }
  const began = Date.parse('2026-03-02T10:00:00Z')
  test.each([
    [null, 'a', '2026-03-02T18:00'],
    [{ days: 0, time: '18:00' }, 'b', '2026-03-05T09:00'],
    [{ days: 3, time: '09:00' }, 'c', '2026-03-05T12:00'],
  ])('after %j comes %s', (place, id, at) => {
    const next = nextStep(content, place, began, 'UTC')
    expect([next?.step.id, new Date(next!.due).toISOString().slice(0, 16)]).toEqual([id, at])
  })
  test('is over after the last; what is put in before where somebody is, is not for them', () => {
    expect(nextStep(content, { days: 3, time: '12:00' }, began, 'UTC')).toBeNull()
    const more = { ...content, steps: [...content.steps, step('new', 1, '09:00')] }
    expect(nextStep(more, { days: 3, time: '09:00' }, began, 'UTC')?.step.id).toBe('c')
    expect(nextStep(more, { days: 0, time: '18:00' }, began, 'UTC')?.step.id).toBe('new')
  })
  test('by each reader’s clock, and on the day of joining at once where the hour is over', () => {
    const late = Date.parse('2026-03-02T20:00:00Z')
    expect(nextStep(content, null, late, 'UTC')!.due).toBe(late)
    expect(new Date(nextStep(content, null, began, 'America/New_York')!.due).toISOString()).toBe(
      '2026-03-02T23:00:00.000Z',
    )
  })
  test('nobody gets two at once or one twice, whatever the steps and wherever they are (property)', () => {
    const steps = fc.array(
      fc.record({ days: fc.integer({ min: 0, max: 20 }), hour: fc.integer({ min: 0, max: 23 }) }),
      { maxLength: 10 },
    )
    fc.assert(
      fc.property(steps, fc.constantFrom('UTC', 'Asia/Tokyo', 'America/New_York'), (all, zone) => {
        const made = {
          steps: all.map(({ days, hour }, at) => step(`s${at}`, days, `${String(hour).padStart(2, '0')}:00`)),
        }
        const got: string[] = []
        let due = 0
        for (let next = nextStep(made, null, began, zone); next !== null;) {
          expect(next.due).toBeGreaterThanOrEqual(due)
          expect(got).not.toContain(next.step.id)
          due = next.due
          got.push(next.step.id)
          next = nextStep(made, next.step, began, zone)
        }
        expect(got.length).toBeLessThanOrEqual(all.length)
      }),
    )
  })
})

const post = (id: string, changes: Partial<Post> = {}): Post => ({
  ...{ id, title: `Post ${id}`, address: `https://hill.example/${id}`, at: 2_000, summary: richText('Short.') },
  ...{ whole: [words('Whole.')], picture: '' },
  ...changes,
})

test('of a feed’s posts only those are news that were not known, not doubled, and not from before it was begun', () => {
  const known = new Set(['old', 'https://hill.example/old'])
  const posts = [
    ...[post('new'), post('new', { title: 'Edited' }), post('other', { address: 'https://hill.example/new' })],
    ...[post('old', { title: 'Edited' }), post('moved', { address: 'https://hill.example/old' })],
    ...[post('dated', { at: 999 }), post('undated', { at: null })],
  ]
  expect(newPosts(posts, known, 1_000).map(({ id }) => id)).toEqual(['new', 'undated'])
  expect(newPosts(posts, null, 0)).toEqual([])
})

const feed: Feed['draft'] = {
  ...{ name: 'Blog', address: 'https://hill.example/feed', lists: ['l' as ListId], readers: { kind: 'everybody' } },
  ...{ rhythm: { kind: 'weekly', weekday: 4, time: '08:00' }, zone: 'Europe/Vienna', most: 2, logo: null },
  subject: [{ kind: 'paragraph', spans: [{ text: 'New: ' }, { text: '', placeholder: 'post-title' }] }],
  ...{
    above: [words('Above')],
    below: [],
    shows: 'summary',
    hasPicture: true,
    isInArchive: false,
    goesByItself: false,
  },
}

test('posts become one letter, newest first and at most so many; the title stands in the subject as text', () => {
  let n = 0
  const letter = letterOfPosts(
    feed,
    [post('a', { at: 1 }), post('b', { at: 3, title: 'B\r\nBcc: x' }), post('c', { at: 2 })],
    { readOn: 'Read on', newId: () => `n${(n += 1)}` },
  )
  const { subject, text } = render(letter)
  expect(subject).toBe('New: B Bcc: x (+1)')
  expect(text.indexOf('https://hill.example/b')).toBeLessThan(text.indexOf('https://hill.example/c'))
  expect(text).not.toContain('https://hill.example/a>')
  expect(linksOfLetter(letter).map(({ address }) => address)).toEqual([
    'https://hill.example/b',
    'https://hill.example/c',
  ])
})

test('a weekly letter goes on its day at its hour, over the change of summer time', () => {
  const at = nextRound(feed, Date.parse('2026-03-27T12:00:00Z'))
  // Friday, 3 April 2026, 08:00 in Vienna, which is two hours before UTC by then.
  expect(new Date(at).toISOString()).toBe('2026-04-03T06:00:00.000Z')
})

describe('looked at before it goes', () => {
  const look = (letter: LetterBody, changes: object = {}) =>
    letterFindings({
      ...{
        body: letter,
        settings: { ...settings, published: true } as never,
        pictureBytes: new Map(),
        htmlBytes: 9_000,
      },
      plain: render(letter).text.split('-- \n')[0]!,
      ...changes,
    }).map(({ code, weight }) => `${weight} ${code}`)
  test('a letter that is well has nothing to mend', () => {
    expect(look(everything)).toEqual([])
  })
  const button = (link: string): LetterBlock => ({ id: 'b1', kind: 'button', words: 'Go', link })
  const picture = (changes: object): LetterBlock => ({
    ...{
      id: 'p1',
      kind: 'picture',
      picture: null,
      address: 'https://h.example/a.png',
      alt: 'A',
      link: '',
      width: 'full',
    },
    ...changes,
  })
  test.each<[string, LetterBody, object]>([
    ['stops no-subject', body([words('x')], { subject: [] }), {}],
    ['look long-subject', body([words('x')], { subject: richText('s'.repeat(61)) }), {}],
    ['look shouts', body([words('x')], { subject: richText('Hurry up now!!!') }), {}],
    ['look shouts', body([words('COME ABOARD TONIGHT AND SEE SATURN')]), {}],
    ['look typed-placeholder', body([words('Hello {first name},')]), {}],
    ['look typed-placeholder', body([words('Hello [FNAME],')]), {}],
    ['look no-fallback', body([words([{ kind: 'paragraph', spans: [{ text: '', placeholder: 'first-name' }] }])]), {}],
    ['stops no-picture', body([words('x'), picture({ address: '' })]), {}],
    ['look no-alt', body([words('x'), picture({ alt: ' ' })]), {}],
    ['look pictures-only', body([picture({})]), {}],
    ['stops no-link', body([words('x'), button('')]), {}],
    ['stops wrong-link', body([words('x'), button('javascript:alert(1)')]), {}],
    ['stops empty', body([]), {}],
    ['stops no-mail', body([words('x')]), { settings: null }],
    ['stops no-sender', body([words('x')]), { settings: { ...settings, senderAddress: '' } }],
    ['look no-postal', body([words('x')]), { settings: { ...settings, postalAddress: '' } }],
    ['look long', body([words('x')]), { htmlBytes: 103_000 }],
    [
      'look contrast',
      body([words('x')]),
      { settings: { ...settings, colours: { ...settings.colours, text: '#cccccc' } } },
    ],
  ])('%s', (finding, letter, changes) => {
    expect(look(letter, changes)).toContain(finding)
  })
})

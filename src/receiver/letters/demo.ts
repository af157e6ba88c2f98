import type { SendingId } from '#core/ids'
import type { Feed, Letter, LetterBlock, LetterContent } from '#core/letter'
import { inOrder } from '#core/letter'
import type { Member } from '#core/list'
import { richText } from '#core/text'
import type { Ledger } from '../ledger'

const DAY_MS = 86_400_000
const PEOPLE_AT_ONCE = 1_000
/** So many an hour, as shared hosting lets (common practice). */
const AN_HOUR = 200

/** What the demo's letters came to: one sent last week, one going at its pace, one of the blog's that asks, and readers in the series. */
export async function addDemoLetters(ledger: Ledger, now: number, site: string): Promise<void> {
  const published = ledger.published()
  const [series] = published.series()
  const [feed] = published.feeds()
  if (series === undefined || feed === undefined) return
  const list = series.published!.list
  const all = await peopleOf(ledger, list)
  const people = all.filter(({ status }) => status === 'confirmed')
  const letter = { kind: 'letter', id: 'lastweek' as Letter['id'] } as const

  const sentAt = now - 7 * DAY_MS
  const then = all.filter(({ joinedAt, status }) => Date.parse(joinedAt) < sentAt && status !== 'waiting')
  await ledger.letters.keepPast({
    ...{ id: 'demosent' as SendingId, source: letter, content: sentLetter([list], site), when: { kind: 'now' } },
    ...{ state: 'done', at: sentAt, presses: [Math.round(then.length * 0.23)] },
    copies: then.map((member, at) => ({
      ...{ member, at: sentAt + Math.round((at / AN_HOUR) * 3_600_000) },
      state: member.status === 'bounced' ? 'bounced' : 'sent',
      hasLeft: member.status === 'left' && at % 3 === 0,
    })),
  })
  const begun = now - 3_600_000
  await ledger.letters.keepPast({
    ...{ id: 'demogoing' as SendingId, source: letter, content: goingLetter([list], site), when: { kind: 'now' } },
    ...{ state: 'going', at: begun, presses: [] },
    copies: people.map((member, at) => {
      const when = begun + Math.round((at / AN_HOUR) * 3_600_000)
      return { member, at: when, state: when < now ? 'sent' : 'waiting' }
    }),
  })
  await ledger.letters.send(
    {
      id: 'demoasks' as SendingId,
      source: { kind: 'feed', id: feed.id },
      content: blogLetter(feed, site),
      when: { kind: 'now' },
    },
    true,
  )
  const [first] = inOrder(series.published!.steps)
  for (const member of people.filter(({ joinedAt }) => Date.parse(joinedAt) > now - 4 * DAY_MS))
    if (Date.parse(member.joinedAt) < now - 2 * DAY_MS) await ledger.letters.keepReaderAt(series.id, member, first!)
}

async function peopleOf(ledger: Ledger, list: string): Promise<Member[]> {
  const people: Member[] = []
  for (let rank = 0; ;) {
    const page = await ledger.letters.people(list, rank, PEOPLE_AT_ONCE)
    people.push(...page.map(({ member }) => member))
    if (page.length < PEOPLE_AT_ONCE) return people
    rank = page.at(-1)!.rank
  }
}

const words = (id: string, as: 'text' | 'title' | 'quote', text: string): LetterBlock => ({
  ...{ id, kind: 'words', as },
  text: richText(text),
})
const button = (link: string, words: string): LetterBlock => ({ id: 'press', kind: 'button', words, link })
const letterOf = (subject: string, lists: LetterContent['lists'], blocks: LetterBlock[]): LetterContent => ({
  ...{ subject: richText(subject), preview: '', isPlain: false, blocks, lists },
  ...{ readers: { kind: 'everybody' }, isInArchive: true, countsLinks: false },
})

const sentLetter = (lists: LetterContent['lists'], site: string): LetterContent => ({
  ...letterOf('Three clear nights in a row', lists, [
    words('title', 'title', 'Three clear nights in a row'),
    words(
      'text',
      'text',
      'Friday, Saturday and Sunday look good. The gate is open from dusk, the kettle a little before.',
    ),
    words('quote', 'quote', 'If you can see the chapel weathercock from the car park, the telescopes are out.'),
    button(`${site}/observatory/posts/open-nights`, 'What is up this week'),
  ]),
  countsLinks: true,
})

const goingLetter = (lists: LetterContent['lists'], site: string): LetterContent =>
  letterOf('The gate is open on Friday', lists, [
    words('title', 'title', 'The gate is open on Friday'),
    words(
      'text',
      'text',
      'Two of our three cloud charts agree, and so does the barn cat. Come up from dusk on, and bring a second pair of socks.',
    ),
    button(`${site}/observatory/posts/open-nights`, 'How to find us in the dark'),
  ])

function blogLetter({ published }: Feed, site: string): LetterContent {
  const link = `${site}/posts/first-frost`
  return {
    ...letterOf('New on the blog: First frost, first light', published!.lists, [
      {
        ...{ id: 'title', kind: 'words', as: 'title' },
        text: [{ kind: 'paragraph', spans: [{ text: 'First frost, first light', link }] }],
      },
      words(
        'text',
        'text',
        'The dome slid open at half past five and the grass was already white. Ilka brought the urn of blackcurrant tea, which is the only instrument up here that never needs collimating.',
      ),
      button(link, 'Read on'),
    ]),
  }
}

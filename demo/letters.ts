import type { FeedId, LetterId, ListId, SeriesId, SpotId } from '#core/ids'
import type { Feed, Letter, LetterBlock, LetterBody, Series } from '#core/letter'
import type { PictureUse } from '#core/picture'
import { richText, type RichText } from '#core/text'

/** What the demo's owner writes to the lists. */

const hello: RichText = [
  {
    kind: 'paragraph',
    spans: [{ text: 'Hello ' }, { text: 'there', placeholder: 'first-name' }, { text: ',' }],
  },
]
const words = (id: string, as: 'text' | 'title', text: string | RichText): LetterBlock => ({
  ...{ id, kind: 'words', as },
  text: typeof text === 'string' ? richText(text) : text,
})
const body = (subject: string, blocks: LetterBlock[], preview = ''): LetterBody => ({
  ...{ subject: richText(subject), preview, isPlain: false, blocks },
})
const toAll = { readers: { kind: 'everybody' }, isInArchive: true, countsLinks: true } as const

export function demoLetters({
  picture,
  clearSky,
  spot,
  site,
  createdAt,
}: {
  picture: PictureUse
  clearSky: ListId
  spot: SpotId
  site: string
  createdAt: string
}): { letters: Letter[]; series: Series[]; feeds: Feed[] } {
  const draft: Letter = {
    id: 'novemberletter' as LetterId,
    createdAt,
    draft: {
      ...body(
        'What the new mirror saw first',
        [
          {
            ...{ id: 'd1', kind: 'picture', picture, address: '', width: 'full' },
            ...{ alt: 'The dome at dusk, with the first stars over the quarry', link: `${site}/posts/new-mirror` },
          },
          words('d2', 'title', 'What the new mirror saw first'),
          words('d3', 'text', [
            ...hello,
            ...richText(
              'Forty centimetres of glass, three years of cake sales, and one barn cat who thinks the crate was for her. On the first clear night we turned it to the double cluster in Perseus, and nobody spoke for a while.',
            ),
          ]),
          { id: 'd4', kind: 'button', words: 'Read the whole story', link: `${site}/posts/new-mirror` },
          { id: 'd5', kind: 'rule' },
          {
            ...{ id: 'd6', kind: 'columns' },
            left: [
              { id: 'd7', kind: 'words', as: 'heading', text: richText('Open night') },
              {
                id: 'd8',
                kind: 'words',
                as: 'text',
                text: richText('Friday from dusk, if the sky holds. Bring a second pair of socks.'),
              },
            ],
            right: [
              { id: 'd9', kind: 'words', as: 'heading', text: richText('Cake sale') },
              {
                id: 'd10',
                kind: 'words',
                as: 'text',
                text: richText('Saturday at two. Rhubarb on the first table, everything else on the second.'),
              },
            ],
          },
          {
            ...{ id: 'd11', kind: 'offer', spot, heading: 'Know when the sky clears' },
            ...{
              text: richText('A short mail on the afternoon of a clear evening, and nothing else.'),
              button: 'Tell me too',
            },
          },
        ],
        'And what the barn cat thinks of it',
      ),
      lists: [clearSky],
      ...toAll,
      countsLinks: false,
    },
  }
  const step = (id: string, days: number, time: string, subject: string, text: string) => ({
    ...{ id, days, time },
    body: body(subject, [words(`${id}a`, 'title', subject), words(`${id}b`, 'text', [...hello, ...richText(text)])]),
  })
  const content: Series['draft'] = {
    ...{ name: 'The first weeks', list: clearSky, tag: '', includesThoseThere: false, zone: 'Europe/Vienna' },
    steps: [
      step(
        'one',
        1,
        '18:00',
        'How we decide at four o’clock',
        'Every afternoon at four somebody looks at three cloud charts and one real sky. If two of the four agree, you hear from us.',
      ),
      step(
        'two',
        4,
        '18:00',
        'What to bring up the hill',
        'Warm socks, a red lamp if you have one, and something to sit on. The kettle is ours.',
      ),
      step(
        'three',
        14,
        '09:00',
        'Three things to find without a telescope',
        'The Andromeda galaxy as a smudge, the Pleiades as a small cloud, and the colour of Betelgeuse.',
      ),
    ],
  }
  const series: Series = {
    ...{ id: 'firstweeks' as SeriesId, createdAt, draft: content, published: content, isPaused: false },
  }
  const feedContent: Feed['draft'] = {
    ...{ name: 'Volunteers’ blog', address: `${site}/feed.xml`, lists: [clearSky], readers: { kind: 'everybody' } },
    ...{ rhythm: { kind: 'each' }, zone: 'Europe/Vienna', most: 3 },
    subject: [{ kind: 'paragraph', spans: [{ text: 'New on the blog: ' }, { text: '', placeholder: 'post-title' }] }],
    ...{ logo: null, above: [], shows: 'summary', hasPicture: true, isInArchive: true, goesByItself: false },
    below: [words('f1', 'text', 'You get this when somebody up here has written something.')],
  }
  const feed: Feed = {
    ...{ id: 'blogfeed' as FeedId, createdAt, draft: feedContent, published: feedContent, isPaused: false },
  }
  return { letters: [draft], series: [series], feeds: [feed] }
}

import { content } from '../../../tests/tables/samples'
import { quietPalette } from '#core/look'
import { type SpotKind, startPopUp } from '#core/spot'
import { placeFindings } from './site-page'

const site = { name: 'A site', palette: quietPalette }
const plain = { ...content, look: { ...content.look, ground: { kind: 'colour' as const } } }

const cases: {
  what: string
  kind: SpotKind
  heights: Record<number, number>
  out: Record<number, number>
  says: RegExp[]
}[] = [
  { what: 'what fits', kind: 'sidebar', heights: { 280: 400 }, out: { 280: 0 }, says: [] },
  { what: 'too wide', kind: 'sidebar', heights: { 280: 400 }, out: { 280: 31 }, says: [/too wide: at 280 px.*by 31/] },
  { what: 'too high beside the text', kind: 'sidebar', heights: { 280: 900 }, out: {}, says: [/900 px high/] },
  {
    what: 'a pop-up that scrolls',
    kind: 'pop-up',
    heights: { 358: 900, 544: 600 },
    out: {},
    says: [/900 px high at 358/],
  },
]
test.each(cases)('$what', ({ kind, heights, out, says }) => {
  const found = placeFindings({ content: plain, kind, popUp: startPopUp }, site, heights, out)
  expect(found).toEqual(says.map((words) => expect.stringMatching(words)))
})

test('words in nearly the colour of the site’s ground', () => {
  const faint = { ...content.look, ground: { kind: 'none' as const } }
  const look = { ...faint, colours: { ...faint.colours, text: quietPalette.background } }
  const [said] = placeFindings({ content: { ...content, look }, kind: 'inline', popUp: startPopUp }, site, {})
  expect(said).toMatch(/lost against the site’s ground: 1\.0 : 1/)
})

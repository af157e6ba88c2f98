import type { SiteKind } from '#core/site'

/** A pretend site: one of each kind that owners meet. */
export interface PretendSite {
  key: string
  /** The path it lives under, without a slash at the end. */
  path: string
  name: string
  kind: SiteKind
  colour: string
  pages: readonly PretendPage[]
}

export interface PretendPage {
  /** Below its site's path; empty for the front page. */
  path: string
  title: string
  /** Set for posts, which have a part after them and stand in the list of posts. */
  date?: string
  text: string
}

const about = (text: string): PretendPage => ({ path: '/about', title: 'About', text })
const home = (name: string, text: string): PretendPage => ({ path: '', title: name, text })

const NOVEMBER = [
  'The winter stars rise while you wash up. Begin with the Seven Sisters: count them twice.',
  'Most people see six. Whoever sees nine has good eyes and a dark field, and should tell nobody, or they will be asked to drive.',
  'Below them the Bull looks along the horizon with one orange eye. Hold a hand out: from the eye to the Sisters it is a fist and a half, and everything between belongs to his head.',
  'Wait an hour. The Hunter comes up lying on his side, belt first. Three stars in a row mean that the kettle has gone cold, and that winter has begun.',
  'With a field glass, stop at the middle of the sword: a small cloud with a hard bright heart. It is not your glass. Rest your elbows on the gate, breathe out, and look a little beside it.',
  'On the seventeenth some stones fall out of the Lion, late and fast. Lie down facing away from the village, and bring more blankets than you think is polite.',
  'If it is cloudy, it is cloudy. Draw what you remember, and hold the drawing against the sky next time. Nothing teaches more than the second look.',
].join('\n\n')
const OCTOBER = [
  'The great square stands on its corner. From there it is two hops to the galaxy that you can see without a glass.',
  'Hop to the left from the upper corner, two stars along; then up, two fainter ones. Beside the last there is a smear, as long as a thumb nail at the end of your arm.',
  'What you see left before there was anybody to see it. Say so to a child, and then be quiet for as long as they are.',
  'In a field glass it grows to three times the width of the moon, and still has no edge. It is not worth more glass than that: the whole of it does not fit into any of ours.',
  'Low in the south one star stands alone. It is the mouth of a fish that nobody up here has ever seen whole, for the rest of it lies behind the quarry.',
  'Turn round before you go in. The plough is on its way down, and the bear with it; by Christmas she stands on her tail behind the barn.',
].join('\n\n')

/** All invented. The first site is the one at the server's root. */
export const sites: readonly PretendSite[] = [
  {
    key: 'volunteers',
    path: '',
    name: 'Cloudberry Hill volunteers',
    kind: 'self-hosted-blog',
    colour: '#14283a',
    pages: [
      home('Cloudberry Hill volunteers', 'What we saw, what broke, and who brought cake.'),
      {
        path: '/posts/first-frost',
        title: 'First frost, first light',
        date: '14 November',
        text: 'The dome slid open at half past five and the grass was already white. Ilka brought the urn of blackcurrant tea, which is the only instrument up here that never needs collimating.\n\nWe had eleven visitors, two of them under ten, and Saturn low over the quarry. Somebody always asks whether it is a sticker on the lens. This time it was the headmaster.\n\nIf the sky holds, we open again on Friday. Bring a second pair of socks.',
      },
      {
        path: '/posts/new-mirror',
        title: 'The new mirror has arrived',
        date: '2 November',
        text: 'It came in a crate the size of a wardrobe, with so much straw that the barn cat has moved in. Forty centimetres, ground by hand, and paid for by three years of cake sales.\n\nFirst tests are next week. We will write about what we see, and about what we break.',
      },
      {
        path: '/posts/counting-meteors',
        title: 'How to count meteors lying down',
        date: '19 October',
        text: 'You need a blanket, a clipboard, a red lamp and a friend who stays awake. Count only what crosses your own quarter of the sky, and write down the minute, not the second.\n\nLast year our field counted 214 in one night. The sheep were not impressed.',
      },
      {
        path: '/cake-sale',
        title: 'The cake sale',
        text: 'Every slice grinds a little more glass. Rhubarb on the first table, everything else on the second.\n\nWe open at two and are usually sold out by three.',
      },
      about('Nineteen people with a key to the gate, and one barn cat.'),
    ],
  },
  {
    key: 'observatory',
    path: '/observatory',
    name: 'Cloudberry Hill Observatory',
    kind: 'block-editor-blog',
    colour: '#3a2a1c',
    pages: [
      home('Cloudberry Hill Observatory', 'A dome, two telescopes and a kettle, at the end of a stony track.'),
      {
        path: '/posts/open-nights',
        title: 'Open nights',
        date: 'Every clear Friday, from dusk',
        text: 'The gate is open from dusk, the kettle from a little before. No booking, no charge; children need somebody who can carry them back down.\n\nWhether we open is decided at four in the afternoon, when the cloud charts are in. If you want to know before you lace your boots, ask us to write to you.',
      },
      {
        path: '/posts/school-visits',
        title: 'School visits',
        date: 'Weekday mornings, February to June',
        text: 'We take one class at a time, up to thirty children and two adults. There is a sundial to walk on, a moon to hold, and, if the weather is kind, a sunspot to count through the small telescope.\n\nDates for the spring open in January, and go within a week. Leave an address and you hear a day before everyone else.',
      },
      {
        path: '/friends',
        title: 'Become a friend of the hill',
        text: 'Friends pay for bulbs, gravel and the telephone. In return they get the key to the small dome for one night a year.\n\nIt costs what you can spare.',
      },
      about('Built in 1931 by a postmaster who could not sleep.'),
    ],
  },
  {
    key: 'star-party',
    path: '/star-party',
    name: 'Cloudberry star party',
    kind: 'builder-with-head',
    colour: '#41205e',
    pages: [
      home('Cloudberry star party', 'Three nights in August, forty telescopes, one field.'),
      {
        path: '/posts/field-opens',
        title: 'The field opens on Thursday',
        date: '6 August',
        text: 'Come before dark: headlights after nine make enemies. The top row is for those who stay up longest.',
      },
      {
        path: '/posts/what-to-bring',
        title: 'What to bring',
        date: '30 July',
        text: 'Red lamps only. A chair that leans back. More jumpers than you believe.',
      },
      {
        path: '/tickets',
        title: 'Tickets',
        text: 'A pitch for three nights, water and the morning porridge. Children under twelve sleep for nothing.\n\nThere are sixty pitches, and they go in May.',
      },
      about('Run by nine people who swore never again, eleven years ago.'),
    ],
  },
  {
    key: 'quarry-cafe',
    path: '/quarry-cafe',
    name: 'The Quarry Café',
    kind: 'builder-without-code',
    colour: '#5a3d1e',
    pages: [
      home('The Quarry Café', 'Soup, bread and the best view of the dome.'),
      {
        path: '/posts/winter-hours',
        title: 'Winter hours',
        date: '1 November',
        text: 'From Thursday to Sunday, ten to four; on open nights until the dome closes.',
      },
      {
        path: '/posts/new-oven',
        title: 'A new oven',
        date: '12 October',
        text: 'It holds nine loaves instead of four, and the old one is now a planter.',
      },
      {
        path: '/hampers',
        title: 'Hampers',
        text: 'Bread, cheese, a flask and a blanket, packed for the hill. Order a day before.',
      },
      about('Two sisters and a very patient baker.'),
    ],
  },
  {
    key: 'field-guide',
    path: '/field-guide',
    name: 'Field guide to the northern sky',
    kind: 'static-pages',
    colour: '#20403c',
    pages: [
      home('Field guide to the northern sky', 'What to look for, where, and with what: a page for each month.'),
      {
        path: '/posts/november',
        title: 'November',
        date: 'November',
        text: NOVEMBER,
      },
      {
        path: '/posts/october',
        title: 'October',
        date: 'October',
        text: OCTOBER,
      },
      {
        path: '/book',
        title: 'The book',
        text: 'All twelve pages, printed on paper that takes dew. Ask for one at the gate.',
      },
      about('Written on the hill, one clear night at a time.'),
    ],
  },
]

/** Where pages are listed. */
export const LISTING = '/posts'

export function siteOf(path: string): { site: PretendSite; page: PretendPage | 'listing' } | null {
  // The longest path first, so that the site at the root does not answer for the others.
  for (const site of [...sites].sort((one, other) => other.path.length - one.path.length)) {
    if (path !== site.path && !path.startsWith(`${site.path}/`)) continue
    const rest = path.slice(site.path.length).replace(/\/$/, '')
    if (rest === LISTING) return { site, page: 'listing' }
    const page = site.pages.find((one) => one.path === rest)
    return page === undefined ? null : { site, page }
  }
  return null
}

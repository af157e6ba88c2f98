import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs'

/** The pretend sites that share this server, by the path they live under. */
export const sites = [
  { path: '', name: 'Cloudberry Hill volunteers', colour: '#14283a' },
  { path: '/observatory', name: 'Cloudberry Hill Observatory', colour: '#3a2a1c' },
] as const
export type PretendSite = (typeof sites)[number]

/** A post of a pretend site. `code` is raw HTML from the editor's slot, put on the page as it is. */
export interface Post {
  /** The path of its site. */
  site: PretendSite['path']
  slug: string
  title: string
  date: string
  text: string
  code: string
  /** Set for what stands beside every post of the site, instead of being one. */
  isSideColumn?: true
}

export interface Posts {
  all(): Post[]
  of(site: PretendSite): Post[]
  sideColumn(site: PretendSite): Post
  find(slug: string): Post | undefined
  save(post: Post): void
}

/** The posts of all pretend sites, kept in one file so that pasted code is still there after a restart. */
export function openPosts(file: string): Posts {
  const kept = existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as Post[]) : []
  // What an older file lacks is there as it was invented.
  let posts: Post[] = [...kept, ...invented.filter(({ slug }) => !kept.some((one) => one.slug === slug))]
  return {
    all: () => posts,
    of: (site) => posts.filter((post) => post.site === site.path && !post.isSideColumn),
    sideColumn: (site) => posts.find((post) => post.site === site.path && post.isSideColumn)!,
    find: (slug) => posts.find((post) => post.slug === slug),
    save(post) {
      posts = posts.map((one) => (one.slug === post.slug ? post : one))
      writeFileSync(`${file}.new`, JSON.stringify(posts, null, 1))
      renameSync(`${file}.new`, file)
    },
  }
}

const invented: Post[] = [
  {
    site: '',
    slug: 'first-frost',
    title: 'First frost, first light',
    date: '14 November',
    text: 'The dome slid open at half past five and the grass was already white. Ilka brought the urn of blackcurrant tea, which is the only instrument up here that never needs collimating.\n\nWe had eleven visitors, two of them under ten, and Saturn low over the quarry. Somebody always asks whether it is a sticker on the lens. This time it was the headmaster.\n\nIf the sky holds, we open again on Friday. Bring a second pair of socks.',
    code: '',
  },
  {
    site: '',
    slug: 'new-mirror',
    title: 'The new mirror has arrived',
    date: '2 November',
    text: 'It came in a crate the size of a wardrobe, with so much straw that the barn cat has moved in. Forty centimetres, ground by hand, and paid for by three years of cake sales.\n\nFirst tests are next week. We will write about what we see, and about what we break.',
    code: '',
  },
  {
    site: '',
    slug: 'counting-meteors',
    title: 'How to count meteors lying down',
    date: '19 October',
    text: 'You need a blanket, a clipboard, a red lamp and a friend who stays awake. Count only what crosses your own quarter of the sky, and write down the minute, not the second.\n\nLast year our field counted 214 in one night. The sheep were not impressed.',
    code: '',
  },
  {
    site: '/observatory',
    slug: 'open-nights',
    title: 'Open nights',
    date: 'Every clear Friday, from dusk',
    text: 'The gate is open from dusk, the kettle from a little before. No booking, no charge; children need somebody who can carry them back down.\n\nWhether we open is decided at four in the afternoon, when the cloud charts are in. If you want to know before you lace your boots, ask us to write to you.',
    code: '',
  },
  {
    site: '/observatory',
    slug: 'school-visits',
    title: 'School visits',
    date: 'Weekday mornings, February to June',
    text: 'We take one class at a time, up to thirty children and two adults. There is a sundial to walk on, a moon to hold, and, if the weather is kind, a sunspot to count through the small telescope.\n\nDates for the spring open in January, and go within a week. Leave an address and you hear a day before everyone else.',
    code: '',
  },
  ...sites.map(({ path }): Post => ({
    site: path,
    slug: `side-column${path.replace('/', '-')}`,
    title: 'Side column',
    date: '',
    text: 'Open every clear Friday, from dusk. Bring warm socks.',
    code: '',
    isSideColumn: true,
  })),
]

/** Where a post is read, below the server's address. The side column is read on the site's front page. */
export function pathOf(post: Post): string {
  return post.isSideColumn ? post.site || '/' : `${post.site}/posts/${post.slug}`
}

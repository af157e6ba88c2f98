import { type Connection, type HandOver, shippedServices } from '#core/connection'
import { parseEmail } from '#core/email'
import { countsViews } from '#core/embed'
import {
  type Field,
  type FieldKind,
  newField,
  type Form,
  type FormContent,
  shapeOf,
  startContent,
  type Theme,
  type Version,
} from '#core/form'
import type {
  ArrivalId,
  BatchId,
  CommandId,
  ConnectionId,
  FormId,
  HandOverId,
  JournalId,
  ListId,
  MemberId,
  SiteId,
  SpotId,
  ThemeId,
  TrialId,
} from '#core/ids'
import type { Entry } from '#core/journal'
import { type List, startList } from '#core/list'
import { type Mail, type MailSettings } from '#core/mail'
import { startMail, withPlaceholders } from '#core/message'
import type { Site } from '#core/site'
import type { CodeKind, PopUp, Spot, SpotKind } from '#core/spot'
import { emptyWorkspace, type Workspace } from '#core/workspace'
import { type Palette, plainLook } from '#core/look'
import { bullets, plainText, richText } from '#core/text'
import { textsOf } from '#core/texts'
import { type Rule, startRule } from '#core/rule'
import type { Trial } from '#core/trial'
import { chance } from './chance'
import { demoLetters } from './letters'
import { demoMessages } from './messages'
import { nightOverTheHill } from './picture'
import { proofs } from './proofs'

const SEED = 20_261_120
const DAYS = 60
const DAY_MS = 86_400_000
/** The demo's last moment; whoever loads it moves it to today. */
const WRITE_FORM = 'writeform'
const END = Date.parse('2026-11-20T20:00:00.000Z')
const STAND_INS = 'http://127.0.0.1:4320'
const SHIPPED_BASE = 'http://127.0.0.1:4330'

/** Cloudberry Hill Observatory and everything around it is invented. */
/** @param chart the gift's file: the SHA-256 of its bytes, and how many there are */
export function cloudberryHill(chart: { id: string; size: number }): Workspace {
  const parts = plans.map(carryOut)
  const laterParts = laterPlans.map(carryOut)
  const all = [...parts, ...laterParts]
  return {
    ...emptyWorkspace(time(END)),
    sites,
    lists: Object.values(lists),
    mails: [clearSkyMail(chart), placesMail()],
    connections: [lanternPost],
    handOvers: [schoolsHandedOn],
    forms: all.map(({ form }) => form),
    versions: all.flatMap(({ versions }) => versions),
    spots: all.map(({ spot }) => spot),
    trials: all.flatMap(({ trial }) => trial ?? []),
    themes: [nightTheme],
    pictures: [picture],
    ...demoLetters({
      picture: { id: picture.id, width: picture.width, height: picture.height },
      clearSky: lists.clearSky.id,
      spot: plans.find(({ kind }) => kind === 'landing')!.spot as SpotId,
      site: STAND_INS,
      createdAt: time(END - DAY_MS),
    }),
    journal: {
      id: 'cloudberryhilljournal' as JournalId,
      entries: withOwnersHand(
        inOrder([...history(parts), ...laterHistory(laterParts), ...broughtIn(), ...writtenTo(laterParts)]),
      ),
    },
    proofs,
  }
}

/** A pretend service, and the list that goes on to it. Its key is made where the demo is started. */
const lanternPost: Connection = {
  id: 'lanternpost' as ConnectionId,
  name: 'Our letters at Lantern Post',
  way: { kind: 'api', service: shippedServices(SHIPPED_BASE)[0]!, asked: {} },
  isRehearsed: false,
  createdAt: time(END - 30 * DAY_MS),
}
const schoolsHandedOn: HandOver = {
  id: 'schoolshandedon' as HandOverId,
  list: 'schoolvisits' as ListId,
  connection: lanternPost.id,
  target: { id: 'l1', name: 'Observatory news' },
  fields: [
    { column: 'first-name', key: 'FIRST', name: 'First name' },
    { column: 'class-size', key: 'CLASS', name: 'Class size' },
  ],
  sendsTags: true,
  moment: 'confirmed',
  confirmsThere: false,
  isPaused: false,
  createdAt: time(END - 30 * DAY_MS),
}

const picture = nightOverTheHill()
const hill: Palette = {
  background: '#fbf8f1',
  text: '#2b2118',
  accent: '#7a3b1e',
  colours: ['#fbf8f1', '#2b2118', '#7a3b1e', '#1c2b3a', '#f0b94d', '#efe7d6'],
  font: '',
  manner: { headingWeight: '500', buttonCorner: 3, fieldCorner: 3 },
}
const volunteers: Palette = {
  background: '#fdfcf9',
  text: '#1f2a33',
  accent: '#24584f',
  colours: ['#fdfcf9', '#1f2a33', '#24584f', '#14283a', '#e3ebe6'],
  font: '',
  manner: { headingWeight: '700', buttonCorner: 8, fieldCorner: 8 },
}

const created = time(END - 75 * DAY_MS)

const sites: Site[] = [
  {
    id: 'observatorysite' as SiteId,
    name: 'Observatory site',
    address: `${STAND_INS}/observatory`,
    kind: 'block-editor-blog',
    privacy: `${STAND_INS}/observatory/about`,
    palette: hill,
    createdAt: created,
  },
  {
    id: 'volunteersblog' as SiteId,
    name: 'Volunteers’ blog',
    address: `${STAND_INS}/`,
    kind: 'self-hosted-blog',
    palette: volunteers,
    createdAt: created,
  },
  {
    id: 'pageoflinks' as SiteId,
    name: 'Page of links',
    address: 'https://links.cloudberryhill.example/',
    kind: 'other',
    palette: null,
    createdAt: created,
  },
  {
    id: 'starparty' as SiteId,
    name: 'Star party',
    address: `${STAND_INS}/star-party`,
    kind: 'builder-with-head',
    palette: null,
    createdAt: created,
  },
  {
    id: 'quarrycafe' as SiteId,
    name: 'Quarry Café',
    address: `${STAND_INS}/quarry-cafe`,
    kind: 'builder-without-code',
    palette: null,
    createdAt: created,
  },
  {
    id: 'fieldguide' as SiteId,
    name: 'Field guide',
    address: `${STAND_INS}/field-guide`,
    kind: 'static-pages',
    palette: null,
    createdAt: created,
  },
]

const lists = {
  clearSky: {
    ...startList('clearskyalerts' as ListId, 'Clear-sky alerts', created),
    why: 'You asked Cloudberry Hill Observatory to write when the sky is clear.',
    columns: [
      { key: 'first-name', label: 'First name' },
      { key: 'watches-from', label: 'Watches from' },
    ],
  },
  letter: {
    ...startList('membersletter' as ListId, 'Members’ letter', created),
    why: 'You asked for the letter of Cloudberry Hill Observatory.',
  },
  schools: {
    ...startList('schoolvisits' as ListId, 'School visits', created),
    why: 'You asked Cloudberry Hill Observatory about school visits.',
    columns: [
      { key: 'first-name', label: 'First name' },
      { key: 'school', label: 'School' },
      { key: 'class-size', label: 'Class size', kind: 'number' },
      { key: 'wants-the-leaflet', label: 'Wants the leaflet', kind: 'yes-no', isHidden: true },
    ],
    filters: [
      {
        name: 'Large classes',
        filter: {
          join: 'and',
          conditions: [
            { about: 'tag', is: true, tag: 'large class' },
            { about: 'status', is: true, status: 'confirmed' },
          ],
        },
      },
    ],
  },
  places: {
    ...startList('starpartyplaces' as ListId, 'Star-party places', created),
    why: 'You asked for a place at the star party of Cloudberry Hill Observatory.',
  },
} satisfies Record<string, List>

/** Who joins is welcomed, with the chart that the landing page promises. */
function clearSkyMail({ id, size }: { id: string; size: number }): Mail {
  const start = startMail(lists.clearSky.id, lists.clearSky.name, 'en', {
    ground: '#fbf8f1',
    text: '#2b2118',
    button: '#1c2b3a',
    buttonText: '#fbf8f1',
  }).draft
  const settings: MailSettings = {
    ...start,
    senderName: 'Ilka at Cloudberry Hill',
    senderAddress: 'letters@cloudberryhill.example',
    replyTo: 'ilka@cloudberryhill.example',
    bounceAddress: 'bounces@cloudberryhill.example',
    postalAddress: 'Cloudberry Hill Observatory, Quarry Road 7, Hilltown',
    messages: {
      ...start.messages,
      welcome: {
        ...start.messages.welcome,
        subject: withPlaceholders('Clear skies, {first-name|and welcome}'),
        text: withPlaceholders(
          'Hello {first-name|there},\n\nOn Fridays when the sky over the hill is clear, you hear from us before noon. On all other Fridays you hear nothing, and can stay in by the stove.',
        ),
      },
    },
    gift: {
      label: 'The winter star chart',
      what: { kind: 'file', id, name: 'winter-star-chart.pdf', type: 'application/pdf', size },
      onAnswer: false,
      inWelcome: 'link',
      firstSoMany: null,
      times: null,
      days: null,
    },
  }
  return { list: lists.clearSky.id, draft: settings, published: settings }
}

/** Places are few, so that everybody confirms, and is reminded once. */
function placesMail(): Mail {
  const start = startMail(lists.places.id, lists.places.name, 'en', {
    ground: '#eef0f7',
    text: '#1d2140',
    button: '#3b3f8f',
    buttonText: '#ffffff',
  }).draft
  const settings: MailSettings = {
    ...start,
    confirm: 'always',
    senderName: 'Star party at Cloudberry Hill',
    senderAddress: 'party@cloudberryhill.example',
    bounceAddress: 'bounces@cloudberryhill.example',
    postalAddress: 'Cloudberry Hill Observatory, Quarry Road 7, Hilltown',
    messages: { ...start.messages, reminder: { ...start.messages.reminder, isOn: true } },
  }
  return { list: lists.places.id, draft: settings, published: settings }
}

const texts = textsOf('en')
const field = (kind: FieldKind, changes: Partial<Field> = {}) => ({ ...newField(kind, texts), ...changes }) as Field

const night = {
  ...plainLook,
  colours: {
    background: '#1c2b3a',
    text: '#f2ecdc',
    button: '#f0b94d',
    buttonText: '#1c1a12',
    field: null,
    edge: null,
  },
}
const sand = {
  ...plainLook,
  colours: {
    background: '#efe7d6',
    text: '#33291d',
    button: '#7a3b1e',
    buttonText: '#ffffff',
    field: null,
    edge: null,
  },
}
const mist = {
  ...plainLook,
  colours: {
    background: '#e3ebe6',
    text: '#1f3230',
    button: '#24584f',
    buttonText: '#ffffff',
    field: null,
    edge: null,
  },
}
const nightTheme: Theme = { id: 'nighttheme' as ThemeId, name: 'Night', look: night }

interface Plan {
  form: string
  name: string
  list: List
  site: Site
  kind?: SpotKind
  popUp?: PopUp
  code?: CodeKind
  /** For what is placed by rule. */
  rule?: Rule
  theme?: Theme
  page: string
  spot: string
  /** Sign-ups a day on an ordinary day. */
  pace: number
  /** Oldest first; each published so many days before the end. */
  published: { daysBefore: number; content: FormContent }[]
  /** Other words that are shown in turn with the newest, since so many days before the end. */
  trial?: { daysBefore: number; name: string; content: FormContent; plan: Trial['plan'] }
}

const clearSky: FormContent = {
  ...startContent('Clear-sky alerts'),
  words: {
    ...startContent('').words,
    heading: 'Will it be clear on Friday?',
    introduction: richText('At four in the afternoon we know. Leave the address you really read and you know it too.'),
    button: 'Tell me at four',
    small: richText('One short mail on Fridays. Leave with one press.'),
  },
  fields: [field('email', { placeholder: 'name@mail.example' })],
  look: night,
}

const letter: FormContent = {
  ...startContent('Members’ letter'),
  words: {
    ...startContent('').words,
    heading: 'The letter from the hill',
    introduction: richText('Once a month: what we saw, what broke, and who brought cake.'),
    button: 'Send me the letter',
    small: richText('No spam, no selling. Every letter says how to leave.'),
  },
  fields: [field('email'), field('first-name', { placeholder: 'So that we can greet you' })],
  look: sand,
}

const schools: FormContent = {
  ...startContent('School visits'),
  words: {
    ...startContent('').words,
    heading: 'Hear of the spring dates first',
    introduction: richText('For teachers. We write when the dates open, a day before everyone else.'),
    button: 'Put our class down',
    small: richText('Two or three mails a year.'),
  },
  fields: [
    field('email', { label: 'School email' }),
    field('first-name', { label: 'Your first name', required: true }),
  ],
  look: mist,
  answers: {
    joined: {
      show: 'address',
      heading: 'Thank you',
      message: '',
      address: `${STAND_INS}/observatory/posts/school-visits`,
    },
    'already-on-list': startContent('').answers['already-on-list'],
  },
}

const landing = shapeOf('landing')!
const starChart: FormContent = {
  ...startContent('Clear-sky alerts', landing, hill),
  words: {
    heading: 'The winter sky, on one sheet of paper',
    introduction: richText(
      'Our star chart shows what stands above Cloudberry Hill from December to March. Leave your address and it is yours to print.',
    ),
    points: bullets([
      'Drawn for the naked eye, no telescope needed',
      'One sheet, black on white, readable by red lamp',
      'With the dates of every open night this winter',
    ]),
    note: [],
    button: 'Send me the chart',
    small: richText('With it come our Friday alerts. Leave with one press.'),
    quote: richText('It hangs on our fridge, and the children now argue about Aldebaran.'),
    quoteBy: 'Oona, who brings the soup',
    after: richText(
      'Eleven winters ago somebody asked what the bright one over the quarry was. Ilka drew it on the back of a parking ticket. Next Friday there were four people with questions, and the ticket was full.\n\nThe chart has grown since. It is still drawn by hand, still checked on the hill, and still free.',
    ),
  },
  illustration: {
    picture: { id: picture.id, width: picture.width, height: picture.height },
    phonePicture: null,
    alternative: 'The dome on the hill under a sky full of stars',
    isDecoration: false,
    onPhones: true,
  },
  fields: [
    field('email', { placeholder: 'name@mail.example' }),
    field('first-name', { width: 'half' }),
    {
      ...(field('choose-one', { width: 'half', label: 'You watch from', column: 'watches-from' }) as Extract<
        Field,
        { kind: 'choose-one' }
      >),
      choices: [
        { key: 'town', label: 'A town' },
        { key: 'country', label: 'The country' },
        { key: 'hill', label: 'Your own hill' },
      ],
    },
    field('consent', {
      wording: [
        {
          kind: 'paragraph',
          spans: [
            { text: 'Yes, write to me on clear Fridays. How we keep addresses: ' },
            { text: 'privacy', link: 'https://cloudberryhill.example/privacy' },
          ],
        },
      ],
    } as Partial<Field>),
  ],
  page: {
    title: 'The winter star chart · Cloudberry Hill Observatory',
    description: 'A printable chart of the winter sky, free, from Cloudberry Hill Observatory.',
    sharePicture: { id: picture.id, width: picture.width, height: picture.height },
    icon: null,
  },
}

const [observatory, blog, links] = sites as [Site, Site, Site]
const earlier = (content: FormContent, heading: string): FormContent => ({
  ...content,
  words: { ...content.words, heading },
})

const plans: Plan[] = [
  {
    form: 'clearskyform',
    name: 'Observatory site, inline: Clear-sky alerts',
    list: lists.clearSky,
    site: observatory,
    page: `${STAND_INS}/observatory/posts/open-nights`,
    spot: 'opennights',
    theme: nightTheme,
    pace: 3.2,
    published: [
      { daysBefore: 62, content: earlier(clearSky, 'Get our clear-sky alerts') },
      { daysBefore: 33, content: clearSky },
    ],
  },
  {
    form: 'blogletterform',
    name: 'Volunteers’ blog, inline: Members’ letter',
    list: lists.letter,
    site: blog,
    page: `${STAND_INS}/posts/first-frost`,
    spot: 'firstfrost',
    pace: 1.6,
    published: [{ daysBefore: 61, content: letter }],
  },
  {
    form: 'schoolsform',
    name: 'Observatory site, inline: School visits',
    list: lists.schools,
    site: observatory,
    page: `${STAND_INS}/observatory/posts/school-visits`,
    spot: 'schoolvisit',
    pace: 0.5,
    published: [{ daysBefore: 61, content: schools }],
  },
  {
    form: 'linksform',
    name: 'Page of links, inline: Clear-sky alerts',
    list: lists.clearSky,
    site: links,
    page: '',
    spot: 'linkspage',
    code: 'script',
    theme: nightTheme,
    pace: 0.9,
    published: [{ daysBefore: 58, content: earlier(clearSky, 'Clear skies, by mail') }],
    trial: {
      daysBefore: 21,
      name: 'As a question',
      content: earlier(clearSky, 'Will you see the stars on Friday?'),
      plan: { rate: 0.052, difference: 0.026, views: 2_695 },
    },
  },
  {
    form: 'starchartform',
    name: 'Observatory site, landing page: Star chart',
    list: lists.clearSky,
    site: observatory,
    kind: 'landing',
    page: '',
    spot: 'starchart',
    pace: 0.7,
    published: [{ daysBefore: 40, content: starChart }],
  },
]

const sideCard = shapeOf('side-card')!
const oneLine = shapeOf('footer-line')!
const popUpCard = shapeOf('pop-up')!
const dusk: Palette = {
  ...hill,
  background: '#ffffff',
  text: '#1d2140',
  accent: '#3b3f8f',
  colours: ['#ffffff', '#1d2140', '#3b3f8f', '#eef0f7'],
}

const places: FormContent = {
  ...startContent('Star-party places', sideCard, dusk),
  words: {
    ...startContent('', sideCard).words,
    heading: 'A place in the field',
    introduction: richText('Forty places, one clear weekend. We write first to whoever asked.'),
    button: 'Keep me a place',
    small: richText('We use your address for the party alone.'),
  },
  fields: [field('email', { placeholder: 'name@mail.example' })],
}
const footer: FormContent = {
  ...startContent('Members’ letter', oneLine, volunteers),
  words: {
    ...startContent('', oneLine).words,
    heading: 'The letter from the hill',
    introduction: richText('Once a month. Leave whenever you like.'),
    button: 'Send it to me',
  },
}
const popUp: FormContent = {
  ...startContent('Clear-sky alerts', popUpCard, dusk),
  words: {
    ...startContent('', popUpCard).words,
    heading: 'Clear on the weekend?',
    introduction: richText('On Friday at four we know, and write to you.'),
    button: 'Tell me on Friday',
    small: richText('You can leave with one press.'),
  },
}

/** People write to the keeper by it, and may join the alerts as well. */
const write: FormContent = {
  ...startContent('Clear-sky alerts', shapeOf('write')!, hill),
  words: {
    ...startContent('', shapeOf('write')!).words,
    heading: 'Write to the hill',
    introduction: richText('Ilka reads every word, and answers when the kettle is on.'),
    button: 'Send it up the hill',
  },
  fields: withSubject(startContent('', shapeOf('write')!, hill).fields),
  messages: { to: 'ilka@cloudberryhill.example', keepDays: 90 },
}

function withSubject([email, message, box]: readonly Field[]): Field[] {
  return [
    { ...email!, label: 'Your email' },
    field('subject'),
    message!,
    { ...box!, wording: richText('Also write to me on clear Fridays. I can leave at any time.') } as Field,
  ]
}

/** Added in the last weeks: a side column with confirmation, a pop-up, a footer that its rule puts on the pages of a guide, and one to write by. */
const laterPlans: Plan[] = [
  {
    form: 'placesform',
    name: 'Star party, sidebar: Star-party places',
    list: lists.places,
    site: sites[3]!,
    kind: 'sidebar',
    page: `${STAND_INS}/star-party/posts/what-to-bring`,
    spot: 'partysidebar',
    pace: 1,
    published: [{ daysBefore: 13, content: places }],
  },
  {
    form: 'weekendform',
    name: 'Star party, pop-up: Clear-sky alerts',
    list: lists.clearSky,
    site: sites[3]!,
    kind: 'pop-up',
    popUp: {
      position: 'bottom-end',
      when: { kind: 'leaving' },
      often: { kind: 'days', days: 30 },
      pages: { which: 'only', patterns: ['/star-party/posts/field-opens'] },
    },
    page: `${STAND_INS}/star-party/posts/field-opens`,
    spot: 'weekendpopup',
    pace: 0.4,
    published: [{ daysBefore: 12, content: popUp }],
  },
  {
    form: 'footerform',
    name: 'Field guide, footer: Members’ letter',
    list: lists.letter,
    site: sites[5]!,
    kind: 'footer',
    code: 'rule',
    rule: {
      ...startRule,
      place: { kind: 'foot', at: 'above' },
      pages: { which: 'only', patterns: ['/field-guide/posts/*'] },
    },
    page: `${STAND_INS}/field-guide/posts/november`,
    spot: 'guidefooter',
    pace: 0,
    published: [{ daysBefore: 4, content: footer }],
  },
  {
    form: WRITE_FORM,
    name: 'Observatory site, inline: Write to the hill',
    list: lists.clearSky,
    site: observatory,
    page: `${STAND_INS}/observatory/about`,
    spot: 'writetothehill',
    pace: 0,
    published: [{ daysBefore: 30, content: write }],
  },
]

function writtenTo(parts: readonly Part[]): Unnumbered[] {
  const { form, spot, plan } = parts.find((one) => one.form.id === WRITE_FORM)!
  const box = write.fields.find((one) => one.kind === 'join-box')
  return demoMessages({
    ...{ form: form.id, spot: spot.id, list: plan.list.id, page: plan.page, end: END },
    wording: box?.kind === 'join-box' ? plainText(box.wording) : '',
  })
}

interface Part {
  plan: Plan
  form: Form
  versions: Version[]
  trial: Trial | null
  spot: Spot
}

function carryOut(plan: Plan): Part {
  const form = plan.form as FormId
  const versions = plan.published.map(({ daysBefore, content }, at) => ({
    form,
    number: at + 1,
    list: plan.list.id,
    content,
    publishedAt: time(END - daysBefore * DAY_MS),
  }))
  const begun = time(END - (plan.trial?.daysBefore ?? 0) * DAY_MS)
  const tried = (plan.trial === undefined ? [] : [plan.published.at(-1)!.content, plan.trial.content]).map(
    (content, at): Version => ({
      ...{ form, number: versions.length + 1 + at, list: plan.list.id, content },
      ...{ publishedAt: begun, isTried: true },
    }),
  )
  return {
    plan,
    form: {
      id: form,
      name: plan.name,
      list: plan.list.id,
      theme: plan.theme?.id ?? null,
      isArchived: false,
      draft: plan.published.at(-1)!.content,
      createdAt: created,
    },
    versions: [...versions, ...tried],
    trial: plan.trial
      ? {
          ...{ id: `${plan.spot}trial` as TrialId, form, spot: plan.spot as SpotId },
          wordings: tried.map(({ number }, at) => ({
            version: number,
            name: at === 0 ? 'As it was' : plan.trial!.name,
          })),
          ...{ isKept: false, plan: plan.trial.plan, startedAt: begun },
        }
      : null,
    spot: {
      id: plan.spot as SpotId,
      form,
      site: plan.site.id,
      kind: plan.kind ?? 'inline',
      page: plan.page,
      ...(plan.popUp && { popUp: plan.popUp }),
      ...(plan.code && { code: plan.code }),
      ...(plan.rule && { placing: { draft: plan.rule, published: plan.rule } }),
      state: 'live',
      createdAt: created,
    },
  }
}

/** Whether views are counted where a form stands. */
const isCountedAt = ({ plan, spot }: Pick<Part, 'plan' | 'spot'>) => countsViews(spot, plan.site)

/** Sixty days of sign-ups: more of them before a Friday, a few twice, a few by bots, some removed by hand. */
function history(parts: Part[]): Entry[] {
  const dice = chance(SEED)
  const moments: { at: number; part: Part }[] = []
  for (let day = DAYS; day >= 1; day--) {
    const start = END - day * DAY_MS
    const weekday = new Date(start).getUTCDay()
    for (const part of parts) {
      const expected = part.plan.pace * (weekday === 4 || weekday === 5 ? 1.9 : 0.8)
      const count = Math.floor(expected) + (dice.happens(expected % 1) ? 1 : 0)
      for (let one = 0; one < count; one++)
        moments.push({ at: start + Math.floor((0.35 + 0.6 * dice.next()) * DAY_MS), part })
    }
  }
  moments.sort((one, other) => one.at - other.at)

  const known = new Map<string, MemberId>()
  const removed = new Set<string>()
  const entries: Entry[] = []
  for (const { at, part } of moments) {
    const n = entries.length + 1
    const isBot = dice.happens(0.06)
    const person = invent(dice)
    const key = `${part.plan.list.id} ${person.email}`
    const existing = known.get(key)
    const isThere = existing !== undefined && !removed.has(key)
    const member = existing ?? (`member${String(n).padStart(4, '0')}` as MemberId)
    if (!isBot) known.set(key, member)
    const shown = part.versions.filter((one) => Date.parse(one.publishedAt) <= at)
    const tried = shown.filter(({ isTried }) => isTried)
    // Of the two that are tried, the newer brings two in three.
    const version = (tried.length > 0 ? tried[n % 3 === 0 ? 0 : 1] : shown.at(-1)) ?? part.versions[0]!
    const asksName = version.content.fields.some((field) => field.kind === 'first-name')
    const givesName =
      asksName &&
      dice.happens(version.content.fields.some((field) => field.kind === 'first-name' && field.required) ? 1 : 0.6)
    const asked = version.content.fields.find((one) => one.kind === 'choose-one')
    const watches = asked?.kind === 'choose-one' && dice.happens(0.7) ? dice.pick(asked.choices).label : null
    const consents = version.content.fields.flatMap((one) =>
      one.kind === 'consent' ? [{ field: one.key, wording: plainText(one.wording) }] : [],
    )
    const parsed = parseEmail(isBot ? `promo${n}@bulk.example` : person.email)
    entries.push({
      n,
      at: time(at),
      kind: 'arrival',
      id: `arrival${String(n).padStart(4, '0')}` as ArrivalId,
      spot: part.spot.id,
      form: part.form.id,
      version: version.number,
      ...(!isBot && !isThere && isCountedAt(part) && { viewed: true }),
      list: part.plan.list.id,
      verdict: isBot ? 'bot' : isThere ? 'already-on-list' : 'joined',
      member: isBot ? null : member,
      personal: {
        email: parsed.ok ? parsed.email : null,
        values: isBot
          ? {}
          : {
              ...(givesName && { 'first-name': person.firstName }),
              ...(watches !== null && { 'watches-from': watches }),
            },
        ...(consents.length > 0 && !isBot && { consents }),
        page: part.plan.page || part.plan.site.address,
      },
    })
    if (!isBot) removed.delete(key)
    if (!isBot && !isThere && dice.happens(0.02)) {
      entries.push({
        n: n + 1,
        at: time(at + 5 * 60_000),
        kind: 'member-removed',
        command: `command${n}` as CommandId,
        list: part.plan.list.id,
        member,
      })
      removed.add(key)
    }
  }
  return entries
}

/** Twelve days at the newer spots, where some have to confirm: most do, a few have yet to, one address takes no mail. */
function laterHistory(parts: Part[]): Unnumbered[] {
  const dice = chance(SEED + 1)
  const entries: Unnumbered[] = []
  const seen = new Set<string>()
  for (let day = 12; day >= 1; day--)
    for (const { plan, form, spot } of parts) {
      const count = Math.floor(plan.pace) + (dice.happens(plan.pace % 1) ? 1 : 0)
      for (let one = 0; one < count; one++) {
        const at = END - day * DAY_MS + Math.floor((0.35 + 0.6 * dice.next()) * DAY_MS)
        const isRefused = plan.list.id === lists.places.id && day === 6
        // The demo's mailbox takes no mail for that school: one address was found out, the other will be.
        const isNext = plan.list.id === lists.places.id && day === 2
        const { email } = isRefused
          ? { email: 'kofi.steen@oldschool.example' }
          : isNext
            ? { email: 'tove.rowe@oldschool.example' }
            : invent(dice)
        const parsed = parseEmail(email)
        if (!parsed.ok || seen.has(`${plan.list.id} ${email}`)) continue
        seen.add(`${plan.list.id} ${email}`)
        const mustConfirm = plan.list.id === lists.places.id
        const number = `${plan.spot}${String(day).padStart(2, '0')}${one}`
        const member = `member${number}` as MemberId
        entries.push({
          at: time(at),
          kind: 'arrival',
          id: `arrival${number}` as ArrivalId,
          spot: spot.id,
          form: form.id,
          version: 1,
          ...(isCountedAt({ plan, spot }) && { viewed: true }),
          list: plan.list.id,
          verdict: mustConfirm ? 'confirm-first' : 'joined',
          member,
          personal: { email: parsed.email, values: {}, page: plan.page },
        })
        const later = (minutes: number) => time(at + minutes * 60_000)
        if (isRefused)
          entries.push({
            at: later(1),
            kind: 'member-bounced',
            id: `bounce${number}` as ArrivalId,
            list: plan.list.id,
            member,
            personal: { reason: '550 5.1.1 No such mailbox' },
          })
        else if (mustConfirm && day > 3)
          entries.push({
            at: later(4 + Math.floor(dice.next() * 90)),
            kind: 'member-confirmed',
            id: `confirm${number}` as ArrivalId,
            list: plan.list.id,
            member,
          })
      }
    }
  return entries
}

/** A file of teachers that was brought in three weeks ago, of whom those with large classes were then tagged. */
function broughtIn(): Unnumbered[] {
  const dice = chance(SEED + 2)
  const at = END - 21 * DAY_MS
  const list = lists.schools.id
  const ofBatch = (number: number, id: string, minutes: number) => ({
    at: time(at + minutes * 60_000),
    id: id as ArrivalId,
    batch: `demobatch${number}` as BatchId,
    list,
  })
  const people = SCHOOLS.map((school, number) => {
    const { firstName } = invent(dice)
    const compared = `office@${school.toLowerCase().replaceAll(' ', '-')}.example`
    const size = 12 + Math.floor(dice.next() * 20)
    return { member: `teacher${String(number).padStart(2, '0')}` as MemberId, firstName, school, compared, size }
  })
  const large = people.filter(({ size }) => size > 24)
  const counted = (done: number) => ({ isStopped: false, counts: { done, same: 0, passedOver: 0 }, passedOver: [] })
  return [
    {
      ...ofBatch(1, 'teachersbegin', 0),
      kind: 'batch-begun',
      member: null,
      purpose: {
        kind: 'import',
        from: 'Teachers’ day.csv',
        consent: 'Signed the sheet at our table on the teachers’ day, under “Write to me about school visits”.',
      },
    },
    ...people.map(({ member, firstName, school, compared, size }): Unnumbered => ({
      ...ofBatch(1, `written${member}`, 1),
      kind: 'member-written',
      member,
      status: 'confirmed',
      joinedAt: time(at - DAY_MS),
      personal: {
        email: { typed: compared, compared },
        values: {
          'first-name': firstName,
          school,
          'class-size': String(size),
          'wants-the-leaflet': size > 20 ? 'yes' : 'no',
        },
        tags: ['teachers’ day'],
      },
    })),
    { ...ofBatch(1, 'teachersend', 2), kind: 'batch-ended', member: null, ...counted(people.length) },
    {
      ...ofBatch(2, 'largebegin', 30),
      kind: 'batch-begun',
      member: null,
      purpose: { kind: 'change', change: { kind: 'tag', tag: 'large class' } },
    },
    {
      ...ofBatch(2, 'largetag', 31),
      kind: 'members-changed',
      member: null,
      members: large.map(({ member }) => member),
      personal: { change: { kind: 'tag', tag: 'large class' } },
    },
    { ...ofBatch(2, 'largeend', 32), kind: 'batch-ended', member: null, ...counted(large.length) },
  ]
}

const SCHOOLS =
  'Hilltop School,Quarry Lane School,Riverside College,Saint Bride School,Larch Grove School,Northgate Academy,Old Mill School,Fairfold School,Harrow Road School,Beacon College,Sorrel Street School,Westfield School,Cloudberry Primary,Stonebridge School,Moorside School,Ashdown College'.split(
    ',',
  )

type Unnumbered = Entry extends infer One ? (One extends Entry ? Omit<One, 'n'> : never) : never
/** All of it in one order, numbered from 1. */
function inOrder(entries: readonly Unnumbered[]): Entry[] {
  return entries
    .toSorted((one, other) => one.at.localeCompare(other.at))
    .map((entry, at) => ({ ...entry, n: at + 1 }) as Entry)
}

/** What the owner did last: of the newest of the members' letter, one is tagged and one has a note. */
function withOwnersHand(entries: Entry[]): Entry[] {
  const newest = entries.filter(
    (entry) => entry.kind === 'arrival' && entry.verdict === 'joined' && entry.list === lists.letter.id,
  ) as (Entry & { kind: 'arrival' })[]
  const [noted, tagged] = newest.slice(-2)
  if (!noted?.member || !tagged?.member || !tagged.personal?.email) return entries
  const byOwner = (minutes: number) => ({
    n: entries.length + minutes,
    at: time(END - (30 - minutes) * 60_000),
    command: `ownercommand${minutes}` as CommandId,
    list: lists.letter.id,
  })
  const { email, values } = tagged.personal
  return [
    ...entries,
    {
      ...byOwner(1),
      kind: 'member-edited',
      member: tagged.member,
      personal: { email, values, tags: ['brings a telescope', 'volunteer'] },
    },
    {
      ...byOwner(2),
      kind: 'member-noted',
      member: noted.member,
      personal: { text: 'Rang about the open night: comes with a class of twenty.' },
    },
  ]
}

function invent(dice: ReturnType<typeof chance>): { firstName: string; email: string } {
  const firstName = dice.pick(FIRST_NAMES)
  const ascii = firstName
    .normalize('NFD')
    .replace(/[^a-z]/gi, '')
    .toLowerCase()
  const family = dice.pick(FAMILY_NAMES)
  const name = dice.pick([
    `${ascii}.${family}`,
    `${ascii}${family.slice(0, 1)}`,
    `${family}.${ascii}`,
    `${ascii}${Math.floor(dice.next() * 90) + 10}`,
  ])
  return { firstName, email: `${name}@${dice.pick(HOSTS)}` }
}

const FIRST_NAMES =
  'Ilka,Bram,Oona,Tariq,Maud,Jory,Sanne,Eskil,Priya,Noor,Wren,Casimir,Lotte,Amara,Fenn,Ione,Dilys,Matteo,Runa,Silvan,Zofia,Hamish,Béa,Kofi,Tove,Anouk,Ravi,Elspeth,Nils,Yara'.split(
    ',',
  )
const FAMILY_NAMES =
  'quarry,lindqvist,harrow,okafor,brandt,sorrel,vesely,mackie,duarte,fairfold,holm,petrov,ashdown,nakato,winterborn,rowe,galloway,steen,moreau,tanaka'.split(
    ',',
  )
const HOSTS = ['mail.example', 'post.example', 'hillmail.example', 'school.example', 'letters.example']

function time(ms: number): string {
  return new Date(ms).toISOString()
}

import { sameValue } from '#core/json'
import { type Station, stationNames, stations } from '#core/station'
import type { Router } from 'vue-router'
import { pageAddress } from '#core/embed'
import { type Form, isPublishedAs, takesMessages } from '#core/form'
import { addressProblem } from '#core/site'
import { type Spot, spotName } from '#core/spot'
import { useWorkspace, writeSetting } from '../data'
import { titleOf } from '#core/letter'
import { helpPages } from '../help/pages'
import { useLetters } from '../letters'
import { usePublishing } from '../form/publishing'
import { useRehearsal } from '../rehearsal/store'
import { useReceiver } from '../sync'
import { useSpotChanges } from '../form/spot/spot-changes'

/** A place to go to, or a thing to do. */
export interface Anything {
  /** What `ElAutocomplete` shows and searches. */
  value: string
  /** What kind of thing it is, in one or two words. */
  about: string
  /** Other words that it is looked for by. */
  means?: string
  act(): unknown
}

/** Everything that can be gone to and done from anywhere, places first. */
export function everything(router: Router): Anything[] {
  const receiver = useReceiver()
  const goTo: GoTo = (to) => () => router.push(to)
  const all = [
    ...places(goTo),
    ...sitePlaces(goTo),
    ...doings(goTo),
    ...helpPages.map(({ name, title, means }) => ({
      value: title,
      about: 'help',
      means,
      act: goTo({ name: 'help', params: { page: name } }),
    })),
    ...appearances(),
    ...listThings(goTo),
    ...letterThings(router, goTo),
    ...formThings(goTo),
    ...spotThings(),
  ]
  // Whoever looks on does nothing of it.
  return receiver.looksOn ? all.filter(({ about }) => about !== 'do') : all
}

type Destination = Parameters<Router['push']>[0]
type GoTo = (to: Destination) => () => unknown

/** Where each place is, and other words that it may be looked for by. */
const PLACES: readonly [name: string, to: Destination, means: string][] = [
  ['Desk', '/', ''],
  ['Lists', '/lists', 'people members subscribers addresses new list receipts consent'],
  ['Letters', { name: 'letters' }, 'newsletter write send news campaign broadcast draft mailing'],
  [
    'Letters after joining',
    { name: 'letters', query: { view: 'series' } },
    'series automation autoresponder welcome days sequence drip',
  ],
  ['Letters from your sites', { name: 'letters', query: { view: 'feeds' } }, 'feed rss atom posts blog automatic'],
  ['Sites', '/sites', 'website pages address shared line head code colours builder online domain'],
  ['Mail room', { name: 'mail-room' }, 'messages sent refused bounced waiting inbox outbox'],
  [
    'Mail server',
    { name: 'mail-room', query: { view: 'server' } },
    'smtp delivery pace signature dkim password host port',
  ],
  ['Results', { name: 'results' }, 'views rates statistics numbers charts report client trial'],
  ['Connections', { name: 'connections' }, 'connection service key api webhook list service hand over integration'],
  ['Settings', '/settings', 'receiver key pairing appearance dark light'],
  [
    'Who may come in',
    { path: '/settings', hash: '#browsers' },
    'pair pairing key connect device phone computer lost withdraw access sign in',
  ],
  ['Backups', { path: '/settings', hash: '#backups' }, 'copy restore save daily export workspace file'],
]

function places(goTo: GoTo): Anything[] {
  return PLACES.map(([value, to, means]) => ({ value, about: 'go to', means, act: goTo(to) }))
}

function sitePlaces(goTo: GoTo): Anything[] {
  return useWorkspace().sites.map(({ id, name }) => ({
    value: `Pages of ${name}`,
    about: 'go to',
    means: 'look through whole site crawl sitemap check missing',
    act: goTo({ name: 'site-pages', params: { id } }),
  }))
}

function doings(goTo: GoTo): Anything[] {
  const workspace = useWorkspace()
  const rehearsal = useRehearsal()
  return [
    { value: 'New form', about: 'do', means: 'make create shape paste code existing', act: goTo('/new') },
    {
      value: 'Make a connection',
      about: 'do',
      means: 'api key service newsletter connect openapi curl webhook letters send hand on',
      act: goTo({ name: 'connections', query: { make: 'yes' } }),
    },
    { value: 'Rehearse everything', about: 'do', act: () => rehearsal.start(rehearsal.rehearsable(workspace.spots)) },
  ]
}

function appearances(): Anything[] {
  return (['system', 'light', 'dark'] as const).map((scheme) => ({
    value: `Appearance: ${scheme === 'system' ? 'as the computer' : scheme}`,
    about: 'screen',
    act: () => writeSetting('scheme', scheme),
  }))
}

function listThings(goTo: GoTo): Anything[] {
  return useWorkspace().lists.flatMap(({ id, name }): Anything[] => {
    const at = (name: string) => goTo({ name, params: { id } })
    const act = at('list')
    return [
      { value: name, about: 'list', means: 'people members history growth', act },
      {
        value: `Bring people into ${name}`,
        about: 'do',
        means: 'import csv file table upload paste add contacts vcard',
        act: at('import'),
      },
      {
        value: `Hand ${name} on to a service`,
        about: 'do',
        means: 'connection connect webhook api key service send',
        act: at('hand-on'),
      },
      { value: `Save the people of ${name} as a file`, about: 'go to', means: 'export download csv', act },
      {
        value: `Name, words, columns and tags of ${name}`,
        about: 'go to',
        means: 'rename edit delete remove archive why line retention keep days',
        act,
      },
    ]
  })
}

function letterThings(router: Router, goTo: GoTo): Anything[] {
  const letters = useLetters()
  const { lists } = useWorkspace()
  async function write(): Promise<void> {
    // Between several, only the owner knows whom it is to.
    const made = await letters.makeLetter('news', lists.length === 1 ? [lists[0]!.id] : [])
    await router.push({ name: 'letter', params: { id: made.id } })
  }
  return [
    ...letters.letters.map(({ id, draft }) => ({
      value: titleOf(draft, 'A letter without a subject'),
      about: 'letter',
      act: goTo({ name: 'letter', params: { id } }),
    })),
    ...letters.series.map(({ id, draft }) => ({
      value: draft.name,
      about: 'series',
      act: goTo({ name: 'series', params: { id } }),
    })),
    ...letters.feeds.map(({ id, draft }) => ({
      value: draft.name,
      about: 'feed',
      act: goTo({ name: 'feed', params: { id } }),
    })),
    ...(lists.length === 0
      ? []
      : [{ value: 'Write a letter', about: 'do', means: 'newsletter new news send mailing', act: write }]),
  ]
}

function formThings(goTo: GoTo): Anything[] {
  const workspace = useWorkspace()
  return workspace.forms.flatMap((form) => [
    { value: form.name, about: 'form', act: goTo({ name: 'form', params: { id: form.id } }) },
    ...(takesMessages(form.draft)
      ? [
          {
            value: `${form.name}: messages`,
            about: 'messages',
            act: goTo({ name: 'messages', params: { id: form.id } }),
          },
        ]
      : []),
    ...stations.map((station) => ({
      value: `${form.name}: ${stationNames[station]}`,
      about: 'station',
      means: stationMeanings[station],
      act: goTo({ name: 'form', params: { id: form.id, station } }),
    })),
    ...formDoings(form),
  ])
}

function formDoings(form: Form): Anything[] {
  const workspace = useWorkspace()
  const rehearsal = useRehearsal()
  const publishing = usePublishing()
  const rehearsable = rehearsal.rehearsable(workspace.spotsOf(form.id))
  const isCurrent: boolean = isPublishedAs(form, workspace.latestVersion(form.id))
  const mail = workspace.mail(form.list)
  const isMailPublished = mail === null || sameValue(mail.draft, mail.published)
  const publish = isCurrent
    ? `Publish the mail of ${workspace.list(form.list)?.name ?? form.name}`
    : `Publish ${form.name}, version ${workspace.nextVersion(form.id)}`
  return [
    ...(rehearsable.length > 0
      ? [{ value: `Rehearse ${form.name}`, about: 'do', act: () => rehearsal.start(rehearsable) }]
      : []),
    ...(isCurrent && isMailPublished ? [] : [{ value: publish, about: 'do', act: () => publishing.publish(form.id) }]),
    {
      value: form.isArchived ? `Bring ${form.name} back` : `Archive ${form.name}`,
      about: 'do',
      act: () => workspace.archiveForm(form.id, !form.isArchived),
    },
  ]
}

function spotThings(): Anything[] {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  const rehearsal = useRehearsal()
  const { setState } = useSpotChanges()
  const pageOf = ({ kind, slug, id, page, site }: Spot): string | null => {
    if (kind === 'landing') return receiver.publicUrl === null ? null : pageAddress(receiver.publicUrl, slug ?? id)
    return [page, workspace.site(site)?.address ?? ''].find((one) => addressProblem(one) === null) ?? null
  }
  return workspace.spots.flatMap((spot): Anything[] => {
    const name = `${spotName(spot, workspace.sites)} (${workspace.form(spot.form)?.name ?? 'a form'})`
    const page = pageOf(spot)
    const isOneOfSeveral = workspace.spotsOf(spot.form).length > 1
    const open = () => window.open(page!, '_blank', 'noreferrer')
    return [
      spot.state === 'live'
        ? { value: `Pause ${name}`, about: 'do', act: () => setState(spot, 'paused') }
        : { value: `Make ${name} live again`, about: 'do', act: () => setState(spot, 'live') },
      ...(spot.state === 'live' && isOneOfSeveral
        ? [{ value: `Rehearse ${name}`, about: 'do', act: () => rehearsal.start(rehearsal.rehearsable([spot])) }]
        : []),
      ...(page === null ? [] : [{ value: `Open the page of ${name}`, about: 'open', act: open }]),
    ]
  })
}

/** What is worked on at each station, in words that it may be looked for by. */
const stationMeanings: Record<Station, string> = {
  spot: 'code embed paste place page qr link frame script install check proof pause pop-up timing',
  form: 'words fields look style colours picture video shape theme checkup language archive delete duplicate',
  answer: 'thank you page message redirect confirmation already on the list known visitor',
  mail: 'gift sender reply address confirm double opt-in confirmation welcome reminder leaving notice subject test message',
  list: 'people sign-ups arrivals feeds where it is handed on goes on to',
}

/**
 * Those in which every typed word stands, in their names or in what they mean: first those that begin so, then those that
 * are named so. Where there is none, that is said.
 */
export function found(all: readonly Anything[], typed: string): Anything[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean)
  const isIn = (text: string) => (word: string) => text.toLowerCase().includes(word)
  const named = all.filter(({ value }) => words.every(isIn(value)))
  const meant = all.filter((one) => !named.includes(one) && words.every(isIn(`${one.value} ${one.means ?? ''}`)))
  const begins = ({ value }: Anything) => value.toLowerCase().startsWith(words[0] ?? '')
  const fitting = [...named.filter(begins), ...named.filter((one) => !begins(one)), ...meant].slice(0, 30)
  return fitting.length > 0 || words.length === 0
    ? fitting
    : [{ value: `Nothing found by “${typed.trim()}”`, about: '', act: () => undefined }]
}

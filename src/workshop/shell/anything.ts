import { sameValue } from '#core/json'
import { type Station, stationNames, stations } from '#core/station'
import type { Router } from 'vue-router'
import { pageAddress } from '#core/embed'
import { type Form, isPublishedAs, takesMessages } from '#core/form'
import { addressProblem } from '#core/site'
import { spotName } from '#core/spot'
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
  const workspace = useWorkspace()
  const letters = useLetters()
  const receiver = useReceiver()
  const rehearsal = useRehearsal()
  const publishing = usePublishing()
  const goTo = (to: Parameters<Router['push']>[0]) => () => router.push(to)
  const place = (value: string, to: Parameters<Router['push']>[0], means = ''): Anything => ({
    value,
    about: 'go to',
    means,
    act: goTo(to),
  })

  const { setState } = useSpotChanges()
  const isMailPublished = ({ list }: Form): boolean => {
    const mail = workspace.mail(list)
    return mail === null || sameValue(mail.draft, mail.published)
  }
  const forms = workspace.forms.flatMap((form): Anything[] => {
    const spots = workspace.spotsOf(form.id)
    const latest = workspace.latestVersion(form.id)
    const isCurrent: boolean = isPublishedAs(form, latest)
    return [
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
      ...(rehearsal.rehearsable(spots).length > 0
        ? [{ value: `Rehearse ${form.name}`, about: 'do', act: () => rehearsal.start(rehearsal.rehearsable(spots)) }]
        : []),
      ...(!isCurrent || !isMailPublished(form)
        ? [
            {
              value: isCurrent
                ? `Publish the mail of ${workspace.list(form.list)?.name ?? form.name}`
                : `Publish ${form.name}, version ${workspace.nextVersion(form.id)}`,
              about: 'do',
              act: () => publishing.publish(form.id),
            },
          ]
        : []),
      {
        value: form.isArchived ? `Bring ${form.name} back` : `Archive ${form.name}`,
        about: 'do',
        act: () => workspace.archiveForm(form.id, !form.isArchived),
      },
    ]
  })
  const spots = workspace.spots.flatMap((spot): Anything[] => {
    const name = `${spotName(spot, workspace.sites)} (${workspace.form(spot.form)?.name ?? 'a form'})`
    const page =
      spot.kind === 'landing'
        ? receiver.publicUrl === null
          ? null
          : pageAddress(receiver.publicUrl, spot.slug ?? spot.id)
        : [spot.page, workspace.site(spot.site)?.address ?? ''].find((one) => addressProblem(one) === null)
    return [
      ...(spot.state === 'live'
        ? [
            { value: `Pause ${name}`, about: 'do', act: () => setState(spot, 'paused') },
            ...(workspace.spotsOf(spot.form).length > 1
              ? [{ value: `Rehearse ${name}`, about: 'do', act: () => rehearsal.start(rehearsal.rehearsable([spot])) }]
              : []),
          ]
        : [{ value: `Make ${name} live again`, about: 'do', act: () => setState(spot, 'live') }]),
      ...(page
        ? [{ value: `Open the page of ${name}`, about: 'open', act: () => window.open(page, '_blank', 'noreferrer') }]
        : []),
    ]
  })
  const all = [
    place('Desk', '/'),
    place('Lists', '/lists', 'people members subscribers addresses new list receipts consent'),
    place('Letters', { name: 'letters' }, 'newsletter write send news campaign broadcast draft mailing'),
    place(
      'Letters after joining',
      { name: 'letters', query: { view: 'series' } },
      'series automation autoresponder welcome days sequence drip',
    ),
    place(
      'Letters from your sites',
      { name: 'letters', query: { view: 'feeds' } },
      'feed rss atom posts blog automatic',
    ),
    place('Sites', '/sites', 'website pages address shared line head code colours builder online domain'),
    ...workspace.sites.map(({ id, name }) =>
      place(
        `Pages of ${name}`,
        { name: 'site-pages', params: { id } },
        'look through whole site crawl sitemap check missing',
      ),
    ),
    place('Mail room', { name: 'mail-room' }, 'messages sent refused bounced waiting inbox outbox'),
    place(
      'Mail server',
      { name: 'mail-room', query: { view: 'server' } },
      'smtp delivery pace signature dkim password host port',
    ),
    place('Results', { name: 'results' }, 'views rates statistics numbers charts report client trial'),
    {
      value: 'Make a connection',
      about: 'do',
      means: 'api key service newsletter connect openapi curl webhook letters send hand on',
      act: goTo({ name: 'connections', query: { make: 'yes' } }),
    },
    place('Settings', '/settings', 'receiver key pairing appearance dark light'),
    place(
      'Who may come in',
      { path: '/settings', hash: '#browsers' },
      'pair pairing key connect device phone computer lost withdraw access sign in',
    ),
    place('Backups', { path: '/settings', hash: '#backups' }, 'copy restore save daily export workspace file'),
    place(
      'Connections',
      { name: 'connections' },
      'connection service key api webhook list service hand over integration',
    ),
    { value: 'New form', about: 'do', means: 'make create shape paste code existing', act: goTo('/new') },
    {
      value: 'Rehearse everything',
      about: 'do',
      act: () => rehearsal.start(rehearsal.rehearsable(workspace.spots)),
    },
    ...helpPages.map(({ name, title, means }) => ({
      value: title,
      about: 'help',
      means,
      act: goTo({ name: 'help', params: { page: name } }),
    })),
    ...(['system', 'light', 'dark'] as const).map((scheme) => ({
      value: `Appearance: ${scheme === 'system' ? 'as the computer' : scheme}`,
      about: 'screen',
      act: () => writeSetting('scheme', scheme),
    })),
    ...workspace.lists.flatMap((list): Anything[] => {
      const at = (name: string) => goTo({ name, params: { id: list.id } })
      const act = at('list')
      return [
        { value: list.name, about: 'list', means: 'people members history growth', act },
        {
          value: `Bring people into ${list.name}`,
          about: 'do',
          means: 'import csv file table upload paste add contacts vcard',
          act: at('import'),
        },
        {
          value: `Hand ${list.name} on to a service`,
          about: 'do',
          means: 'connection connect webhook api key service send',
          act: at('hand-on'),
        },
        { value: `Save the people of ${list.name} as a file`, about: 'go to', means: 'export download csv', act },
        {
          value: `Name, words, columns and tags of ${list.name}`,
          about: 'go to',
          means: 'rename edit delete remove archive why line retention keep days',
          act,
        },
      ]
    }),
    ...letters.letters.map((letter) => ({
      value: titleOf(letter.draft, 'A letter without a subject'),
      about: 'letter',
      act: goTo({ name: 'letter', params: { id: letter.id } }),
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
    ...(workspace.lists[0] === undefined
      ? []
      : [
          {
            value: 'Write a letter',
            about: 'do',
            means: 'newsletter new news send mailing',
            act: async () => {
              const made = await letters.makeLetter('news', workspace.lists[0]!.id)
              await router.push({ name: 'letter', params: { id: made.id } })
            },
          },
        ]),
    ...forms,
    ...spots,
  ]
  // Whoever looks on does nothing of it.
  return receiver.looksOn ? all.filter(({ about }) => about !== 'do') : all
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

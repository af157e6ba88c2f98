import { sameValue } from '#core/json'
import { stationNames, stations } from '#core/station'
import type { Router } from 'vue-router'
import { pageAddress } from '#core/embed'
import { type Form, isPublishedAs } from '#core/form'
import { addressProblem } from '#core/site'
import { type Spot, spotName } from '#core/spot'
import { useWorkspace, writeSetting } from '../data'
import { usePublishing } from '../form/publishing'
import { useRehearsal } from '../rehearsal/store'
import { useReceiver } from '../sync'
import { useNotices } from '../notices'

/** A place to go to, or a thing to do. */
export interface Anything {
  /** What `ElAutocomplete` shows and searches. */
  value: string
  /** What kind of thing it is, in one or two words. */
  about: string
  act(): unknown
}

/** Everything that can be gone to and done from anywhere, places first. */
export function everything(router: Router, showKeys: () => void): Anything[] {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  const rehearsal = useRehearsal()
  const notices = useNotices()
  const publishing = usePublishing()
  const goTo = (to: Parameters<Router['push']>[0]) => () => router.push(to)
  const place = (value: string, to: Parameters<Router['push']>[0]): Anything => ({
    value,
    about: 'go to',
    act: goTo(to),
  })

  async function setState(spot: Spot, state: Spot['state']): Promise<void> {
    const before = spot.state
    await workspace.changeSpot(spot.id, { state })
    await receiver.tell('spot', spot.id)
    notices.done(`${spotName(spot, workspace.sites)}: ${state}.`, async () => {
      await workspace.changeSpot(spot.id, { state: before })
      await receiver.tell('spot', spot.id)
    })
  }
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
      ...stations.map((station) => ({
        value: `${form.name}: ${stationNames[station]}`,
        about: 'station',
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
  return [
    place('Desk', '/'),
    place('Lists', '/lists'),
    place('Sites', '/sites'),
    place('Mail room', { name: 'mail-room' }),
    place('Results', { name: 'results' }),
    place('Settings', '/settings'),
    { value: 'New form', about: 'do', act: goTo('/new') },
    {
      value: 'Rehearse everything',
      about: 'do',
      act: () => rehearsal.start(rehearsal.rehearsable(workspace.spots)),
    },
    { value: 'Keys', about: 'do', act: showKeys },
    ...(['system', 'light', 'dark'] as const).map((scheme) => ({
      value: `Appearance: ${scheme === 'system' ? 'as the computer' : scheme}`,
      about: 'do',
      act: () => writeSetting('scheme', scheme),
    })),
    ...workspace.lists.map((list) => ({
      value: list.name,
      about: 'list',
      act: goTo({ name: 'list', params: { id: list.id } }),
    })),
    ...forms,
    ...spots,
  ]
}

/** Those in which every typed word stands, those that begin so first. */
export function found(all: readonly Anything[], typed: string): Anything[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean)
  const fitting = all.filter(({ value }) => words.every((word) => value.toLowerCase().includes(word)))
  const begins = ({ value }: Anything) => value.toLowerCase().startsWith(words[0] ?? '')
  return [...fitting.filter(begins), ...fitting.filter((one) => !begins(one))].slice(0, 30)
}

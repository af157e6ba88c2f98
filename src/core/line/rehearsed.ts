import { answerCases, type FormContent } from '#core/form'
import { sameValue } from '#core/json'
import type { MailSettings } from '#core/mail'
import { latestProof, type Proof, type Step } from '#core/proof'
import type { Spot } from '#core/spot'
import { type Station, stations } from '#core/station'
import { failedThere } from './causes'
import { answered, asked, latestOf } from './shown'
import type { LineSubject, State } from './signal'

/** What rehearsals found broken at a spot and is still as it was found: at each station, by the newest that says something. */
export function failuresOf(subject: LineSubject, spot: Spot): { proof: Proof; step: Step }[] {
  if (spot.state !== 'live') return []
  return stations.flatMap((station) => {
    const proof = newestAbout(station, subject.proofs, spot)
    const step = proof?.steps.find((one) => one.station === station && one.verdict === 'failed')
    return proof === null || step === undefined || changeSince(station, subject, spot, proof) !== null
      ? []
      : [{ proof, step }]
  })
}

/** The newest rehearsal of a spot that says something of a station: one without a browser, or one that was stopped, may not. */
function newestAbout(station: Station, proofs: readonly Proof[], spot: Spot): Proof | null {
  return latestProof(
    proofs.filter(({ verdict, steps }) => {
      const here = steps.filter((step) => step.station === station)
      if (here.some((step) => step.verdict === 'failed')) return true
      // One that was stopped proves nothing whole; what it found broken is broken.
      const way = here.filter(isWayOfVisitors)
      return (
        verdict !== 'stopped' &&
        way.some((step) => step.verdict === 'passed') &&
        way.every((step) => step.verdict !== 'not-tried')
      )
    }),
    spot.id,
  )
}

/**
 * Whether a step is of the way that visitors take: of the page as it stands at Spot, of the first person who signs up
 * elsewhere, and of the mail. What else was tried proves nothing where that was not.
 */
function isWayOfVisitors({ station, case: one }: Step): boolean {
  return one === 'first' || (station === 'spot' && one === 'page') || (station === 'mail' && one === 'mail')
}

/** What the newest rehearsal that says something of a station says of it; null where none does. */
export function rehearsedState(station: Station, subject: LineSubject, spot: Spot): State | null {
  const proof = newestAbout(station, subject.proofs, spot)
  if (proof === null) return null
  const change = changeSince(station, subject, spot, proof)
  if (change !== null)
    return ['changed', `${change} since the rehearsal: proven for the version before. Publish, and rehearse again.`]
  const steps = proof.steps.filter((step) => step.station === station)
  const failed = steps.find(({ verdict }) => verdict === 'failed')
  if (failed !== undefined) return ['needs-work', `Rehearsed: ${failedThere(failed)}`]
  const passed = steps.filter(({ verdict }) => verdict === 'passed').length
  return ['proven', `Rehearsed: ${passed === 1 ? 'one thing was' : `${passed} things were`} tried here, and held.`]
}

/** What of all that a station stands for is not as it was; null when everything is. */
function changeSince(
  station: Station,
  subject: LineSubject,
  spot: Spot,
  { version: number, about }: Proof,
): string | null {
  const latest = latestOf(subject.versions)
  const seen = subject.versions.find((version) => version.number === number)
  const { draft } = subject.form
  const isElsewhere = subject.receiver && about.receiver && subject.receiver !== about.receiver
  // Codes and links lead there.
  if (isElsewhere && (station === 'spot' || station === 'mail')) return 'The receiver’s address was changed'
  switch (station) {
    case 'spot': {
      const site = subject.sites.find(({ id }) => id === spot.site) ?? null
      if (!sameValue(placeOf(spot), placeOf(about.spot))) return 'The spot was changed'
      if (!sameValue(siteFacts(site), siteFacts(about.site))) return 'The site was changed'
      return latest?.number === number ? null : `Version ${latest?.number} was published`
    }
    case 'form':
      return seen !== undefined && sameValue(asked(draft), asked(seen.content)) ? null : 'The form was changed'
    case 'answer':
      // What visitors are answered depends on whether they have to confirm.
      if (!sameValue(asking(subject.mail?.published), asking(about.mail))) return 'What has to be confirmed was changed'
      return seen !== undefined &&
        answerCases.every((one) => sameValue(answered(draft, one), answered(seen.content, one)))
        ? null
        : 'An answer was changed'
    case 'list': {
      if (seen === undefined || seen.list !== subject.form.list) return 'The form feeds another list'
      if (about.list?.id !== subject.list?.id) return 'The form feeds another list'
      if (!sameValue(filledBy(draft), filledBy(seen.content))) return 'The form fills other columns'
      // Columns that this form does not fill are other forms' matter.
      const isThere = (list: LineSubject['list'] | undefined) => (key: string) =>
        list?.columns.some((column) => column.key === key) ?? false
      const filled = filledBy(seen.content)
      return sameValue(filled.filter(isThere(about.list)), filled.filter(isThere(subject.list)))
        ? null
        : 'The list’s columns were changed'
    }
    case 'mail':
      return sameValue(subject.mail?.draft ?? null, about.mail ?? null) ? null : 'The list’s mail was changed'
  }
}

/** Of a list's mail, what decides on which answer somebody gets. */
function asking(mail: MailSettings | null | undefined) {
  return mail ? { confirm: mail.confirm, regions: mail.regions, isDiscreet: mail.isDiscreet } : null
}

function filledBy({ fields }: FormContent): string[] {
  return [...new Set(fields.flatMap(({ column }) => (column === null ? [] : [column])))].sort()
}

/** Of a spot and its site, what decides on what stands on the page. */
function placeOf({ site, kind, page, code, popUp, placing, slug, state }: Spot) {
  // What is set and not published is on no page.
  const rule = code === 'rule' ? (placing?.published ?? null) : null
  return { site, kind, page, code, popUp, rule, slug, state }
}

function siteFacts(site: LineSubject['sites'][number] | null) {
  return site === null ? null : { address: site.address, kind: site.kind, profile: site.profile }
}

import type { FormContent, Version } from '#core/form'
import { expectedOutcome, rehearsalAddress } from '#core/proof'
import { countryOf } from '#core/region'
import type { PageStanding } from './page'
import type { Ports } from './ports'
import type { RehearsalSubject } from './subject'
import type { FormMet } from './visit-findings'

/** One spot's way as it stands on its page: what every case goes by. */
export interface CaseContext {
  subject: RehearsalSubject
  /** As published. */
  version: Version
  content: FormContent
  standing: PageStanding
  ports: Ports
  /** The version that visitors of the receiver's browser are to be shown; missing where nothing is tried. */
  wording?: number
  /** Whether somebody new signed up before, who is gone on with. */
  hasFirst?: boolean
  /** What the list's settings say of people who sign up here. */
  outcome: ReturnType<typeof expectedOutcome>
}

export function wayOf(subject: RehearsalSubject, version: Version, standing: PageStanding, ports: Ports): CaseContext {
  const country = countryOf({ country: '', zone: standing.through === 'script' ? (ports.browser?.zone ?? '') : '' })
  return {
    subject,
    version,
    content: version.content,
    standing,
    ports,
    ...(subject.wordings !== undefined && { wording: version.number }),
    outcome: expectedOutcome(subject.mail, country),
  }
}

/** The address of one of this rehearsal's made-up people. */
export function addressOf(way: CaseContext, who: string): string {
  return rehearsalAddress(way.ports.code, who)
}

/** What the causes of an obstacle are looked for in. */
export function formMet({ subject: { spot, others }, content }: CaseContext): FormMet {
  return { spot, others, content }
}

/** Whether no scripts of others stand around the form, and nothing lies over it; or a frame showed it with all that. */
export function isOurs({ subject, standing }: CaseContext): boolean {
  return subject.spot.kind === 'landing' || standing.through === 'script'
}

/** CSS pixels. */
export const DESK_WIDTH = 1024

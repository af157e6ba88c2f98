import { type DefaultTreeAdapterTypes as Html, serializeOuter } from 'parse5'
import type { Version } from '#core/form'
import { evidence, type Evidence, failure, type Failure, personFor, type Step } from '#core/proof'
import { addressProblem } from '#core/site'
import { attribute, type FormOnPage, parsePage } from '#core/submission'
import { filledIn, formWith, obstacleIn, visibilityOn } from '#core/usable'
import { fetchLooking } from './fetching'
import { formFacts } from './form-facts'
import type { FetchedPage, Ports } from './ports'
import type { RehearsalSubject } from './subject'

export interface FormProblem {
  station: Step['station']
  what: string
  failure: Failure
}

/** The spot's form in markup: there, in sight, its trap out of sight, every question asked. */
export function formIn(
  { html }: FetchedPage,
  latest: Version,
  { spot, receiver }: Pick<RehearsalSubject, 'spot' | 'receiver'>,
  sheets: readonly string[] = [],
): { page: Html.Document; form: FormOnPage; doubts: FormProblem[] } | FormProblem {
  const page = parsePage(html)
  const { action, trap: trapName, fillsFor } = formFacts(latest.content, spot, receiver)
  const form = formWith(page, action)
  if (form === undefined) return formMissing(action, html)
  const fills = fillsFor(personFor(latest.content, 'ilse@people.example'))
  const { missing } = filledIn(form, fills)
  if (missing.length > 0) return questionsMissing(missing, form)
  const visibility = visibilityOn(page, sheets)
  const button = form.controls.find((control) => attribute(control, 'formaction') === action)
  const by = visibility.hiddenBy(button ?? form.form) ?? visibility.hiddenBy(form.form)
  const trap = form.controls.find((control) => trapName !== null && attribute(control, 'name') === trapName)
  const isTrapSeen = trap !== undefined && visibility.hiddenBy(trap, { isOnlySeen: true }) === null
  const obstacle = obstacleIn({ page, form, action, fills, visibility })
  const doubts: (FormProblem | false)[] = [
    by !== null && { station: 'spot', what: 'The form can be seen', failure: hidden(by, markupOf(form.form)) },
    isTrapSeen && trapSeen(trap),
    obstacle !== null && { station: 'form', what: 'The form can be filled in and sent', failure: obstacle },
  ]
  return { page, form, doubts: doubts.filter((doubt) => doubt !== false) }
}

function formMissing(action: string, html: string): FormProblem {
  return {
    station: 'form',
    what: 'The form is there',
    failure: failure(
      'form-missing',
      'page',
      {
        expected: `A form that sends to ${action}.`,
        happened: 'There is none.',
        cause: 'Something between the receiver and the page changes what is sent.',
        mend: 'Open the page yourself, and look what stands in the place of the form.',
      },
      evidence('response', html.slice(0, 1_500)),
    ),
  }
}

function trapSeen(trap: Html.Element): FormProblem {
  return {
    station: 'form',
    what: 'The trap for bots is out of sight',
    failure: failure(
      'trap-visible',
      'page',
      {
        expected: 'Nobody sees the field that only bots fill in.',
        happened: 'It can be seen: people fill it in, and are taken for bots.',
        cause: 'The site’s styles show what the code hides, or took what hides it away.',
        mend: 'Paste the code anew, or choose a frame or a script, which the site’s styles do not reach.',
      },
      markupOf(trap),
    ),
  }
}

function questionsMissing(missing: readonly string[], form: FormOnPage): FormProblem {
  return {
    station: 'form',
    what: 'Every question is asked',
    failure: failure(
      'field-missing',
      'page',
      {
        expected: 'A control for every question of the published form.',
        happened: `There is none named ${missing.map((name) => `“${name}”`).join(', ')}.`,
        cause: 'Something between the receiver and the visitor takes fields out, or renames them.',
        mend: 'Paste the code anew, or choose another code, such as a frame or a link.',
      },
      markupOf(form.form),
    ),
  }
}

/** A form that posts straight to a service, on the page of its spot. */
export async function directFormOn(
  subject: RehearsalSubject,
  ports: Ports,
): Promise<{ address: string } | { station: Step['station']; what: string; failure: Failure }> {
  const { spot, site, versions } = subject
  const address = [spot.page, site?.address ?? ''].find((one) => addressProblem(one) === null)
  if (address === undefined) return { station: 'spot', what: 'The page is known', failure: pageUnknown() }
  const looked = await fetchLooking(address, ports)
  if ('code' in looked) return { station: 'spot', what: 'The page can be reached', failure: looked }
  const form = formIn(looked, versions.at(-1)!, subject)
  if (!('failure' in form)) return { address: looked.address }
  // A browser, where there is one, sees what scripts make.
  return ports.browser?.kind === 'visits' && form.failure.code === 'form-missing' && /<script/i.test(looked.html)
    ? { address: looked.address }
    : form
}

export function hidden(by: string, shown: Evidence): Failure {
  return failure(
    'hidden',
    'page',
    {
      expected: 'Visitors see the form.',
      happened: `It is hidden by ${by}.`,
      cause: 'A style of the site hides the form or what is around it.',
      mend: 'Take that style away, or put the code where nothing hides it.',
    },
    shown,
  )
}

export function markupOf(element: Html.Element): Evidence {
  return evidence('markup', serializeOuter(element))
}

export function pageUnknown(): Failure {
  return failure('page-unknown', 'spot', {
    expected: 'The spot names its page, or its site has an address.',
    happened: 'Neither is known.',
    cause: 'The spot was made without the address of its page.',
    mend: 'Put the page’s address into the spot.',
  })
}

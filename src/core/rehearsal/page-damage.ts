import { codeNames } from '#core/embed'
import type { Version } from '#core/form'
import type { InstallFinding } from '#core/install'
import { evidence, failure, type Failure } from '#core/proof'
import { profileOf, type Site } from '#core/site'
import type { CodeKind } from '#core/spot'
import { attribute, type FormOnPage } from '#core/submission'
import type { FetchedPage } from './ports'

/** @param damage of the code on the page, at least one */
export function damageOn(
  { latest, looked, ledTo }: { latest: Version; looked: FetchedPage; ledTo: string | null },
  site: Site | null,
  code: CodeKind,
  damage: readonly InstallFinding[],
): Failure {
  const first = damage[0]!
  const isCached = (first.code === 'absent' || first.code === 'older') && (looked.age ?? 0) > 0
  const shown =
    first.lines === null
      ? looked.html.slice(0, 1_500)
      : looked.html
          .split('\n')
          .slice(first.lines[0] - 1, first.lines[1])
          .join('\n')
  const minutes = site === null ? 0 : profileOf(site).cacheMinutes
  const told = failure(
    isCached ? 'cached' : first.code,
    'page',
    {
      expected: `The form’s newest code, all of it (version ${latest.number}; ${codeNames[code].toLowerCase()}).`,
      happened: damage.map(({ message }) => message).join(' '),
      cause: isCached
        ? `The site’s cache shows the page as it was: it has kept this copy for ${looked.age} seconds.`
        : ledTo !== null
          ? `The address leads on to ${ledTo}, and that page was looked at. ${causeWords(first.code)}`
          : causeWords(first.code),
      mend: isCached
        ? `Empty the site’s cache, or wait${minutes === 0 ? '' : ` up to ${minutes} minutes`}, and rehearse again.`
        : first.mend,
    },
    evidence('markup', shown),
  )
  return first.spot === undefined ? told : { ...told, spot: first.spot as Failure['spot'] }
}

/** A page of ours that shows an older version than the newest: something between keeps a copy of it. */
export function olderCopy({ controls }: FormOnPage, { address, age }: FetchedPage, latest: number): Failure | null {
  const field = controls.find((control) => attribute(control, 'name') === 'askbox-version')
  const shown = Number(field && attribute(field, 'value'))
  return !(shown < latest)
    ? null
    : failure('cached', 'settings', {
        expected: `${address} shows version ${latest}.`,
        happened: `It shows version ${shown}${age === null ? '' : `, a copy that is ${age} seconds old`}.`,
        cause: 'A proxy or a cache before the receiver keeps pages for longer than they say.',
        mend: 'Let that proxy keep nothing of /page/ and /frame/, or only as long as their Cache-Control says; then empty it.',
      })
}

export function causeWords(code: string): string {
  switch (code) {
    case 'absent':
      return 'It was not pasted, not published on the site yet, or taken out again.'
    case 'no-place':
      return 'The page is built otherwise than the pages that the rule was made for.'
    case 'rule-elsewhere':
      return 'The rule leaves this page out.'
    case 'rule-unpublished':
      return 'The rule was set, and not published.'
    case 'older':
      return 'The form was published after the code was pasted.'
    case 'other-spot':
      return 'The code of another spot was pasted here.'
    case 'unknown-spot':
      return 'It was miscopied or changed by hand, or is of a spot that is gone.'
    case 'other-receiver':
      return 'The code was made when the receiver had another address.'
    case 'changed':
      return 'Somebody, or the site’s editor, changed the code.'
    case 'line-inert':
      return 'What optimizes the site’s scripts, or waits for consent, has changed the line.'
    case 'line-missing':
      return 'The shared line was never pasted into the head, or the theme was changed.'
    case 'twice':
      return 'It was pasted once more without taking the first out.'
    case 'policy':
      return 'The site tells browsers what its pages may load and send, and this is not among it.'
    case 'http-action':
      return 'The receiver is reached over http.'
    default:
      return 'The site’s editor changed the code while it was pasted.'
  }
}

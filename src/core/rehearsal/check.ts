import type { InstallReport } from '#core/install'
import { type FormMet, obstacleMet } from './visit-findings'
import type { Visited } from './ports'

/** What a page's scripts may have put there, or shown: a browser knows better than the page's source. */
const BY_SCRIPTS = new Set(['absent', 'line-missing', 'line-inert', 'line-unseen', 'by-script', 'hidden'])
/** What a browser settles without a word. */
const SETTLED = new Set(['styles-unseen'])

/**
 * What became of a code, as a browser saw it too: what keeps a hand from the form is damage whatever the source says, and
 * what only the source misses is none.
 *
 * @param seen at each size that was looked at
 * @param form that was to be met
 */
export function withSeen(report: InstallReport, seen: readonly Visited[], form: FormMet): InstallReport {
  const met = seen.map((one) => obstacleMet(one, form)).find((one) => one !== null)
  if (met) {
    const { code, happened, cause, mend, spot } = met.failure
    const isNamed = code === 'unknown-spot' || code === 'other-spot'
    // Of code that scripts bring, only the browser knows which spot it names.
    const isTold = report.findings.some((finding) => finding.weight === 'damage' && finding.code !== 'absent')
    if (report.state === 'damaged' || (report.state === 'absent' && !(isNamed && !isTold))) return report
    if (isNamed)
      return {
        ...report,
        findings: [
          { code, weight: 'damage', message: `${happened} ${cause}`, mend, lines: null, ...(spot && { spot }) },
          ...report.findings.filter((finding) => finding.code !== 'absent'),
        ],
      }
    return {
      ...report,
      state: 'damaged',
      findings: [
        { code: 'unusable', weight: 'damage', message: `${happened} ${cause}`, mend, lines: null },
        ...report.findings,
      ],
    }
  }
  const unsettled = report.findings.filter(({ code }) => !SETTLED.has(code))
  const others = unsettled.filter(({ code }) => !BY_SCRIPTS.has(code))
  if (others.length === unsettled.length)
    return unsettled.length === report.findings.length
      ? report
      : { ...report, state: report.state === 'unclear' ? 'whole' : report.state, findings: unsettled }
  return {
    ...report,
    state: others.some(({ weight }) => weight === 'damage') ? 'damaged' : 'whole',
    findings: [
      {
        code: 'by-script',
        weight: 'hint',
        message: 'By the page’s source alone it would not be there. A browser shows it, and it can be used.',
        mend: 'It works. Without scripts, visitors see nothing of it.',
        lines: null,
      },
      ...others,
    ],
  }
}

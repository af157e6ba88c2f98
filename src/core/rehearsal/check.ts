import type { InstallReport } from '#core/install'
import { obstacleMet } from './visit-findings'
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
 */
export function withSeen(report: InstallReport, seen: readonly Visited[]): InstallReport {
  const met = seen.map(obstacleMet).find((one) => one !== null)
  if (met) {
    if (report.state === 'damaged' || report.state === 'absent') return report
    const { happened, cause, mend } = met.failure
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

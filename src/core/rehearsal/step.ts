import type { Failure, ProofLook, Step } from '#core/proof'

export type CaseStep = Omit<Step, 'case' | 'ms'>
export type CaseSteps = AsyncGenerator<CaseStep>

export const passed = (station: Step['station'], what: string, seen: string): CaseStep => ({
  station,
  what,
  verdict: 'passed',
  seen,
})
export const failed = (station: Step['station'], what: string, problem: Failure): CaseStep => ({
  station,
  what,
  verdict: 'failed',
  seen: problem.happened,
  failure: problem,
})
export const notTried = (station: Step['station'], what: string, reason: string): CaseStep => ({
  station,
  what,
  verdict: 'not-tried',
  seen: reason,
})
/** A failure by what was seen, else a pass. */
export const judged = (station: Step['station'], what: string, problem: Failure | null, seen: string): CaseStep =>
  problem === null ? passed(station, what, seen) : failed(stationOf(problem, station), what, problem)

/** The same, with what was seen of the page. */
export const pictured = (step: CaseStep, look: ProofLook | null): CaseStep => (look === null ? step : { ...step, look })

/** Some failures show at one station and belong to another. */
function stationOf({ code }: Failure, station: Step['station']): Step['station'] {
  if (code === 'taken-for-bot' || code === 'refused') return 'form'
  return code === 'closed' ? 'spot' : station
}

import { type Station, stations } from '#core/station'
import type { Signal } from '#core/line'
import type { Step } from '#core/proof'

/** How far a rehearsal has come, station by station: those not reached yet hang, those passed stand upright. */
export function risenSignals(steps: readonly Pick<Step, 'station' | 'verdict'>[]): Record<Station, Signal> {
  const verdicts = (station: Station) => steps.filter((step) => step.station === station).map(({ verdict }) => verdict)
  return Object.fromEntries(
    stations.map((station): [Station, Signal] => {
      const verdict = verdicts(station)
      if (verdict.includes('failed')) return [station, 'needs-work']
      return [station, verdict.includes('passed') ? 'proven' : 'empty']
    }),
  ) as Record<Station, Signal>
}

/** The newest step of a station, as one line. */
export function newestAt(steps: readonly Step[], station: Station): Step | undefined {
  return steps.findLast((step) => step.station === station)
}

/** Milliseconds as people say them. */
export function shownDuration(ms: number): string {
  return ms < 1000 ? `${Math.round(ms)} ms` : `${(ms / 1000).toFixed(1)} s`
}

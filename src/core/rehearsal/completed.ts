import type { Proof, Step } from '#core/proof'

/** How long a mail that was put off at first is waited for: servers that greylist let it in after minutes (RFC 6647). */
export const PUT_OFF_MS = 60 * 60_000

/**
 * A rehearsal with the way through the mail as it went later, of somebody whose mail was waited for.
 *
 * @param later of the mail alone
 */
export function completed(before: Proof, later: Proof): Proof {
  const isMail = (step: Step) => step.case === 'mail'
  const mail = later.steps.filter((step) => isMail(step) || step.verdict === 'failed')
  const at = before.steps.findIndex(isMail)
  const steps = before.steps.filter((step) => !isMail(step)).toSpliced(at, 0, ...mail)
  const isOver = later.verdict === 'failed' || later.verdict === 'stopped'
  return {
    ...later,
    ms: before.ms + later.ms,
    cases: before.cases,
    steps,
    verdict: isOver ? later.verdict : before.verdict,
  }
}

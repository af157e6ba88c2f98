import type { ProofId } from '#core/ids'
import type { Proof, RehearsalCase, Step } from '#core/proof'
import { kindOfCode } from './page'
import type { Ports } from './ports'
import { rehearse } from './rehearse'
import type { RehearsalSubject } from './subject'

/**
 * Rehearses a spot and keeps how it went.
 *
 * @param at when it began
 * @param tell called with every step as soon as it is known; false stops
 */
export async function makeProof(
  subject: RehearsalSubject,
  cases: readonly RehearsalCase[],
  ports: Ports,
  { id, at, by }: { id: ProofId; at: string; by: Proof['by'] },
  tell: (step: Step) => boolean = () => true,
): Promise<Proof> {
  const { spot, site, list, mail, versions, receiver } = subject
  const begun = ports.now()
  const steps: Step[] = []
  const verdict = await rehearse(subject, cases, ports, (step) => {
    steps.push(step)
    return tell(step)
  })
  return {
    id,
    spot: spot.id,
    form: spot.form,
    version: versions.at(-1)?.number ?? 0,
    code: kindOfCode(subject),
    at,
    ms: Math.round(ports.now() - begun),
    by,
    verdict,
    cases: [...cases],
    steps,
    about: { spot, site, list, mail, receiver },
  }
}

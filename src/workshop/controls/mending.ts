import { inject, type InjectionKey } from 'vue'
import type { Finding } from '#core/checkup'

/** Puts right what a finding is about. Provided by the page whose document it is; see `form/mend.ts`. */
export const mendingKey: InjectionKey<(finding: Finding) => void> = Symbol('mending')

export function useMending(): (finding: Finding) => void {
  return inject(mendingKey, () => {})
}

import type { InjectionKey } from 'vue'

/** Told when a piece of code is copied or pasted: from then on it is what stands at the spot. */
export const codeTaken: InjectionKey<(seenAt?: string) => void> = Symbol('code taken')

import type { InjectionKey } from 'vue'
import type { NoticeWay } from '../notices'

/** Told when a piece of code is copied or pasted: from then on it is what stands at the spot. Says what is likely next. */
export const codeTaken: InjectionKey<(seenAt?: string) => Promise<NoticeWay[]>> = Symbol('code taken')

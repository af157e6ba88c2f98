import { toDisplayString } from 'vue'
import { isolated } from '#core/text'

/**
 * What `{{ … }}` shows, everywhere in the workshop: much of it was typed by strangers, and none of it turns round what
 * stands beside it. Put in place of Vue's own when the workshop is built (vite.config.ts).
 */
export const displayText = (value: unknown): string => isolated(toDisplayString(value))

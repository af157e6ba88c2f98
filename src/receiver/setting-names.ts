import leven from 'leven'

/** Settings of the receiver, without `ASKBOX_`. */
const OURS = [
  ...['HOST', 'PORT', 'DATA', 'PUBLIC_URL', 'TRUST_PROXY', 'KEY', 'SECRET', 'LOG', 'METRICS_FROM', 'NAME_SERVERS'],
  ...['SITES_PORT', 'SMTP_PORT', 'SERVICE_PORT', 'MAILBOX', 'CLOCK_FILE', 'BROWSER'],
]
/** Those that other programs know too, and that are easily written with our name before them. */
const WITHOUT_OUR_NAME = ['DATABASE_URL', 'SMTP_URL']

const PREFIX = /^ASK_?BOX_/i
/** A letter in three: more is another word, and may well be another program's. */
const mostDistance = (name: string): number => Math.min(3, Math.max(1, Math.floor(name.length / 3)))

/** What is wrong with a name in the environment: nearly that of a setting. Null where nothing is. */
export function unknownSetting(environment: Record<string, string | undefined>): string | null {
  for (const name of Object.keys(environment)) {
    if (!PREFIX.test(name) || OURS.some((one) => name === `ASKBOX_${one}`)) continue
    const typed = name.replace(PREFIX, '').toUpperCase()
    const [nearest] = [...OURS, ...WITHOUT_OUR_NAME]
      .map((one) => ({ one, distance: leven(typed, one) }))
      .filter(({ distance }) => distance <= mostDistance(typed))
      .toSorted((one, other) => one.distance - other.distance)
    if (nearest === undefined) continue
    const meant = WITHOUT_OUR_NAME.includes(nearest.one) ? nearest.one : `ASKBOX_${nearest.one}`
    return `${name} is no setting. Did you mean ${meant}?`
  }
  return null
}

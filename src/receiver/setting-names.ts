import leven from 'leven'

/** Settings of the receiver; those without our name are known from elsewhere. */
const ofReceiver = [
  'ASKBOX_HOST',
  'ASKBOX_PORT',
  'ASKBOX_DATA',
  'ASKBOX_PUBLIC_URL',
  'ASKBOX_TRUST_PROXY',
  'ASKBOX_KEY',
  'ASKBOX_SITES_PORT',
  'ASKBOX_SMTP_PORT',
  'ASKBOX_SERVICE_PORT',
  'ASKBOX_SECRET',
  'ASKBOX_MAILBOX',
  'ASKBOX_LOG',
  'ASKBOX_METRICS_FROM',
  'ASKBOX_CLOCK_FILE',
  'ASKBOX_NAME_SERVERS',
  'ASKBOX_BROWSER',
] as const
/** Of the project's other programs: they may stand in the same environment. */
const ofOthers = new Set([
  'ASKBOX_SEED',
  'ASKBOX_SEEDS',
  'ASKBOX_RUN',
  'ASKBOX_PATIENCE',
  'ASKBOX_PATIENCE_MS',
  'ASKBOX_ROOT',
  'ASKBOX_BROWSER_RUN',
  'ASKBOX_DB_PASSWORD',
  'ASKBOX_E2E_REPORT',
])
const withoutOurName = ['DATABASE_URL', 'SMTP_URL'] as const

/** A misspelling is one or two letters away, or has two of them swapped; more is another word. */
const MOST_DISTANCE = 3

/** What is wrong with a name in the environment: nearly that of a setting. Other programs of an owner’s may have names like ours. */
export function unknownSetting(environment: Record<string, string | undefined>): string | null {
  const known: readonly string[] = ofReceiver
  for (const name of Object.keys(environment)) {
    if (!/^ASK_?BOX_/i.test(name) || known.includes(name) || ofOthers.has(name)) continue
    const nearest = nearestOf(name.toUpperCase())
    if (nearest !== null) return `${name} is no setting. Did you mean ${nearest}?`
  }
  return null
}

function nearestOf(name: string): string | null {
  let [nearest, least]: [string | null, number] = [null, MOST_DISTANCE + 1]
  for (const one of [...ofReceiver, ...withoutOurName]) {
    // Those of others are often written with our name before them.
    const distance = Math.min(leven(name, one), leven(name.replace(/^ASK_?BOX_/, ''), one))
    if (distance < least) [nearest, least] = [one, distance]
  }
  return nearest
}

const MINUTE_MS = 60_000
const HOUR_MS = 3_600_000
const DAY_MS = 86_400_000

/** Pauses after tries that may pass: soon, then less and less often, for two days (RFC 5321, section 4.5.4.1, asks for four to five days at a mail server; a sign-up is not worth that). */
const PAUSES_MS = [MINUTE_MS, 5 * MINUTE_MS, 15 * MINUTE_MS, HOUR_MS, 4 * HOUR_MS, 12 * HOUR_MS, DAY_MS]

/** How long to wait after so many tries, in milliseconds; null where it is given up. */
export function pauseAfter(attempts: number): number | null {
  return PAUSES_MS[attempts] ?? null
}

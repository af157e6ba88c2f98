const AGAIN_AFTER_MS = 60_000
/** Of few kinds; the oldest are forgotten. */
const MOST_KINDS = 100
const saidAt = new Map<string, number>()

/** Logs what went wrong, and the same at most once a minute: a full disk is met by every sign-up. */
export function complain(error: unknown, say: (what: unknown) => void = console.error): void {
  const kind =
    error instanceof Error ? `${error.name} ${(error as { code?: string }).code ?? error.message}` : String(error)
  const before = saidAt.get(kind)
  const now = performance.now()
  if (before !== undefined && now - before < AGAIN_AFTER_MS) return
  if (saidAt.size >= MOST_KINDS) saidAt.clear()
  saidAt.set(kind, now)
  say(error)
}

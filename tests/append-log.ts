/**
 * A check of histories over one append-only log, after the list-append workload of Elle (Kingsbury and Alvaro, “Elle: Inferring
 * Isolation Anomalies from Experimental Observations”, VLDB 2020) and linearizability (Herlihy and Wing, “Linearizability: A
 * Correctness Condition for Concurrent Objects”, 1990): what each reader saw has to be a beginning of the one final order,
 * holds what was acknowledged before it began to read, and nothing that was never appended.
 */
export interface Append {
  value: string
  /** When it was sent, and when it was acknowledged; null where nobody knows what became of it. */
  from: number
  until: number | null
}

/** What a reader saw: values after a number that it knew already. Times on one clock. */
export interface Read {
  from: number
  until: number
  /** Numbers with their values, as they came. */
  seen: readonly { n: number; value: string }[]
  /** The number after which it asked. */
  after: number
  reader: string
}

export function anomaliesIn(
  final: readonly { n: number; value: string }[],
  appends: readonly Append[],
  reads: readonly Read[],
): string[] {
  const anomalies: string[] = []
  const place = new Map<string, number>()
  for (const [at, { n, value }] of final.entries()) {
    if (n !== at + 1) anomalies.push(`gap: ${n} stands at ${at + 1}`)
    if (place.has(value)) anomalies.push(`duplicate: ${value} at ${place.get(value)} and ${n}`)
    else place.set(value, n)
  }
  const sent = new Map(appends.map((append) => [append.value, append]))
  for (const { value, until } of appends)
    if (until !== null && !place.has(value)) anomalies.push(`lost: ${value} was acknowledged`)
  for (const { value } of final) if (!sent.has(value)) anomalies.push(`garbage: nobody appended ${value}`)
  // Real time: what was acknowledged before another was begun comes before it.
  const acknowledged = appends
    .filter((one): one is Append & { until: number } => one.until !== null && place.has(one.value))
    .toSorted((one, other) => one.until - other.until)
  let latest = 0
  let next = 0
  for (const { value, from } of appends.toSorted((one, other) => one.from - other.from)) {
    for (; next < acknowledged.length && acknowledged[next]!.until < from; next++)
      latest = Math.max(latest, place.get(acknowledged[next]!.value)!)
    const at = place.get(value)
    if (at !== undefined && at < latest)
      anomalies.push(`order: ${value} stands at ${at}, and ${latest} was there before it`)
  }
  for (const { seen, after, from, until, reader } of reads) {
    for (const [at, { n, value }] of seen.entries()) {
      if (n !== after + at + 1) anomalies.push(`skipped: ${reader} got ${n} after ${after + at}`)
      if (final[n - 1]?.value !== value) anomalies.push(`other order: ${reader} got ${value} at ${n}`)
      const begun = sent.get(value)?.from ?? -Infinity
      if (begun > until) anomalies.push(`from the future: ${reader} got ${value}`)
    }
    const end = seen.at(-1)?.n ?? after
    const missed = acknowledged.find((one) => one.until < from && place.get(one.value)! > end)
    if (missed !== undefined)
      anomalies.push(`stale: ${reader} did not get ${missed.value}, acknowledged before it asked`)
  }
  return anomalies
}

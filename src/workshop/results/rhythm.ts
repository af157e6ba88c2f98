import { defineStore } from 'pinia'
import { computed } from 'vue'
import type { FormId, SpotId } from '#core/ids'
import { isJoining } from '#core/list'
import { dayAfter, daysFrom, localTime, quietWords, rhythmOf, weekWords } from '#core/results'
import { useArrivals, useWorkspace } from '../data'

/** The clocks of this computer. */
export const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone
/** Days that a curve shows. */
const CURVE_DAYS = 30

export interface FormRhythm {
  /** Sign-ups of the last seven days, today among them. */
  week: number
  /** How that is beside other weeks; empty where too few are known. */
  words: string
  /** Where it has fallen quiet, how that is judged. */
  quiet: string | null
  /** Sign-ups by day, up to yesterday: today is not over. */
  last: number[]
}

/** How each form does by its own rhythm, from the sign-ups of the last weeks. */
export const useRhythm = defineStore('rhythm', () => {
  const workspace = useWorkspace()
  const arrivals = useArrivals()
  /** Sign-ups by day, of each form and of each spot. */
  const perDay = computed(() => {
    const byOwner = new Map<FormId | SpotId, Map<string, number>>()
    for (const { at, form, spot, verdict } of arrivals.kept) {
      if (!isJoining(verdict)) continue
      const site = workspace.spot(spot)?.site
      const zone = (site === undefined ? null : workspace.site(site))?.zone ?? 'UTC'
      const { day } = localTime(Date.parse(at), zone)
      for (const owner of [form, spot]) {
        const counts = byOwner.get(owner) ?? new Map<string, number>()
        byOwner.set(owner, counts.set(day, (counts.get(day) ?? 0) + 1))
      }
    }
    return byOwner
  })
  /** The day on which somebody could first sign up; null before that. */
  const firstDay = (form: FormId) =>
    workspace
      .versionsOf(form)
      .map(({ publishedAt }) => publishedAt.slice(0, 10))
      .toSorted()[0] ?? null

  /** Whether somebody can sign up: what its owner has paused is no wonder quiet. */
  const isOpen = (form: FormId) => workspace.spotsOf(form).some(({ state }) => state === 'live')

  /** Null until it is known. */
  const of = (form: FormId): FormRhythm | null => rhythm(form, form)
  /** The same of one spot. */
  const ofSpot = ({ id, form }: { id: SpotId; form: FormId }): FormRhythm | null => rhythm(id, form)

  function rhythm(owner: FormId | SpotId, form: FormId): FormRhythm | null {
    if (arrivals.newest === null) return null
    const days = perDay.value.get(owner) ?? new Map<string, number>()
    const [first, now] = [firstDay(form), localTime(Date.now(), HERE).day]
    const counts = (from: number, to: number) =>
      daysFrom(dayAfter(now, from), dayAfter(now, to)).map((day) => days.get(day) ?? 0)
    const found = rhythmOf(days, first, now)
    return {
      week: counts(-6, 0).reduce((all, one) => all + one, 0),
      words: weekWords(days, first, now),
      quiet: found.kind === 'quiet' && isOpen(form) ? quietWords(found) : null,
      last: counts(-CURVE_DAYS, -1),
    }
  }
  return { of, ofSpot }
})

import { defineStore } from 'pinia'
import { computed } from 'vue'
import type { FormId } from '#core/ids'
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
  const perDay = computed(() => {
    const byForm = new Map<FormId, Map<string, number>>()
    for (const { at, form, spot, verdict } of arrivals.kept) {
      if (!isJoining(verdict)) continue
      const zone = workspace.site(workspace.spot(spot)?.site ?? ('' as never))?.zone ?? 'UTC'
      const { day } = localTime(Date.parse(at), zone)
      const counts = byForm.get(form) ?? new Map<string, number>()
      byForm.set(form, counts.set(day, (counts.get(day) ?? 0) + 1))
    }
    return byForm
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
  function of(form: FormId): FormRhythm | null {
    if (arrivals.newest === null) return null
    const days = perDay.value.get(form) ?? new Map<string, number>()
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
  return { of }
})

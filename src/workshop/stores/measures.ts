import { defineStore } from 'pinia'
import { reactive } from 'vue'
import { type Measures, nothingMeasured } from '#core/checkup'
import type { FormId } from '#core/ids'

/** What the real renderings showed, by form. Taken while a form is worked on; the checkup reads it. */
export const useMeasured = defineStore('measures', () => {
  const all = reactive(new Map<FormId, Measures>())
  return { of: (id: FormId) => all.get(id) ?? nothingMeasured, set: (id: FormId, measures: Measures) => all.set(id, measures) }
})

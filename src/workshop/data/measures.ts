import { defineStore } from 'pinia'
import { type Measures, nothingMeasured } from '#core/checkup'
import type { FormId } from '#core/ids'
import { database } from './database'
import { useLive } from './live'
import { keepSaved } from './saving'

/**
 * What the real renderings showed, by form. Taken while a form is worked on, and kept, so that its signals are the same
 * wherever they are shown; the checkup reads it.
 */
export const useMeasured = defineStore('measures', () => {
  const all = useLive(
    async () => new Map((await database.measures.toArray()).map(({ form, measures }) => [form, measures])),
    new Map<FormId, Measures>(),
  )
  return {
    of: (id: FormId) => all.value.get(id) ?? nothingMeasured,
    set: (form: FormId, measures: Measures) =>
      keepSaved(`measures ${form}`, async () => void (await database.measures.put({ form, measures }))),
  }
})

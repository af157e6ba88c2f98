import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import type { CheckupSubject } from '#core/checkup'
import type { Form, FormContent, Version } from '#core/form'
import type { FormId } from '#core/ids'
import type { Arrival } from '#core/journal'
import { failuresOf, lineOf, linesOf, type LineSubject, type StationState } from '#core/line'
import { database, lastArrivalsOf, proofsOf, useLive, useMeasured, usePreferences, useWorkspace } from '../data'
import type { Proof } from '#core/proof'
import { useDelivery } from '../mail-room/delivery'
import { useRested } from '../rest'
import { useReceiver } from '../sync'
import { useOnward } from '../connections'

/** What the checkup looks at: the same wherever a form is judged. */
export function useSubjects() {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  const preferences = usePreferences()
  const measured = useMeasured()
  const subjects = {
    of: (form: Form): CheckupSubject => ({
      form,
      list: workspace.list(form.list),
      mail: workspace.mail(form.list),
      otherLanguages: workspace.forms
        .filter(({ id, list, isArchived }) => id !== form.id && list === form.list && !isArchived)
        .map(({ draft }) => draft.language),
      spots: workspace.spotsOf(form.id),
      sites: workspace.sites,
      receiver: receiver.publicUrl,
      pictures: workspace.pictures,
      videoHosts: preferences.preferences?.videoHosts ?? null,
      measures: measured.of(form.id),
    }),
    /** The same as it is kept this moment, with the newest version: what is shown may be a moment behind. */
    async now(id: FormId): Promise<{ subject: CheckupSubject; latest: Version | null } | null> {
      const { forms, lists, mails, spots, versions } = database
      return database.transaction('r', [forms, lists, mails, spots, versions], async () => {
        const form = await forms.get(id)
        if (form === undefined) return null
        const published = await versions.where('form').equals(id).toArray()
        const latest = published.findLast(({ isTried }) => !isTried)
        return {
          subject: {
            ...subjects.of(form),
            list: (await lists.get(form.list)) ?? null,
            mail: (await mails.get(form.list)) ?? null,
            spots: await spots.where('form').equals(id).toArray(),
          },
          latest: latest ?? null,
        }
      })
    },
  }
  return subjects
}

/** The checkup follows when the hands rest: this long after the last key. */
const AT_REST_MS = 200

/**
 * The states of one form's five stations, and of each of its live spots, kept current. Empty while the form, and what
 * came of it, is not read. With a draft in hand they follow once it rests, however often the database tells of its keys meanwhile.
 */
export function useLine(id: MaybeRefOrGetter<FormId>, draft?: () => FormContent | null) {
  const workspace = useWorkspace()
  const subjects = useSubjects()
  const delivery = useDelivery()
  const onward = useOnward()
  const spots = computed(() => workspace.spotsOf(toValue(id)).map((spot) => spot.id))
  // Null until they are read: before that the line would say that nothing has happened.
  const arrivals = useLive(() => lastArrivalsOf(spots.value), null as Arrival[] | null, [() => spots.value.join()])
  const proofs = useLive(() => proofsOf(spots.value), null as Proof[] | null, [() => spots.value.join()])
  const subject = computed((): LineSubject | null => {
    const form = workspace.form(toValue(id))
    return form === null || arrivals.value === null || proofs.value === null
      ? null
      : {
          // What is in hand is ahead of what the database has told.
          ...subjects.of({ ...form, draft: draft?.() ?? form.draft }),
          versions: workspace.allVersionsOf(form.id),
          arrivals: arrivals.value,
          proofs: proofs.value,
          delivery: delivery.of(form.list),
          onward: onward.of(form.list),
        }
  })
  const rested = useRested(() => subject.value, AT_REST_MS)
  const looked = computed(() =>
    draft === undefined || rested.value?.form.id !== toValue(id) ? subject.value : rested.value,
  )
  return {
    line: computed((): StationState[] => (looked.value === null ? [] : lineOf(looked.value))),
    /** By spot. */
    lines: computed(() => (looked.value === null ? [] : linesOf(looked.value))),
    /** What rehearsals found broken and is still so, at all live spots. */
    failures: computed(() => {
      const subject = looked.value
      return subject === null ? [] : subject.spots.flatMap((spot) => failuresOf(subject, spot))
    }),
  }
}

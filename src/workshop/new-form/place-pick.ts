import { computed, reactive, ref, shallowRef } from 'vue'
import { codeAdvice, popUpProblem } from '#core/embed'
import { shapeForSpot, shapesFor } from '#core/form'
import { addressProblem } from '#core/site'
import { type PopUp, type SpotKind, startPopUp } from '#core/spot'
import type { SitePick } from './site-pick'

/** Where on the site a new form will stand, and the shapes that are made for that place. */
export function usePlacePick(site: SitePick) {
  const kind = ref<SpotKind>('inline')
  const page = ref('')
  // Shallow: what lies inside a deep proxy could not be stored.
  const popUp = shallowRef<PopUp>(startPopUp)
  const noPopUp = computed(() => (site.built === null ? null : popUpProblem(site.built)))
  /** What comes of it on a site that takes out forms: said before it is made. */
  const becomesLink = computed(() => {
    if (kind.value === 'landing' || kind.value === 'pop-up' || site.built === null) return false
    return codeAdvice({ kind: kind.value }, site.built).works[0].kind === 'link'
  })

  const shape = ref('')
  /** The place was chosen first: only shapes that are made for it are there to choose. */
  const fitting = computed(() => shapesFor([kind.value]))
  const shownShape = computed(() =>
    fitting.value.some(({ key }) => key === shape.value) ? shape.value : shapeForSpot(kind.value).key,
  )

  const problems = computed(() => ({
    kind: kind.value === 'pop-up' ? (noPopUp.value ?? '') : '',
    page: page.value.trim() === '' ? '' : (addressProblem(page.value) ?? ''),
  }))
  return reactive({ kind, page, popUp, noPopUp, becomesLink, shape, fitting, shownShape, problems })
}
export type PlacePick = ReturnType<typeof usePlacePick>

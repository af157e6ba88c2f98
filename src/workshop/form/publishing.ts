import { sameValue } from '#core/json'
import { useRouter } from 'vue-router'
import { checkup } from '#core/checkup'
import { afterPublishing, codeOf, codeReachProblem } from '#core/embed'
import { isPublishedAs } from '#core/form'
import type { FormId } from '#core/ids'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'
import { type Publishing, useReceiver } from '../sync'
import { useRehearseAgain } from '../rehearsal/again'
import { useTrialsBeside } from './trials-beside'
import { useSubjects } from '../line/line'

/** Publishing a form and its list's mail, from wherever it is asked for. */
export function usePublishing() {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  const notices = useNotices()
  const subjects = useSubjects()
  const router = useRouter()
  const again = useRehearseAgain()
  const trials = useTrialsBeside()

  /** Why none of a form's spots can be used yet; null where one can. */
  function waits(id: FormId): string | null {
    const { publicUrl } = receiver
    // What posts straight to a service needs nobody to reach us.
    if (workspace.form(id)?.draft.direct !== undefined) return null
    const sites = workspace
      .spotsOf(id)
      .flatMap(({ state, site }) => (state === 'live' ? (workspace.site(site) ?? []) : []))
    const reaches = sites.map((site) => (publicUrl === null ? null : codeReachProblem(publicUrl, site)))
    return reaches.length > 0 && reaches.every((reach) => reach !== null) ? reaches[0]! : null
  }

  /** Publishes what is not: what stops it is said, and leads to where it is mended. Resolves when it is done or refused. */
  async function publish(id: FormId): Promise<void> {
    const current = await subjects.now(id)
    if (current === null) return
    const { subject, latest } = current
    const stopping = checkup(subject).find(({ weight }) => weight === 'stops')
    if (stopping !== undefined) {
      notices.problem(`Not published. ${stopping.message}`)
      await router.push({ name: 'form', params: { id, station: stopping.station } })
      return
    }
    const { form, mail } = subject
    const isFormNew = !isPublishedAs(form, latest)
    const objects: Publishing[] = [
      ...(mail && !sameValue(mail.draft, mail.published) ? [{ kind: 'mail' as const, key: form.list }] : []),
      ...(isFormNew ? [{ kind: 'form' as const, key: id }] : []),
    ]
    try {
      const [version] = await receiver.publish(objects)
      if (version === undefined) {
        notices.done('The mail is published: what is sent from now on is as you wrote it.')
        return
      }
      const live = workspace
        .spotsOf(id)
        .filter(({ state }) => state === 'live')
        .map((spot) => ({ kind: spot.kind, code: codeOf(spot, workspace.site(spot.site)) }))
      const going = trials.goingOn([id])
      const next = [...trials.ways(going), ...(await again.offer(workspace.spotsOf(id)))]
      const after = afterPublishing(live, version.number === 1, waits(id))
      notices.done(`Version ${version.number} is published. ${after}${trials.words(going)}`, undefined, undefined, next)
      await router.push({ name: 'form', params: { id, station: 'spot' } })
    } catch (error) {
      const what = isFormNew
        ? 'The draft is safe here; publish it again when Ask Box is reached.'
        : 'What is sent is as it was; the mail as you wrote it is safe here, and waits to be published again.'
      notices.problem(`Not published: ${error instanceof Error ? error.message : 'no answer'}. ${what}`)
    }
  }
  return { publish }
}

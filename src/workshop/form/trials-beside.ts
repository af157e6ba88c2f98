import { useRouter } from 'vue-router'
import type { FormId } from '#core/ids'
import type { Trial } from '#core/trial'
import { useWorkspace } from '../data'
import type { NoticeWay } from '../notices'

/** Trials that go on: where one does, visitors are shown its versions in turn, whatever is published meanwhile. */
export function useTrialsBeside() {
  const workspace = useWorkspace()
  const router = useRouter()
  const listed = new Intl.ListFormat('en-GB')

  const goingOn = (forms: readonly FormId[]): Trial[] =>
    workspace.trials.filter(({ form, ended }) => ended === undefined && forms.includes(form))

  const versionsIn = ({ wordings }: Trial): string =>
    `versions ${listed.format(wordings.map(({ version }) => String(version)))}`

  /** What visitors go on seeing, in a sentence each; empty for none. */
  const words = (trials: readonly Trial[]): string =>
    trials
      .map(
        (trial) =>
          ` A trial of “${workspace.form(trial.form)?.name ?? 'a form'}” goes on showing ${versionsIn(trial)} until it ends.`,
      )
      .join('')

  /** Where each is ended, so that its visitors get what was published. */
  const ways = (trials: readonly Trial[]): NoticeWay[] =>
    trials.map(({ form }) => ({
      words: trials.length === 1 ? 'End the trial' : `End that of “${workspace.form(form)?.name ?? 'a form'}”`,
      press: () => router.push({ name: 'trials', params: { id: form } }),
    }))

  return { goingOn, versionsIn, words, ways }
}

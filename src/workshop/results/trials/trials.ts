import { checkup } from '#core/checkup'
import { codeOf } from '#core/embed'
import { type FormContent, sameContent, type Version } from '#core/form'
import type { FormId, SpotId, TrialId } from '#core/ids'
import { dayAfter, resultLines } from '#core/results'
import type { Spot } from '#core/spot'
import type { Plan, Trial, WordingCount } from '#core/trial'
import { newId, now } from '../../clock'
import { useWorkspace } from '../../data'
import { useSubjects } from '../../line/line'
import { useRehearsal } from '../../rehearsal/store'
import { useNotices } from '../../notices'
import { useReceiver } from '../../sync'
import { useResults } from '../results'

/** Days before today by which today's rate and pace are judged. */
export const DAYS_BEFORE = 28

/** Why wordings cannot be shown in turn at a spot; null where they can. */
export function trialProblem(spot: Spot, site: Parameters<typeof codeOf>[1], content: FormContent): string | null {
  if (content.direct !== undefined) return 'its form posts straight to another service, so nothing is counted here'
  if (spot.state !== 'live') return 'it is closed'
  const code = codeOf(spot, site)
  return code === 'plain' || code === 'in-tags' || code === 'file'
    ? 'its code is plain: it shows what was pasted, always the same'
    : null
}

/** Only there does a script of ours run on the page, which can keep what it showed. */
export const canKeep = (spot: Spot, site: Parameters<typeof codeOf>[1]): boolean =>
  spot.kind !== 'landing' && ['script', 'rule'].includes(codeOf(spot, site))

/** Whether the page keeps a room for the form that was measured when its code was made. */
export const hasRoom = (spot: Spot, site: Parameters<typeof codeOf>[1]): boolean =>
  spot.kind !== 'landing' && spot.kind !== 'pop-up' && ['script', 'frame'].includes(codeOf(spot, site))

/** A wording that is to be tried. */
export interface NewWording {
  name: string
  content: FormContent
}

/** Trials of wordings: what they show, begun and ended. */
export function useTrials() {
  const workspace = useWorkspace()
  const results = useResults()
  const receiver = useReceiver()
  const notices = useNotices()
  const subjects = useSubjects()
  const rehearsal = useRehearsal()

  /** What each wording brought until now, or until the trial ended. */
  function countsOf(trial: Trial): WordingCount[] {
    if (trial.ended !== undefined) return trial.ended.counts
    return trial.wordings.map(({ version }) => {
      const isOf = (row: { spot: SpotId; version: number }) => row.spot === trial.spot && row.version === version
      const sum = <Row>(rows: readonly Row[], of: (row: Row) => number) => rows.reduce((all, row) => all + of(row), 0)
      return {
        version,
        views: sum(results.seen.rows.filter(isOf), ({ views }) => views),
        signUps: sum(results.people.filter(isOf), ({ viewed }) => viewed),
      }
    })
  }

  /** A spot's views and sign-ups of late, by day; null where nothing counts its views. */
  function lately(spot: SpotId): { views: number; signUps: number; viewsPerDay: number } | null {
    const today = results.today()
    const from = dayAfter(today, -DAYS_BEFORE)
    const [line] = resultLines({
      by: 'spot',
      looked: { from, to: dayAfter(today, -1), spot },
      signUps: results.people,
      seen: results.seen.rows,
      formOf: results.formOf,
    })
    if (line === undefined || line.views === null || line.views === 0) return null
    const since = results.countedSince.get(spot) ?? from
    const days = Math.max(1, Math.round((Date.parse(today) - Date.parse(since > from ? since : from)) / 86_400_000))
    return { views: line.views, signUps: line.rate?.count ?? 0, viewsPerDay: line.views / days }
  }

  /** Publishes the wordings to be tried, together, and begins to show them. */
  async function begin(
    spot: Spot,
    wordings: readonly NewWording[],
    { plan, isKept }: { plan: Plan; isKept: boolean },
  ): Promise<void> {
    const current = await subjects.now(spot.form)
    if (current === null) return
    const { form } = current.subject
    for (const { name, content } of wordings) {
      const stopping = checkup({ ...current.subject, form: { ...form, draft: content } }).find(
        ({ weight }) => weight === 'stops',
      )
      if (stopping === undefined) continue
      notices.problem(`Not begun. “${name}”: ${stopping.message}`)
      return
    }
    try {
      const versions = await receiver.publish(
        wordings.map(({ content }) => ({ kind: 'form', key: form.id, as: { content, isTried: true } })),
      )
      const id = newId<TrialId>()
      await workspace.keepTrial({
        id,
        form: form.id,
        spot: spot.id,
        wordings: versions.map(({ number }, at) => ({ version: number, name: wordings[at]!.name })),
        isKept,
        plan,
        startedAt: now(),
      })
      if (!(await receiver.tell('trial', id))) {
        notices.done('The trial begins as soon as Ask Box is reached: it is kept here until then.')
        return
      }
      const begun = 'The trial has begun: from now on visitors there are shown one of the wordings.'
      const isBusy = rehearsal.going.length > 0
      notices.done(isBusy ? begun : `${begun} Each is rehearsed now.`)
      if (!isBusy) void rehearsal.start(rehearsal.rehearsable([spot]))
    } catch (error) {
      notices.problem(`Not begun: ${error instanceof Error ? error.message : 'no answer'}. Nothing has changed.`)
    }
  }

  /** Ends a trial, and publishes one of its wordings unless it is what the form is already. */
  async function end(trial: Trial, chosen: number | null): Promise<void> {
    const counts = countsOf(trial)
    const wording = chosen === null ? null : versionOf(trial.form, chosen)
    const latest = workspace.latestVersion(trial.form)
    try {
      const isNew = wording !== null && (latest === null || !sameContent(latest.content, wording.content))
      const [made] = isNew
        ? await receiver.publish([{ kind: 'form', key: trial.form, as: { content: wording.content } }])
        : []
      await workspace.keepTrial({ ...trial, ended: { at: now(), counts, chosen } })
      await receiver.tell('trial', trial.id)
      notices.done(
        made === undefined
          ? 'The trial has ended. The form is shown everywhere as it was.'
          : `The trial has ended. Version ${made.number} is published: the form is shown like this everywhere.`,
      )
    } catch (error) {
      notices.problem(`Not ended: ${error instanceof Error ? error.message : 'no answer'}. The trial goes on.`)
    }
  }

  const versionOf = (form: FormId, number: number): Version | null =>
    workspace.allVersionsOf(form).find((one) => one.number === number) ?? null

  return { countsOf, lately, begin, end, versionOf }
}

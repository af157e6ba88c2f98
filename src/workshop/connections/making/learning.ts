import { onScopeDispose, shallowRef } from 'vue'
import type { AskedService } from '#core/api'
import { type JsonTemplate, type RequestName, type ServiceFile, textAt, valueAt } from '#core/connection'
import {
  type AnswerReading,
  guessReading,
  guessSaid,
  outcomesBy,
  type ReadRequest,
  refusalIn,
  type Role,
  withPressed,
} from '#core/example'
import { parsedJson, sameValue } from '#core/json'
import type { NewHandOver } from '../new-hand-over'

type ShownAnswer = NonNullable<NonNullable<AskedService['exchange']>['answer']>

/** One request as it was tried. */
export interface Tried {
  asked: AskedService
  /** The address that it was about; empty for none. */
  email: string
}

/**
 * What is learnt of a service by its answers, shown or tried: where things stand in them, and how it says yes and no.
 *
 * @param stepOf the request for a step; null where there is none
 * @param made takes what was learnt into the service file that is asked by
 */
export function useLearning(
  inHand: NewHandOver,
  { stepOf, made }: { stepOf: (step: RequestName) => ReadRequest | null; made: () => void },
) {
  const readings = shallowRef<Partial<Record<RequestName, AnswerReading>>>({})
  const learnt = shallowRef<Pick<ServiceFile, 'answers' | 'said' | 'statuses'>>({})
  /** Answers that the help page shows, or the description file. */
  const shownAnswers = shallowRef<Partial<Record<RequestName, string>>>({})
  /** Steps whose answers its owner has read otherwise. */
  const pressed = new Set<RequestName>()
  const tries = shallowRef<Partial<Record<RequestName, Tried>>>({})

  function forget(): void {
    readings.value = {}
    learnt.value = {}
    tries.value = {}
    shownAnswers.value = {}
    pressed.clear()
  }

  /** A step whose request is written otherwise now. */
  function untried(step: RequestName): void {
    const { [step]: _, ...others } = tries.value
    tries.value = others
  }

  /** A step whose request is another now: nothing that was read of the one before holds. */
  function anew(step: RequestName): void {
    untried(step)
    pressed.delete(step)
    const [{ [step]: _reading, ...read }, { [step]: _shown, ...shown }] = [readings.value, shownAnswers.value]
    readings.value = read
    shownAnswers.value = shown
  }

  const rolesOf = (step: RequestName): Role[] => Object.values(stepOf(step)?.roles ?? {})

  /** Looks at an answer. True where it is read otherwise now, so that it is asked once more. */
  function heard(step: RequestName, asked: AskedService, email = ''): boolean {
    tries.value = { ...tries.value, [step]: { asked, email } }
    const answer = asked.exchange?.answer ?? null
    if (answer === null) return false
    if (asked.means !== 'done' && asked.means !== 'already') {
      learnSaid(answer)
      return false
    }
    // What its owner pressed stays.
    if (pressed.has(step)) return false
    const roles = step === 'find' ? rolesOf('put') : rolesOf(step)
    const guess = guessReading(step, answer, { email, asked: roles })
    if (
      Object.keys(guess.read ?? {}).length === 0 ||
      sameValue({ ...readings.value[step], ...guess }, readings.value[step])
    )
      return false
    readings.value = { ...readings.value, [step]: { ...readings.value[step], ...guess } }
    made()
    return true
  }

  function learnSaid(answer: { body: string }): void {
    const pointer = guessSaid(answer)
    if (pointer !== null && learnt.value.said?.includes(pointer) !== true)
      learnt.value = { ...learnt.value, said: [pointer, ...(learnt.value.said ?? [])] }
  }

  /** What its owner pressed in an answer. */
  function press(step: RequestName, part: string, pointer: string): void {
    if (part === 'said') learnt.value = { ...learnt.value, said: [pointer, ...(learnt.value.said ?? [])] }
    else {
      pressed.add(step)
      readings.value = { ...readings.value, [step]: withPressed(readings.value[step] ?? {}, step, part, pointer) }
    }
  }

  /**
   * Asks about somebody who is not there, puts somebody made up there, looks them up and takes them off: how each answers is
   * learnt. The trial that follows does it anew by what was learnt, with the same person, so that nobody stays there.
   */
  async function learnFromPerson(list: string, mark: string): Promise<void> {
    const nobody = { list, email: `askbox-nobody-${mark}@trial.example` }
    const somebody = { list, email: `askbox-trial-${mark}@trial.example` }
    // Answers that are read while somebody is put there.
    if (stepOf('tags') !== null) await inHand.ask('tags')
    if (stepOf('members') !== null) await inHand.ask('members', { list })
    const absent = stepOf('find') === null ? null : await inHand.ask('find', nobody, nobody.email)
    const no = absent?.exchange?.answer ?? null
    if (no !== null) learnSaid(no)
    const put = await inHand.ask('put', { ...somebody, fields: {}, tags: [] }, somebody.email)
    const told = put?.exchange?.answer ?? null
    if (told === null) return
    if (stepOf('join') !== null)
      await inHand.ask('join', { ...somebody, id: valueOf(told, readings.value.put?.read?.id) }, somebody.email)
    if (stepOf('putMany') !== null) await learnFromMany(somebody)
    const there = stepOf('find') === null ? null : await inHand.ask('find', somebody, somebody.email)
    const yes = there?.exchange?.answer ?? null
    if (yes !== null) learnYesAndNo(yes, no)
    // Where it is not known by which id they are called there, nothing is sent.
    if (stepOf('off') !== null)
      await inHand.ask(
        'off',
        { ...somebody, id: yes === null ? '' : valueOf(yes, readings.value.find?.read?.id) },
        somebody.email,
      )
  }

  const valueOf = ({ body }: { body: string }, pointer: string | undefined) => textAt(parsedJson(body), pointer) ?? ''

  /** What somebody who was put there just now is called, and how an answer without anybody differs. */
  function learnYesAndNo(yes: ShownAnswer, no: ShownAnswer | null): void {
    const word = valueOf(yes, readings.value.find?.read?.status)
    if (word !== '') learnt.value = { ...learnt.value, statuses: { ...learnt.value.statuses, [word]: 'on' } }
    const rule = no === null ? null : refusalIn(yes, no)
    if (rule === null) return
    learnt.value = { ...learnt.value, answers: [rule] }
    const answers = [{ ...rule, means: 'absent' as const }]
    readings.value = {
      ...readings.value,
      find: { ...readings.value.find, answers },
      ...(stepOf('off') !== null && { off: { ...readings.value.off, answers } }),
    }
  }

  /** What an answer about several tells of each. */
  async function learnFromMany({ list, email }: { list: string; email: string }): Promise<void> {
    const asked = await inHand.ask('putMany', { list, people: [{ email, fields: {}, tags: [] }] }, email)
    const answer = asked?.exchange?.answer ?? null
    const { items, read } = readings.value.putMany ?? {}
    if (answer === null || items === undefined || read === undefined) return
    const all = valueAt(parsedJson(answer.body), items)
    const outcomes = Array.isArray(all) ? outcomesBy(all[0] as JsonTemplate) : []
    readings.value = { ...readings.value, putMany: { items, read, outcomes } }
  }

  /** An example answer from the help page, for a step that is not tried yet. */
  function showAnswer(step: RequestName, body: string): void {
    shownAnswers.value = { ...shownAnswers.value, [step]: body }
    const guess = guessReading(step, { body }, { asked: step === 'find' ? rolesOf('put') : rolesOf(step) })
    readings.value = { ...readings.value, [step]: { ...readings.value[step], ...guess } }
  }

  inHand.heard.value = heard
  inHand.beforeTrial.value = async (list, mark) => {
    if (stepOf('put') !== null) await learnFromPerson(list, mark)
  }
  onScopeDispose(() => {
    inHand.heard.value = null
    inHand.beforeTrial.value = null
  })
  return { readings, learnt, shownAnswers, tries, forget, untried, anew, press, showAnswer }
}

import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import type { AskedService } from '#core/api'
import { type JsonTemplate, type RequestName, type ServiceFile, textAt, valueAt } from '#core/connection'
import {
  type AnswerReading,
  type Corrections,
  type DescribedOperation,
  guessReading,
  guessSaid,
  type MadeService,
  neededOf,
  noCorrections,
  offeredFor,
  type PieceId,
  type ReadDescription,
  type ReadRequest,
  outcomesBy,
  refusalIn,
  type Role,
  serviceFrom,
  understand,
  withPressed,
} from '#core/example'
import { parsedJson, sameValue } from '#core/json'
import { completedAddress } from '#core/site'
import { callWorker, isStopped } from '../../worker-calls'
import { useReceiver } from '../../sync'
import type { NewHandOver } from '../new-hand-over'
import type { DescriptionFunctions } from './description-worker'
import { makingSteps } from './making-words'

/** Longest time that a description file is read. */
const LONGEST_MS = 20_000

/** One request as it was tried. */
export interface Tried {
  asked: AskedService
  /** The address that it was about; empty for none. */
  email: string
}

/** A connection that is made from what a service's own documentation shows: what was read, corrected, tried and learnt. */
export function useServiceMaking(inHand: NewHandOver) {
  const receiver = useReceiver()
  const pasted = ref('')
  const name = ref('')
  const origin = ref('')
  const corrections = shallowRef<Corrections>(noCorrections)
  const operations = shallowRef<DescribedOperation[] | null>(null)
  /** What is read: pasted examples, or those that were chosen of a description. */
  const text = ref('')
  const problem = ref<string | null>(null)
  const unread = shallowRef<string[]>([])
  const isReading = ref(false)
  const readings = shallowRef<Partial<Record<RequestName, AnswerReading>>>({})
  const learnt = shallowRef<Pick<ServiceFile, 'answers' | 'said' | 'statuses'>>({})
  /** Answers that the help page shows, or the description file. */
  const shownAnswers = shallowRef<Partial<Record<RequestName, string>>>({})
  /** Steps whose answers its owner has read otherwise. */
  const pressed = new Set<RequestName>()
  const tries = shallowRef<Partial<Record<RequestName, Tried>>>({})

  const understood = computed(() => (text.value === '' ? null : understand(text.value, corrections.value)))
  const requests = computed((): ReadRequest[] => (understood.value?.ok === true ? understood.value.requests : []))
  const stepOf = (step: RequestName) => requests.value.find((one) => one.step === step) ?? null
  const made = computed((): MadeService | null => {
    if (understood.value?.ok !== true) return null
    const { said = [], ...other } = learnt.value
    const file = serviceFrom({
      ...{ name: name.value, origin: completedAddress(origin.value), readings: readings.value, said },
      requests: neededOf(requests.value),
    })
    return file.ok ? { ok: true, service: { ...file.service, ...other } } : file
  })
  watch(made, (now) => (inHand.service.value = now?.ok === true ? now.service : null))

  /** What was made of another text says nothing of this one. */
  function begin(examples: string): void {
    inHand.forget()
    corrections.value = noCorrections
    readings.value = {}
    learnt.value = {}
    tries.value = {}
    shownAnswers.value = {}
    pressed.clear()
    problem.value = null
    text.value = examples
    const reading = understand(examples)
    if (!reading.ok) problem.value = reading.message
  }

  /** Reads what was pasted or opened, whatever it is: a service file, a description file, or examples. */
  async function read(source: string): Promise<void> {
    operations.value = null
    unread.value = []
    if (/"askBoxService"\s*:/.test(source.slice(0, 2_000))) {
      text.value = ''
      problem.value = null
      return inHand.openServiceFile(source)
    }
    if (isAddress(source)) return readAt(source)
    if (!isDescription(source)) return begin(source)
    isReading.value = true
    try {
      const worker = new Worker(new URL('./description-worker.ts', import.meta.url), { type: 'module' })
      const reading = await callWorker<DescriptionFunctions, ReadDescription>(
        worker,
        (functions) => functions.read(source),
        AbortSignal.timeout(LONGEST_MS),
      )
      if (!reading.ok) {
        text.value = ''
        problem.value = reading.message
        return
      }
      if (name.value === '') name.value = reading.title
      begin(chosenOf(reading.operations))
      operations.value = reading.operations
      for (const { step } of makingSteps) {
        const [likeliest] = offeredFor(step, reading.operations)
        if (likeliest?.step === step && likeliest.answer !== null) showAnswer(step, likeliest.answer)
      }
      unread.value = reading.unread
    } catch (error) {
      problem.value = isStopped(error)
        ? 'It took longer than 20 seconds to read, so it was left. Paste the examples of three or four requests instead.'
        : `It could not be read: ${error instanceof Error ? error.message : String(error)}`
    } finally {
      isReading.value = false
    }
  }

  /** Fetched by the receiver, which goes to public addresses alone. */
  async function readAt(address: string): Promise<void> {
    isReading.value = true
    try {
      const page = await receiver.fetchPage(completedAddress(address.trim()))
      if (page.status >= 400) problem.value = `There it answered ${page.status}: is the address right?`
      else {
        pasted.value = page.html
        await read(page.html)
      }
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error)
    } finally {
      isReading.value = false
    }
  }

  /** The likeliest operation for each step, as examples. */
  function chosenOf(all: readonly DescribedOperation[]): string {
    const texts = makingSteps.flatMap(({ step }) => {
      const [likeliest] = offeredFor(step, all)
      return likeliest?.step === step ? [likeliest.text] : []
    })
    for (const step of ['members', 'putMany', 'tags', 'makeTag', 'change'] as const) {
      const [likeliest] = offeredFor(step, all)
      if (likeliest?.step === step) texts.push(likeliest.text)
    }
    return texts.join('\n\n')
  }

  /** Another request for a step: one of the text, or one that the description offers. */
  function choose(step: RequestName, choice: string): void {
    const before = stepOf(step)
    const steps: Record<number, RequestName | null> = { ...corrections.value.steps }
    if (before !== null) steps[before.number] = null
    if (choice.startsWith('operation ')) {
      const operation = operations.value?.[Number(choice.slice('operation '.length))]
      if (operation === undefined) return
      steps[requests.value.length] = step
      text.value = `${text.value}\n\n${operation.text}`
    } else if (choice !== '') steps[Number(choice)] = step
    corrections.value = { ...corrections.value, steps }
    untried(step)
  }

  /** What a value stands for; the same value under the same name in other examples stands for the same. */
  function correct(number: number, id: PieceId, role: Role): void {
    const chosen = requests.value.find((one) => one.number === number)?.pieces.find((piece) => piece.id === id)
    if (chosen === undefined) return
    const place = placeOf(id)
    const corrected: Record<number, Record<PieceId, Role>> = {}
    for (const one of requests.value) {
      corrected[one.number] = { ...corrections.value.roles[one.number] }
      for (const piece of one.pieces) {
        const isIt = one.number === number && piece.id === id
        const isSame =
          placeOf(piece.id) === place &&
          piece.name === chosen.name &&
          piece.value === chosen.value &&
          piece.value !== ''
        if (!isIt && !isSame) continue
        corrected[one.number]![piece.id] = role
        if (one.step !== null) untried(one.step)
      }
    }
    corrections.value = { ...corrections.value, roles: corrected }
  }

  function untried(step: RequestName): void {
    const { [step]: _, ...others } = tries.value
    tries.value = others
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
    if (made.value?.ok === true) inHand.service.value = made.value.service
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
   * Asks about somebody who is not there, puts somebody made up there and looks them up: how each answers is learnt. The
   * trial that follows takes them off.
   */
  async function learnFromPerson(list: string): Promise<void> {
    const nobody = { list, email: 'askbox-nobody@trial.example' }
    const somebody = { list, email: 'askbox-trial@trial.example' }
    // Answers that are read while somebody is put there.
    if (stepOf('tags') !== null) await inHand.ask('tags')
    if (stepOf('members') !== null) await inHand.ask('members', { list })
    const absent = stepOf('find') === null ? null : await inHand.ask('find', nobody, nobody.email)
    if (absent?.exchange?.answer) learnSaid(absent.exchange.answer)
    const put = await inHand.ask('put', { ...somebody, fields: {}, tags: [] }, somebody.email)
    if (put === null || stepOf('find') === null) return
    const there = await inHand.ask('find', somebody, somebody.email)
    if (stepOf('putMany') !== null) await learnFromMany(somebody)
    // The trial that follows does it anew, by what was learnt.
    if (stepOf('off') !== null) await inHand.ask('off', { ...somebody, id: there?.member?.id ?? '' }, somebody.email)
    const [yes, no] = [there?.exchange?.answer, absent?.exchange?.answer]
    if (!yes) return
    const word = textAt(parsedJson(yes.body), readings.value.find?.read?.status)
    if (word !== null) learnt.value = { ...learnt.value, statuses: { ...learnt.value.statuses, [word]: 'on' } }
    const rule = no ? refusalIn(yes, no) : null
    if (rule === null) return
    learnt.value = { ...learnt.value, answers: [rule] }
    const absentRule = [{ ...rule, means: 'absent' as const }]
    readings.value = {
      ...readings.value,
      find: { ...readings.value.find, answers: absentRule },
      ...(stepOf('off') !== null && { off: { ...readings.value.off, answers: absentRule } }),
    }
  }

  /** What an answer about several tells of each. */
  async function learnFromMany({ list, email }: { list: string; email: string }): Promise<void> {
    const asked = await inHand.ask('putMany', { list, people: [{ email, fields: {}, tags: [] }] }, email)
    const { items, read } = readings.value.putMany ?? {}
    if (
      asked?.exchange?.answer === undefined ||
      asked.exchange.answer === null ||
      items === undefined ||
      read === undefined
    )
      return
    const all = valueAt(parsedJson(asked.exchange.answer.body), items)
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
  inHand.beforeTrial.value = (list) => (text.value === '' ? Promise.resolve() : learnFromPerson(list))
  onScopeDispose(() => {
    inHand.heard.value = null
    inHand.beforeTrial.value = null
  })

  return {
    ...{ pasted, name, origin, text, problem, unread, isReading, operations, requests, readings, tries, made, learnt },
    ...{ shownAnswers, showAnswer },
    ...{ read, choose, correct, press, stepOf, tried: inHand.tried },
  }
}
export type ServiceMaking = ReturnType<typeof useServiceMaking>

/** Whether a value stands in the path, the query, a header or the body. */
const placeOf = (id: PieceId) => id.split('/')[0]!

const isDescription = (source: string) =>
  /["']?\b(?:openapi|swagger)["']?[ \t]{0,4}:[ \t]{0,4}["']?\d/.test(source.slice(0, 5_000))
const isAddress = (source: string) => /^\s*https?:\/\/\S+\.(?:json|ya?ml)(?:\?\S*)?\s*$/i.test(source)

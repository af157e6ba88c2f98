import { computed, ref, shallowRef, watch } from 'vue'
import type { RequestName } from '#core/connection'
import {
  type Corrections,
  type DescribedOperation,
  type MadeService,
  neededOf,
  noCorrections,
  offeredFor,
  type PieceId,
  type ReadDescription,
  type ReadRequest,
  type Role,
  serviceFrom,
  understand,
} from '#core/example'
import { completedAddress } from '#core/site'
import { callWorker, isStopped } from '../../worker-calls'
import { useReceiver } from '../../sync'
import type { NewHandOver } from '../new-hand-over'
import type { DescriptionFunctions } from './description-worker'
import { useLearning } from './learning'
import { makingSteps } from './making-words'

/** Longest time that a description file is read. */
const LONGEST_MS = 20_000

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
  const leftOut = shallowRef<string[]>([])
  const isReading = ref(false)
  const understood = computed(() => (text.value === '' ? null : understand(text.value, corrections.value)))
  const requests = computed((): ReadRequest[] => (understood.value?.ok === true ? understood.value.requests : []))
  const unread = computed(() => [...leftOut.value, ...(understood.value?.ok === true ? understood.value.unread : [])])
  const stepOf = (step: RequestName) => requests.value.find((one) => one.step === step) ?? null
  const learning = useLearning(inHand, {
    stepOf,
    made: () => {
      if (made.value?.ok === true) inHand.service.value = made.value.service
    },
  })
  const { readings, learnt, shownAnswers, tries, press, showAnswer } = learning
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
    learning.forget()
    problem.value = null
    text.value = examples
    const reading = understand(examples)
    if (!reading.ok) problem.value = reading.message
  }

  /** Reads what was pasted or opened, whatever it is: a service file, a description file, or examples. */
  async function read(source: string): Promise<void> {
    operations.value = null
    leftOut.value = []
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
      leftOut.value = reading.unread
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
    learning.anew(step)
    if (choice.startsWith('operation ')) {
      const operation = operations.value?.[Number(choice.slice('operation '.length))]
      if (operation === undefined) return
      const there = requests.value.find((one) => one.step === null && operationOf(one) === operation)
      steps[there?.number ?? requests.value.length] = step
      if (there === undefined) text.value = `${text.value}\n\n${operation.text}`
      if (operation.answer !== null) showAnswer(step, operation.answer)
    } else if (choice !== '') steps[Number(choice)] = step
    corrections.value = { ...corrections.value, steps }
  }

  /** The operation of the description that a request was written from; null for one that was pasted. */
  function operationOf({ request }: ReadRequest): DescribedOperation | null {
    const line = `${request.method} ${request.address}`
    return operations.value?.find((one) => one.text.split('\n', 1)[0] === line) ?? null
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
        if (one.step !== null) learning.untried(one.step)
      }
    }
    corrections.value = { ...corrections.value, roles: corrected }
  }

  return {
    ...{ pasted, name, origin, text, problem, unread, isReading, operations, requests, readings, tries, made, learnt },
    ...{ shownAnswers, showAnswer },
    ...{ read, choose, operationOf, correct, press, stepOf, tried: inHand.tried },
  }
}
export type ServiceMaking = ReturnType<typeof useServiceMaking>

/** Whether a value stands in the path, the query, a header or the body. */
const placeOf = (id: PieceId) => id.split('/')[0]!

const isDescription = (source: string) =>
  /["']?\b(?:openapi|swagger)["']?[ \t]{0,4}:[ \t]{0,4}["']?\d/.test(source.slice(0, 5_000))
const isAddress = (source: string) => /^\s*https?:\/\/\S+\.(?:json|ya?ml)(?:\?\S*)?\s*$/i.test(source)

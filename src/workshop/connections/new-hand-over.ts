import { computed, reactive, ref, shallowRef } from 'vue'
import {
  abilitiesOf,
  placeOf,
  serviceOf,
  type Connection,
  type HandOver,
  matchFields,
  readServiceFile,
  type ServiceFile,
  type Way,
} from '#core/connection'
import type { ConnectionId, HandOverId } from '#core/ids'
import type { List } from '#core/list'
import { newId, now } from '../clock'
import { useWorkspace } from '../data'
import { newWebhookSecret, useOutside } from '.'
import { useServiceAsking } from './service-asking'
import { useReceiver } from '../sync'

/** A hand-over that is being made: to where, by which key, into which list, with what, and from when. */
export function useNewHandOver(list: () => List) {
  const workspace = useWorkspace()
  const outside = useOutside()
  const receiver = useReceiver()
  const madeId = newId<ConnectionId>()

  /** Null for a connection that is made here. */
  const chosen = ref<ConnectionId | null>(workspace.connections[0]?.id ?? null)
  const name = ref('')
  const kind = ref<Way['kind']>('api')
  const service = shallowRef<ServiceFile | null>(null)
  const asked = reactive<Record<string, string>>({})
  const key = ref('')
  const address = ref('')
  const form = shallowRef<Extract<Way, { kind: 'form-post' }> | null>(null)
  const everyMinutes = ref(60)
  const secret = newWebhookSecret()

  const sendsTags = ref(true)
  const moment = ref<HandOver['moment']>('confirmed')
  const confirmsThere = ref(false)

  const way = computed((): Way | null => {
    if (chosen.value !== null) return workspace.connection(chosen.value)?.way ?? null
    switch (kind.value) {
      case 'api':
        return service.value === null ? null : { kind: 'api', service: service.value, asked: { ...asked } }
      case 'webhook':
        return address.value === '' ? null : { kind: 'webhook', address: address.value.trim(), events: [] }
      case 'form-post':
        return form.value
      default:
        return { kind: 'file', everyMinutes: everyMinutes.value }
    }
  })
  const connectionId = computed(() => chosen.value ?? madeId)
  const isSignedInto = computed(() => way.value !== null && serviceOf(way.value)?.key.way === 'oauth')
  const typedKey = computed(() => (chosen.value === null && key.value.trim() !== '' ? key.value.trim() : undefined))
  const asking = useServiceAsking({ way, connection: connectionId, key: typedKey, list })
  const { isBusy, problem, account, fields, matches, theirList, unfilled, tried, forget } = asking
  /** Whether all is there that is needed to hand anybody over. */
  const isReady = computed(
    () =>
      way.value !== null &&
      (!abilitiesOf(way.value).canBeAsked || (theirList.value !== null && unfilled.value.length === 0)),
  )
  /** Where a service's own form posts to; null for none. */
  function takeForm(read: Extract<Way, { kind: 'form-post' }> | null): void {
    form.value = read
    matches.value =
      read === null
        ? {}
        : Object.fromEntries(
            matchFields(
              list().columns,
              read.fields.map((field) => ({ ...field, kind: 'text' as const, isRequired: false })),
            ).map(({ column, key }) => [column, key]),
          )
  }

  async function openServiceFile(text: string): Promise<void> {
    const reading = readServiceFile(text)
    if (!reading.ok) {
      problem.value = reading.message
      return
    }
    forget()
    service.value = reading.service
    confirmsThere.value = false
  }

  async function signIn(): Promise<string | null> {
    if (way.value?.kind !== 'api' || outside.client === null) return null
    return (await outside.client.signIn(connectionId.value, way.value.service, way.value.asked)).address
  }

  const made = computed((): { connection: Connection; handOver: HandOver } | null => {
    if (way.value === null) return null
    const connection: Connection = workspace.connection(connectionId.value) ?? {
      id: madeId,
      name: name.value.trim() || nameFor(way.value, account.value),
      way: way.value,
      isRehearsed: false,
      createdAt: now(),
    }
    const handOver: HandOver = {
      id: newId<HandOverId>(),
      list: list().id,
      connection: connection.id,
      target: theirList.value === null ? null : { id: theirList.value.id, name: theirList.value.name },
      fields: Object.entries(matches.value)
        .filter(([, key]) => key !== '')
        .map(([column, key]) => ({ column, key, name: nameOfField(key) })),
      sendsTags: sendsTags.value,
      moment: moment.value,
      confirmsThere: confirmsThere.value,
      isPaused: false,
      createdAt: now(),
    }
    return { connection, handOver }
  })
  const nameOfField = (key: string) => fields.value?.find((one) => one.key === key)?.name ?? key

  /** One made-up person goes there and is taken off again. */
  async function tryIt(): Promise<void> {
    if (made.value === null || outside.client === null) return
    isBusy.value = true
    problem.value = null
    try {
      // Whoever goes there before is the same made-up person, who is taken off in the end.
      const mark = newId<string>()
      if (theirList.value !== null) await asking.beforeTrial.value?.(theirList.value.id, mark)
      isBusy.value = true
      const { connection, handOver } = made.value
      tried.value = await outside.client.tryHandOver(connection, handOver, typedKey.value, mark)
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error)
    } finally {
      isBusy.value = false
    }
  }

  /** Keeps it: from now on people go there. Resolves with it once the receiver knows of it. */
  async function keep(): Promise<HandOver | null> {
    if (made.value === null || outside.client === null) return null
    isBusy.value = true
    const { connection, handOver } = made.value
    try {
      if (chosen.value === null) {
        await workspace.keepConnection(connection)
        const text = abilitiesOf(connection.way).opensBy === 'secret' ? secret : typedKey.value
        if (text !== undefined) await outside.client.keepKey(connection, text)
      }
      await workspace.keepHandOver(handOver)
      // By then the receiver knows of both.
      await receiver.tell('connection', connection.id)
      await receiver.tell('handOver', handOver.id)
      await outside.look()
      return handOver
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error)
      return null
    } finally {
      isBusy.value = false
    }
  }

  return {
    ...asking,
    chosen,
    name,
    kind,
    service,
    asked,
    key,
    address,
    takeForm,
    everyMinutes,
    secret,
    way,
    sendsTags,
    moment,
    confirmsThere,
    isReady,
    isSignedInto,
    openServiceFile,
    signIn,
    tryIt,
    keep,
  }
}

export type NewHandOver = ReturnType<typeof useNewHandOver>

const nameFor = (way: Way, account: string | null): string =>
  account ||
  {
    api: placeOf(way),
    'form-post': `Form at ${placeOf(way)}`,
    webhook: `Webhook at ${placeOf(way)}`,
    file: 'Table in a folder',
  }[way.kind]

import { computed, type Ref, ref, shallowRef } from 'vue'
import type { AskedService, AskService, TriedHandOver } from '#core/api'
import {
  keyProblem,
  matchFields,
  type RequestName,
  type TheirField,
  type TheirList,
  unfilledFields,
  type Way,
} from '#core/connection'
import type { ConnectionId } from '#core/ids'
import type { List } from '#core/list'
import { reasonFor, useOutside } from '.'

/** What a service is asked by. */
interface AskedBy {
  way: Ref<Way | null>
  connection: Ref<ConnectionId>
  /** The key that is typed; undefined where the one that is kept is meant. */
  key: Ref<string | undefined>
  list: () => List
}

/** What a service answers while a list is being handed on to it: whose key it is, its lists, and the fields of the chosen one. */
export function useServiceAsking({ way, connection, key, list }: AskedBy) {
  const outside = useOutside()
  const isBusy = ref(false)
  const problem = ref<string | null>(null)
  const account = ref<string | null>(null)
  const lists = shallowRef<TheirList[] | null>(null)
  const target = ref<string | null>(null)
  const fields = shallowRef<TheirField[] | null>(null)
  const matches = ref<Record<string, string>>({})
  const tried = shallowRef<TriedHandOver | null>(null)
  const theirList = computed(() => lists.value?.find(({ id }) => id === target.value) ?? null)
  const unfilled = computed(() =>
    unfilledFields(
      fields.value ?? [],
      Object.values(matches.value)
        .filter((key) => key !== '')
        .map((key) => ({ key })),
    ),
  )

  /** Hears each answer, while a service file is made of them; true where it is asked once more. */
  const heard = shallowRef<((what: RequestName, answer: AskedService, email: string) => boolean) | null>(null)
  /** Done before a made-up person goes there, with the list that they go to and the mark in their address. */
  const beforeTrial = shallowRef<((list: string, mark: string) => Promise<void>) | null>(null)

  /** @param email whom it is about, where it is about somebody: then any answer is given back */
  async function ask(
    what: RequestName,
    values: AskService['values'] = {},
    email?: string,
  ): Promise<AskedService | null> {
    if (way.value?.kind !== 'api' || outside.client === null) return null
    problem.value = key.value === undefined ? null : keyProblem(key.value)
    if (problem.value !== null) return null
    isBusy.value = true
    try {
      const { client } = outside
      const once = async (): Promise<AskedService> =>
        client.askService({
          connection: connection.value,
          way: way.value as Extract<Way, { kind: 'api' }>,
          ...(key.value !== undefined && { key: key.value }),
          what,
          values,
        })
      let answer = await once()
      // Read otherwise now: what it brought is read anew.
      if (heard.value?.(what, answer, email ?? '') === true && email === undefined) {
        answer = await once()
        heard.value(what, answer, '')
      }
      if (email !== undefined) return answer
      if (answer.means === 'done' || (what === 'account' && answer.means === 'cannot')) return answer
      problem.value = reasonFor(answer)
      return null
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error)
      return null
    } finally {
      isBusy.value = false
    }
  }

  function forget(): void {
    problem.value = null
    account.value = null
    lists.value = null
    target.value = null
    fields.value = null
    matches.value = {}
    tried.value = null
  }

  /** The key is tried, and what it opens is offered. */
  async function tryKey(): Promise<void> {
    forget()
    const who = await ask('account')
    if (who === null) return
    account.value = who.account ?? ''
    const answer = await ask('lists')
    if (answer === null) return
    lists.value = answer.lists
    if (answer.lists.length === 1) await chooseTarget(answer.lists[0]!.id)
  }

  async function chooseTarget(id: string): Promise<void> {
    target.value = id
    tried.value = null
    const answer = await ask('fields', { list: id })
    fields.value = answer?.fields ?? []
    matches.value = Object.fromEntries(
      list().columns.map(({ key }) => [
        key,
        matchFields(list().columns, fields.value!).find(({ column }) => column === key)?.key ?? '',
      ]),
    )
  }

  /** Has the service make a field for a column that it has none for. */
  async function makeField(column: string): Promise<void> {
    const { label } = list().columns.find(({ key }) => key === column)!
    if ((await ask('makeField', { list: target.value!, name: label })) === null) return
    const before = { ...matches.value }
    const answer = await ask('fields', { list: target.value! })
    if (answer === null) return
    const made = answer.fields.find(({ key }) => fields.value?.every((one) => one.key !== key))
    fields.value = answer.fields
    matches.value = { ...before, [column]: made?.key ?? '' }
  }

  return {
    ...{ isBusy, problem, account, lists, target, theirList, fields, matches, unfilled, tried },
    ...{ heard, beforeTrial, ask, forget, tryKey, chooseTarget, makeField },
  }
}

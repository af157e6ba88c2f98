import { computed, ref, shallowRef, watch } from 'vue'
import type { FormProblem, ReadForm, Said } from '#core/direct'
import type { FormContent } from '#core/form'
import { addressProblem, completedAddress } from '#core/site'
import { clientFor } from '../client'
import { useReceiver } from '../sync'

/** A form of a list service's as it was read from what its owner pasted. */
export function useDirectForm() {
  const receiver = useReceiver()
  /** The code, or the address of its page. */
  const pasted = ref('')
  const page = ref('')
  const read = shallowRef<ReadForm | null>(null)
  const problem = shallowRef<{ message: string; needsPage: boolean } | null>(null)
  const said = ref<Record<string, Said[string]>>({})
  const isBusy = ref(false)
  const host = computed(() => (read.value === null ? '' : new URL(read.value.action).host))

  const isUnread = computed(() => pasted.value.trim() !== '' && read.value === null)
  // What was read is not what stands there now.
  watch(pasted, forget)

  function forget(): void {
    read.value = null
    problem.value = null
    said.value = {}
  }

  /** A new form is made without it. */
  function leaveOut(): void {
    pasted.value = ''
    forget()
  }

  async function look(): Promise<void> {
    forget()
    isBusy.value = true
    const looked = pasted.value
    try {
      const { readForm } = await import('#core/direct')
      const found = await sourceOf(looked.trim(), completedAddress(page.value))
      if (pasted.value !== looked) return
      const reading = readForm(found.code, found.address)
      if (reading.ok) read.value = reading.form
      else problem.value = { message: reading.message, needsPage: needsPage(reading.code) }
    } catch (error) {
      problem.value = { message: error instanceof Error ? error.message : String(error), needsPage: false }
    } finally {
      isBusy.value = false
    }
  }

  /** Code as it is; of an address, the page there as the receiver gets it. */
  async function sourceOf(pasted: string, page: string): Promise<{ code: string; address: string | null }> {
    const address = completedAddress(pasted)
    if (pasted.includes('<') || addressProblem(address) !== null)
      return { code: pasted, address: addressProblem(page) === null ? page : null }
    if (receiver.pairing === null)
      throw new Error('A page can only be looked at with a receiver. Open it yourself, and paste the code of its form.')
    const { html, address: final } = await clientFor({ ...receiver.pairing }).fetchPage(address)
    return { code: html, address: final }
  }

  /** What a new form becomes by it. */
  async function remade(start: FormContent): Promise<FormContent> {
    if (read.value === null) return start
    const { directContent } = await import('#core/direct')
    return directContent(read.value, start, { ...said.value })
  }

  return {
    pasted,
    page,
    isUnread,
    read,
    problem,
    said,
    isBusy,
    host,
    leaveOut,
    look,
    remade,
    say: (name: string, kind: Said[string]) => (said.value = { ...said.value, [name]: kind }),
  }
}
export type DirectForm = ReturnType<typeof useDirectForm>

const needsPage = (code: FormProblem) => code === 'relative' || code === 'no-action'

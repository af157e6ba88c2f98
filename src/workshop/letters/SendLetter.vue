<script setup lang="ts">
import { ElButton, ElDatePicker, ElDialog, ElTimePicker } from 'element-plus'
import { computed, ref } from 'vue'
import type { LetterReadersNow } from '#core/api'
import type { LetterTime } from '#core/letter'
import Choice from '../controls/Choice.vue'
import Labelled from '../controls/Labelled.vue'
import { shownMoment } from '../controls'

/** When a letter goes: the last question before it does. */
const { readers, listNames, send } = defineProps<{
  readers: LetterReadersNow | null
  listNames: string
  send: (when: LetterTime) => Promise<void>
}>()
const isOpen = defineModel<boolean>({ required: true })

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone
const kind = ref<LetterTime['kind'] | ''>('now')
const kinds = [
  { value: 'now' as const, label: 'Now' },
  { value: 'at' as const, label: 'At a time' },
  { value: 'local' as const, label: 'At an hour of each reader’s day' },
]
const tomorrow = new Date(Date.now() + 86_400_000)
const day = ref(localDay(tomorrow))
const time = ref('08:00')
const isBusy = ref(false)
const problem = ref('')

function localDay(date: Date): string {
  const two = (number: number) => String(number).padStart(2, '0')
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`
}
const at = computed(() => new Date(`${day.value}T${time.value}:00`))
const when = computed((): LetterTime | null => {
  if (kind.value === 'now') return { kind: 'now' }
  if (!day.value || !time.value || Number.isNaN(at.value.getTime())) return null
  return kind.value === 'at'
    ? { kind: 'at', at: at.value.toISOString() }
    : { kind: 'local', day: day.value, time: time.value, zone: HERE }
})
const isPast = computed(() => kind.value !== 'now' && at.value.getTime() < Date.now())
const gets = computed(() => (readers === null ? '' : readers.gets.toLocaleString('en-GB')))
const whom = computed(() => `${gets.value} ${readers?.gets === 1 ? 'person' : 'people'} of ${listNames}`)

async function go(): Promise<void> {
  if (when.value === null) return
  isBusy.value = true
  problem.value = ''
  try {
    await send(when.value)
    isOpen.value = false
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <ElDialog v-model="isOpen" title="Send the letter" width="520px">
    <form novalidate id="send-letter" class="parts" @submit.prevent="go">
      <p v-if="readers">
        <b>{{ whom }}</b> would get it now. Who is on the list then gets it, and nobody who leaves before their turn.
      </p>
      <Choice v-model="kind" name="letter-when" label="When it goes" :options="kinds" />
      <div v-if="kind !== 'now'" class="row">
        <Labelled label="Day">
          <ElDatePicker v-model="day" type="date" value-format="YYYY-MM-DD" format="D MMM YYYY" :clearable="false" />
        </Labelled>
        <Labelled label="Hour">
          <ElTimePicker v-model="time" value-format="HH:mm" format="HH:mm" :clearable="false" />
        </Labelled>
      </div>
      <p v-if="kind === 'at' && when" class="quiet small">
        By your clock ({{ HERE }}): {{ shownMoment(at.toISOString()) }}.
      </p>
      <p v-if="kind === 'local'" class="quiet small">
        Each reader gets it when their own clock shows it: by the zone that their browser told when they joined, or that
        of the site that they joined on. The others<template v-if="readers">
          ({{ readers.withoutZone.toLocaleString('en-GB') }})</template
        >
        get it by yours, {{ HERE }}.
      </p>
      <p v-if="isPast" class="problem small" role="alert">That moment is over: it would go at once.</p>
      <p v-if="problem" class="problem" role="alert">Not sent. {{ problem }}</p>
    </form>
    <template #footer>
      <ElButton @click="isOpen = false">Not yet</ElButton>
      <ElButton type="primary" native-type="submit" form="send-letter" :loading="isBusy" :disabled="when === null">{{
        kind === 'now' ? (readers ? `Send it to ${whom}` : 'Send it') : 'Have it go then'
      }}</ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.parts {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
</style>

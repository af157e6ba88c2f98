<script setup lang="ts">
import { ElButton, ElCheckbox, ElDialog } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import type { BatchProgress } from '#core/api'
import type { List, Wanted } from '#core/list'
import { useWorkspace } from '../data'
import { useBatchChanges } from './batch-changes'
import { useLongWork } from './long-work'
import { peopleCount } from './people-count'
import WorkProgress from './WorkProgress.vue'

/** Erases people everywhere, for good, and tells where it looked and what went. */
const { list, wanted, count, who } = defineProps<{
  list: List
  wanted: Wanted
  count: number
  /** Of one person. */ who?: string
}>()
const emit = defineEmits<{ close: []; done: [] }>()
const work = useLongWork()
const batches = useBatchChanges(work)
const isOpen = ref(true)
const isSure = ref(false)
const outcome = shallowRef<BatchProgress | null>(null)
/** Where lists go on to. */
const workspace = useWorkspace()
const told = computed(() =>
  workspace.handOvers.flatMap(({ target, connection }) => target?.name ?? workspace.connection(connection)?.name ?? []),
)
const name = computed(() => who ?? peopleCount(count))

async function erase(): Promise<void> {
  outcome.value = await batches.erase(wanted, count)
}
function end(): void {
  if (outcome.value !== null) emit('done')
  emit('close')
}
</script>

<template>
  <ElDialog
    v-model="isOpen"
    :title="outcome === null ? `Erase ${name}` : 'Erased'"
    width="min(560px, 94vw)"
    append-to-body
    :close-on-click-modal="!work.isWorking.value"
    :close-on-press-escape="!work.isWorking.value"
    @closed="end"
  >
    <div v-if="outcome === null" class="asked">
      <p>
        All that is kept about {{ who === undefined ? 'them' : 'this person' }} goes, on every list and for good:
        addresses, answers, where they signed up, consents, notes, mails waiting and sent. Numbers and times of what
        happened stay, without a person.
      </p>
      <ul class="small">
        <li>No file and no older copy of this workshop brings them back; a sign-up of their own is welcome.</li>
        <li v-if="told.length > 0">
          {{ told.join(' and ') }} {{ told.length === 1 ? 'is' : 'are' }} told to take them off as well; what else is
          kept there is theirs to erase.
        </li>
        <li>
          What cannot be reached: backups and files that were saved before, mail that was delivered, and what services
          keep that people were handed to.
        </li>
      </ul>
      <ElCheckbox v-model="isSure">It cannot be undone, and I want it.</ElCheckbox>
      <WorkProgress :work="work" />
      <div class="row">
        <ElButton type="primary" :disabled="!isSure || work.isWorking.value" @click="erase">Erase</ElButton>
        <ElButton text :disabled="work.isWorking.value" @click="isOpen = false">Cancel</ElButton>
      </div>
    </div>
    <div v-else class="asked" role="status">
      <p>
        <strong>{{ peopleCount(outcome.counts.done) }}</strong> erased from “{{ list.name }}” and every other list they
        were on.
      </p>
      <dl v-if="outcome.report">
        <dt>Journal entries looked through</dt>
        <dd>{{ outcome.report.entries.toLocaleString('en') }}</dd>
        <dt>of which now tell nothing of a person</dt>
        <dd>{{ outcome.report.blanked.toLocaleString('en') }}</dd>
        <dt>Memberships</dt>
        <dd>{{ outcome.report.members.toLocaleString('en') }}</dd>
        <dt>Mails waiting and sent</dt>
        <dd>{{ outcome.report.mails.toLocaleString('en') }}</dd>
        <dt>Remembered answers to changes</dt>
        <dd>{{ outcome.report.outcomes.toLocaleString('en') }}</dd>
        <dt>Their addresses, byte for byte, in all that the receiver stores</dt>
        <dd>
          {{
            outcome.report.left === null
              ? 'not searched'
              : outcome.report.left === 0
                ? 'found nowhere'
                : `still found ${outcome.report.left} times, in what is kept about somebody else`
          }}
        </dd>
      </dl>
      <div class="row"><ElButton type="primary" @click="isOpen = false">Close</ElButton></div>
    </div>
  </ElDialog>
</template>

<style scoped>
.asked {
  display: grid;
  gap: var(--gap-3);
}
p,
ul {
  margin: 0;
}
ul {
  padding-inline-start: var(--gap-4);
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: var(--gap-1) var(--gap-4);
  margin: 0;
}
dd {
  margin: 0;
  font-weight: 600;
  text-align: end;
}
</style>

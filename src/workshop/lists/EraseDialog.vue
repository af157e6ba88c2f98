<script setup lang="ts">
import { ElButton, ElCheckbox, ElDialog } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import type { BatchProgress, CareState } from '#core/api'
import type { List } from '#core/list'
import { clientFor } from '../client'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'
import { type SettledPeople, useBatchChanges } from './batch-changes'
import { useLongWork } from './long-work'
import { peopleCount } from './people-count'
import WorkProgress from './WorkProgress.vue'

/** Erases people everywhere, for good, and tells where it looked and what went. */
const { list, chosen, how, who } = defineProps<{
  list: List
  chosen: SettledPeople
  /** How they were found, in words; empty for everybody. */ how?: string
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
const name = computed(() => who ?? peopleCount(chosen.count))

const receiver = useReceiver()
const notices = useNotices()
/** Copies that made themselves before: they hold it until they go. */
const copies = shallowRef<CareState['backups'] | null>(null)

async function erase(): Promise<void> {
  outcome.value = await batches.erase(chosen)
  if (outcome.value === null) return
  // “Removed. Undo”: nobody is there any more.
  notices.clear()
  if (receiver.pairing === null) return
  copies.value = await clientFor({ ...receiver.pairing })
    .care()
    .then(({ backups }) => backups)
    .catch(() => null)
}
const day = (at: number) => new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })
/** The newest of them goes when as many newer ones are there as are kept. */
const copiesWords = computed(() => {
  if (copies.value === null) return 'not known: the receiver did not tell'
  const { copies: made, isOn, keep, goesTo } = copies.value
  const [newest] = made
  if (newest === undefined) return 'none made themselves'
  const which =
    made.length === 1 ? `one, of ${day(newest)}` : `${made.length}, of ${day(made.at(-1)!)} to ${day(newest)}`
  return `${which}, in ${goesTo}: ${isOn ? `the last of them goes on ${day(newest + keep * 86_400_000)}` : 'they stay, since daily copies are off'}`
})
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
      <p v-if="how" class="quiet small">{{ how }} Exactly these are erased, whoever joins meanwhile.</p>
      <p>
        All that is kept about {{ who === undefined ? 'them' : 'this person' }} goes, on every list and for good:
        addresses, answers, where they signed up, consents, notes, what they wrote to you, mails waiting and sent.
        Numbers and times of what happened stay, without a person.
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
        <dt>Records looked through</dt>
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
              ? 'not searched: the database’s own log and free space are its server’s'
              : outcome.report.left === 0
                ? 'found nowhere'
                : `still found ${outcome.report.left} times, in what is kept about somebody else`
          }}
        </dd>
        <template v-if="outcome.report.filters.length > 0">
          <dt>Saved filters in which an address stands; change or delete them there</dt>
          <dd>{{ outcome.report.filters.join(', ') }}</dd>
        </template>
      </dl>
      <p class="small">
        Backups that hold it still: {{ copiesWords }}. Those made by hand are yours to delete; the one that an update of
        a server makes ends after a week.
      </p>
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

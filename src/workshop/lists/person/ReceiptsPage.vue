<script setup lang="ts">
import { Download, Printer } from '@lucide/vue'
import { ElButton, ElSkeleton } from 'element-plus'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { ListId, MemberId } from '#core/ids'
import type { Receipt } from '#core/receipt'
import { handToDownloads } from '../../controls'
import { useWorkspace } from '../../data'
import Nowhere from '../../Nowhere.vue'
import { useTitle } from '../../title'
import { usePerson } from './person'
import { useReceipts } from './receipts'
import Page from '../../controls/Page.vue'

/** How one person agreed to get mail, in plain words; to be printed, or saved for a program. */
const props = defineProps<{ id: string; member: string }>()
const workspace = useWorkspace()
const reading = useReceipts()
const list = computed(() => workspace.list(props.id as ListId))
const { person, isKnown } = usePerson(
  () => props.id as ListId,
  () => props.member as MemberId,
)
const receipts = computed(() =>
  person.value === null ? [] : reading.of(person.value.entries, person.value.batches).reverse(),
)
useTitle(() => (person.value === null ? null : `Receipts of ${person.value.member.email.typed}`))

const ways: Record<Receipt['way'], string> = {
  form: 'Signed up by a form',
  hand: 'Added by hand',
  file: 'Brought in from a file',
  copied: 'Brought over from another list',
  'put-back': 'Put back to what it was',
}
/** With the zone, since it is evidence. */
const moment = (at: string) =>
  new Date(at).toLocaleString('en-GB', { dateStyle: 'long', timeStyle: 'long', timeZone: 'UTC' })
const labelOf = (key: string) => list.value?.columns.find((column) => column.key === key)?.label ?? key

function save(): void {
  const records = receipts.value.map((receipt) => reading.record(receipt, list.value!))
  handToDownloads({
    blob: new Blob([`${JSON.stringify(records, null, 2)}\n`], { type: 'application/json' }),
    name: `Receipts of ${person.value!.member.email.typed}.json`,
  })
}
const print = () => window.print()
</script>

<template>
  <ElSkeleton v-if="!isKnown" class="page" :rows="8" animated />
  <Nowhere v-else-if="list === null || person === null" />
  <Page v-else class="whole" title="Receipts">
    <template #above
      ><RouterLink :to="{ name: 'person', params: { id: list.id, member: person.member.id } }">{{
        person.member.email.typed
      }}</RouterLink></template
    >
    <template #below
      ><p class="quiet">How they agreed to get “{{ list.name }}”.</p></template
    >
    <template #actions>
      <span class="row not-printed">
        <ElButton @click="print"><Printer :size="16" /><span>Print</span></ElButton>
        <ElButton @click="save"><Download :size="16" /><span>Save as JSON</span></ElButton>
      </span>
    </template>
    <article v-for="receipt in receipts" :key="receipt.n" class="sheet receipt">
      <h2>{{ ways[receipt.way] }}</h2>
      <dl>
        <dt>When</dt>
        <dd>{{ moment(receipt.at) }}</dd>
        <dt>Who</dt>
        <dd>{{ receipt.email ?? 'erased' }}</dd>
        <template v-if="receipt.form">
          <dt>Where</dt>
          <dd>
            {{ receipt.form.spot }}, by “{{ receipt.form.name }}”, version {{ receipt.form.version
            }}<template v-if="receipt.form.frame">. {{ receipt.form.frame }}</template
            ><template v-else-if="receipt.form.page">, on {{ receipt.form.page }}</template>
          </dd>
        </template>
        <template v-for="(one, at) in receipt.words" :key="at">
          <dt>{{ one.what }}</dt>
          <dd class="text">{{ one.text }}</dd>
        </template>
        <template v-for="consent in receipt.consents" :key="consent">
          <dt>Box that was ticked</dt>
          <dd class="text">{{ consent }}</dd>
        </template>
        <template v-for="(value, key) in receipt.values" :key="key">
          <dt>{{ labelOf(key) }}</dt>
          <dd class="text">{{ value }}</dd>
        </template>
        <dt>Network</dt>
        <dd>{{ receipt.network || 'not kept' }}</dd>
        <template v-if="receipt.region !== null">
          <dt>Country that decided whether to ask</dt>
          <dd>{{ receipt.region || 'not known' }}</dd>
        </template>
        <dt>Confirmed</dt>
        <dd>
          {{ receipt.confirmed === null ? 'not by mail' : `${moment(receipt.confirmed.at)}. ${receipt.confirmed.how}` }}
        </dd>
        <dt>Number in the record of all that happened</dt>
        <dd>{{ receipt.n }}</dd>
      </dl>
    </article>
  </Page>
</template>

<style scoped>
.whole {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
.receipt {
  display: grid;
  gap: var(--gap-3);
  padding: var(--gap-4);
}
dl {
  display: grid;
  grid-template-columns: minmax(140px, 220px) minmax(0, 1fr);
  gap: var(--gap-1) var(--gap-4);
  margin: 0;
}
dt {
  color: var(--quiet);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
.text {
  white-space: pre-line;
}
@media print {
  .not-printed {
    display: none;
  }
  .receipt {
    break-inside: avoid;
  }
}
</style>

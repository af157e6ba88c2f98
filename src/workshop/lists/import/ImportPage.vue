<script setup lang="ts">
import { ElButton, ElCheckbox, ElInput, ElInputTag } from 'element-plus'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { ListId } from '#core/ids'
import Choice from '../../controls/Choice.vue'
import Labelled from '../../controls/Labelled.vue'
import { useWorkspace } from '../../data'
import Nowhere from '../../Nowhere.vue'
import { useTitle } from '../../title'
import { peopleCount } from '../people-count'
import WorkProgress from '../WorkProgress.vue'
import { broughtWords } from './brought-words'
import ColumnMatch from './ColumnMatch.vue'
import DryRunTables from './DryRunTables.vue'
import FilePick from './FilePick.vue'
import { takeHanded } from './handed'
import { useImport } from './import-in-hand'
import WhatFollows from './WhatFollows.vue'
import Page from '../../controls/Page.vue'

const props = defineProps<{ id: string }>()
const workspace = useWorkspace()
const list = computed(() => workspace.list(props.id as ListId))
useTitle(() => (list.value === null ? null : `Bring people into ${list.value.name}`))
const inHand = useImport(() => list.value!)
const { file, look, problem, known, status, undecided, tags, consent, asksByMail, dry, outcome, work } = inHand
const waiting = takeHanded()
if (waiting !== null) void inHand.open(waiting.blob, waiting.name)
const taken = computed(() => {
  const counts = dry.value?.counts
  return counts === undefined ? 0 : counts.new + counts.mistyped + counts.changed + counts.off
})
/** What is to be decided first, by example. */
const undecidedWords = computed(() => {
  const [first, ...others] = undecided.value
  if (first === undefined) return ''
  const what =
    first.what.key === null
      ? `what “${first.column}” is for`
      : `what “${first.what.example}” in “${first.column}” means`
  return `First decide ${what}${others.length === 0 ? '' : `, and ${others.length} more`}.`
})
/** Whether the list can ask by mail. */
const sendsMail = computed(() => list.value !== null && (workspace.mail(list.value.id)?.published ?? null) !== null)
</script>

<template>
  <Nowhere v-if="workspace.isLoaded && list === null" />
  <Page v-else-if="list" class="whole" title="Bring people in">
    <template #above
      ><RouterLink :to="{ name: 'list', params: { id: list.id } }">{{ list.name }}</RouterLink></template
    >
    <template #actions>
      <ElButton v-if="file" :disabled="work.isWorking.value" @click="inHand.close()">Another file</ElButton>
    </template>
    <FilePick v-if="file === null" @pick="inHand.open" />
    <p v-if="file" class="file">
      <strong>{{ file.name }}</strong> <span class="quiet small">{{ file.blob.size.toLocaleString('en') }} bytes</span>
    </p>
    <p v-if="problem" class="problem sheet told" role="alert">{{ problem }}</p>
    <template v-if="file && look && outcome === null">
      <ColumnMatch :list="list" :in-hand="inHand" />
      <section class="rules" aria-label="What is done with them">
        <Labelled label="Who is on the list already">
          <Choice
            v-model="known"
            name="known"
            label="Who is on the list already"
            :options="[
              { value: 'fill', label: 'Fill what is empty' },
              { value: 'replace', label: 'Replace by what the file says' },
              { value: 'keep', label: 'Leave as they are' },
            ]"
            @update:model-value="dry = null"
          />
        </Labelled>
        <Labelled label="New people are, where the file says nothing">
          <Choice
            v-model="status"
            name="status"
            label="New people are"
            :options="[
              { value: 'confirmed', label: 'On the list' },
              { value: 'waiting', label: 'To confirm' },
            ]"
            @update:model-value="dry = null"
          />
        </Labelled>
        <ElCheckbox
          v-if="status === 'waiting' && sendsMail"
          v-model="asksByMail"
          label="Send each of them the mail to confirm"
        />
        <Labelled label="Tags for all of them" hint="Enter adds what is typed.">
          <ElInputTag v-model="tags" aria-label="Tags for all of them" :max="50" @change="dry = null" />
        </Labelled>
        <Labelled
          class="agreed"
          label="How did they agree to get mail?"
          hint="In your words, with when and where. It is kept as the receipt of each of them. Nobody gets mail for being brought in, unless you choose it."
        >
          <ElInput v-model="consent" type="textarea" :rows="2" :maxlength="2000" />
        </Labelled>
      </section>
      <WorkProgress :work="work" />
      <div v-if="dry === null" class="row">
        <ElButton
          type="primary"
          :disabled="!inHand.hasAddress.value || undecided.length > 0 || work.isWorking.value"
          @click="inHand.tryIt()"
          >See what it would do</ElButton
        >
        <span v-if="undecidedWords" class="problem small" role="status">{{ undecidedWords }}</span>
        <span v-else class="quiet small">Nothing is changed yet.</span>
      </div>
      <template v-else>
        <DryRunTables :dry="dry" :list="list" :file-name="file.name" />
        <WhatFollows :dry="dry" :list="list" :asks-by-mail="asksByMail && status === 'waiting' && sendsMail" />
        <div class="row">
          <ElButton
            type="primary"
            :disabled="taken === 0 || consent.trim() === '' || work.isWorking.value"
            @click="inHand.bringIn()"
            >{{ taken === 0 ? 'There is nobody to bring in' : `Bring in ${peopleCount(taken)}` }}</ElButton
          >
          <span v-if="taken > 0 && consent.trim() === ''" class="quiet small">First say above how they agreed.</span>
          <span v-else-if="taken > 0" class="quiet small"
            >Safe to press: it is undone as a whole by one press, at the list under “How it grew”.</span
          >
        </div>
      </template>
    </template>
    <template v-if="outcome && file">
      <section class="sheet told" role="status">
        <h2>{{ outcome.state === 'stopped' ? 'Stopped' : 'Brought in' }}</h2>
        <p>
          <template v-if="outcome.state === 'stopped'"
            ><strong>{{ peopleCount(outcome.counts.done) }}</strong> from “{{ file.name }}” came in before it was
            stopped.</template
          >
          <template v-else>From “{{ file.name }}”: {{ broughtWords(outcome) }}.</template>
          <template v-if="outcome.counts.passedOver > 0"
            >{{ peopleCount(outcome.counts.passedOver) }} changed meanwhile and stay as they are.</template
          >
        </p>
        <WorkProgress :work="work" />
        <div class="row">
          <RouterLink v-slot="{ navigate }" custom :to="{ name: 'list', params: { id: list.id } }">
            <ElButton type="primary" @click="navigate()">See the list</ElButton>
          </RouterLink>
          <ElButton :disabled="work.isWorking.value" @click="inHand.undo()">Undo all of it</ElButton>
        </div>
      </section>
    </template>
  </Page>
</template>

<style scoped>
.whole {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
.file {
  overflow-wrap: anywhere;
}
.rules {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
  gap: var(--gap-4);
  align-items: start;
}
.rules :deep(.el-form-item) {
  margin: 0;
}
.agreed {
  grid-column: 1 / -1;
}
.told {
  display: grid;
  gap: var(--gap-3);
  padding: var(--gap-4);
}
</style>

<script setup lang="ts">
import { ElButton, ElDialog, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { ListId } from '#core/ids'
import type { List } from '#core/list'
import { MAX_VALUE_LENGTH } from '#core/text'
import Choice from '../../controls/Choice.vue'
import Labelled from '../../controls/Labelled.vue'
import Select from '../../controls/Select.vue'
import { useWorkspace } from '../../data'
import { type SettledPeople, useBatchChanges } from '../batch-changes'
import type { LongWork } from '../long-work'
import { peopleCount } from '../people-count'

/** Asks what is to be done with many, and does it. */
const { list, act, chosen, how, tags, work } = defineProps<{
  list: List
  act: 'tag' | 'set' | 'copy' | 'remove' | 'restore'
  chosen: SettledPeople
  /** How they were found, in words; empty for everybody. */
  how: string
  tags: readonly string[]
  work: LongWork
}>()
const emit = defineEmits<{ close: [] }>()
const workspace = useWorkspace()
const router = useRouter()
const batches = useBatchChanges(work)
const isOpen = ref(true)

const count = chosen.count
const titles = {
  tag: `Tags of ${peopleCount(count)}`,
  set: `Set a value of ${peopleCount(count)}`,
  copy: `Bring ${peopleCount(count)} to another list`,
  remove: `Take ${peopleCount(count)} off the list`,
  restore: `Put ${peopleCount(count)} back on the list`,
}
const tagWay = ref<'tag' | 'untag' | ''>('tag')
const tag = ref('')
const column = ref(list.columns[0]?.key ?? '')
const value = ref('')
const copyWay = ref<'copy' | 'move' | ''>('copy')
const others = computed(() =>
  workspace.lists.filter(({ id }) => id !== list.id).map(({ id, name }) => ({ value: id, label: name })),
)
const target = ref<ListId | ''>(others.value[0]?.value ?? '')
const isReady = computed(() =>
  act === 'tag' ? tag.value.trim() !== '' : act === 'set' ? column.value !== '' : act !== 'copy' || target.value !== '',
)

async function go(): Promise<void> {
  if (!isReady.value) return
  isOpen.value = false
  switch (act) {
    case 'tag':
      await batches.change(chosen, {
        kind: tagWay.value === 'untag' ? 'untag' : 'tag',
        tag: tag.value.replace(/\s+/g, ' ').trim(),
      })
      break
    case 'set':
      await batches.change(chosen, { kind: 'set', column: column.value, value: value.value.trim() })
      break
    case 'copy': {
      const other = workspace.list(target.value as ListId)
      if (other !== null) await batches.copy(chosen, other, copyWay.value === 'move')
      break
    }
    case 'remove':
      await batches.change(chosen, { kind: 'remove' })
      break
    case 'restore':
      await batches.change(chosen, { kind: 'restore', status: 'confirmed' })
  }
}
</script>

<template>
  <ElDialog v-model="isOpen" :title="titles[act]" width="min(460px, 94vw)" append-to-body @closed="emit('close')">
    <form novalidate @submit.prevent="go">
      <p v-if="how" class="quiet small">{{ how }} Exactly these are changed, whoever joins meanwhile.</p>
      <template v-if="act === 'tag'">
        <Choice
          v-model="tagWay"
          name="tag-way"
          label="What to do"
          :options="[
            { value: 'tag', label: 'Give a tag' },
            { value: 'untag', label: 'Take a tag off' },
          ]"
        />
        <Labelled label="The tag">
          <ElInput v-if="tagWay === 'tag'" v-model="tag" :maxlength="200" />
          <Select v-else v-model="tag" :options="tags.map((one) => ({ value: one, label: one }))" />
        </Labelled>
        <div v-if="tagWay === 'tag' && tags.length > 0" class="row offered" role="group" aria-label="Tags there are">
          <ElButton v-for="one in tags.slice(0, 12)" :key="one" size="small" @click="tag = one">{{ one }}</ElButton>
        </div>
      </template>
      <template v-else-if="act === 'set'">
        <Labelled label="Column">
          <Select v-model="column" :options="list.columns.map(({ key, label }) => ({ value: key, label }))" />
        </Labelled>
        <Labelled label="Value for all of them" hint="Nothing empties the column.">
          <ElInput v-model="value" :maxlength="MAX_VALUE_LENGTH" />
        </Labelled>
      </template>
      <template v-else-if="act === 'copy'">
        <p v-if="others.length === 0">
          There is no other list yet. <ElButton link @click="router.push('/lists')">Make one</ElButton>
        </p>
        <template v-else>
          <Labelled label="To which list"><Select v-model="target" :options="others" /></Labelled>
          <Choice
            v-model="copyWay"
            name="copy-way"
            label="And here"
            :options="[
              { value: 'copy', label: 'They stay on this list too' },
              { value: 'move', label: 'They are taken off this list' },
            ]"
          />
          <p class="quiet small">
            Who is there already stays as they are. Nobody gets mail for it. Bring over only people who asked for that
            list.
          </p>
        </template>
      </template>
      <p v-else-if="act === 'remove'">They get nothing more from “{{ list.name }}”. This can be undone.</p>
      <p v-else>
        Only those who were taken off, left or bounced are changed. Put back only who asked for it: people who left do
        not expect mail.
      </p>
      <div class="row">
        <ElButton type="primary" native-type="submit" :disabled="!isReady">{{
          act === 'tag'
            ? tagWay === 'untag'
              ? 'Take it off'
              : 'Give it'
            : act === 'set'
              ? 'Set it'
              : act === 'copy'
                ? 'Bring them over'
                : act === 'remove'
                  ? 'Take them off'
                  : 'Put them back'
        }}</ElButton>
        <ElButton text @click="isOpen = false">Cancel</ElButton>
      </div>
    </form>
  </ElDialog>
</template>

<style scoped>
form {
  display: grid;
  gap: var(--gap-4);
}
.offered {
  flex-wrap: wrap;
}
.offered .el-button {
  margin: 0;
}
</style>

<script setup lang="ts">
import { Archive, ArchiveRestore, Trash2 } from '@lucide/vue'
import { ElButton, ElCheckbox, ElDialog } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import type { List } from '#core/list'
import Labelled from '../controls/Labelled.vue'
import NumberInput from '../controls/NumberInput.vue'
import TypedInput from '../controls/TypedInput.vue'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'
import ListColumns from './ListColumns.vue'
import ListTags from './ListTags.vue'
import { type SettledPeople, useBatchChanges } from './batch-changes'
import { useLongWork } from './long-work'
import { useMembers } from '../people'
import { peopleCount } from './people-count'
import SavePeople from './table/SavePeople.vue'

/** What a list is called, keeps and does by itself; how it is archived. */
const { list } = defineProps<{ list: List }>()
const workspace = useWorkspace()
const members = useMembers()
const notices = useNotices()
const router = useRouter()

const USUAL_DAYS = 365
const keeping = computed(() => list.keeping ?? {})
function keep(part: 'leftDays' | 'expiredDays', days: number | null): void {
  const { [part]: _, ...others } = keeping.value
  void workspace.changeList(list.id, { keeping: days === null ? others : { ...others, [part]: days } })
}

const count = computed(() => Object.values(members.countsOf(list.id) ?? {}).reduce((sum, one) => sum + one, 0))
const forms = computed(() => workspace.forms.filter((one) => one.list === list.id && !one.isArchived))
async function archive(isArchived: boolean): Promise<void> {
  await workspace.changeList(list.id, { isArchived })
  notices.done(isArchived ? `“${list.name}” is archived.` : `“${list.name}” is back.`, () =>
    workspace.changeList(list.id, { isArchived: !isArchived }),
  )
}

const isDeleting = ref(false)
const saved = shallowRef<SettledPeople | null>(null)
const batches = useBatchChanges(useLongWork())
/** Nobody loses people by a slip: they are offered as a file first. */
const wasOffered = ref(false)
async function offer(): Promise<void> {
  saved.value = await batches.settle({ list: list.id })
}
async function remove(): Promise<void> {
  isDeleting.value = false
  const { name } = list
  const undo = await workspace.removeList(list.id)
  await router.push({ name: 'lists' })
  notices.done(`The list “${name}” is gone.`, undo)
}
</script>

<template>
  <div class="settings">
    <div class="facts">
      <Labelled label="Name">
        <TypedInput
          :value="list.name"
          :maxlength="200"
          @change="$event.trim() && workspace.changeList(list.id, { name: $event.trim() })"
        />
      </Labelled>
      <Labelled label="Why people get its messages, said in each of them">
        <TypedInput :value="list.why" :maxlength="2000" @change="workspace.changeList(list.id, { why: $event })" />
      </Labelled>
    </div>
    <ListColumns :list="list" />
    <ListTags :list="list" />
    <section aria-labelledby="keeping-title">
      <h2 id="keeping-title">How long people are kept</h2>
      <p v-for="part in ['leftDays', 'expiredDays'] as const" :key="part" class="keep">
        <ElCheckbox
          :model-value="keeping[part] !== undefined"
          :label="part === 'leftDays' ? 'Erase those who left' : 'Erase those who were removed or never confirmed'"
          @change="keep(part, $event ? USUAL_DAYS : null)"
        />
        <template v-if="keeping[part] !== undefined">
          after
          <NumberInput
            class="days"
            :value="keeping[part] ?? null"
            :least="1"
            :most="3650"
            label="Days"
            @change="keep(part, $event ?? USUAL_DAYS)"
          />
          days, everywhere and for good.
        </template>
      </p>
    </section>
    <section class="row" aria-label="Archive this list">
      <ElButton v-if="!list.isArchived" :disabled="forms.length > 0" @click="archive(true)"
        ><Archive :size="16" /><span>Archive this list</span></ElButton
      >
      <ElButton v-else @click="archive(false)"><ArchiveRestore :size="16" /><span>Bring the list back</span></ElButton>
      <ElButton :disabled="forms.length > 0" @click="isDeleting = true"
        ><Trash2 :size="16" /><span>Delete the list</span></ElButton
      >
      <span v-if="forms.length > 0" class="quiet small"
        >{{ forms.length === 1 ? 'A form feeds' : `${forms.length} forms feed` }} it: have
        {{ forms.length === 1 ? 'it' : 'them' }} feed another first.</span
      >
    </section>
    <ElDialog v-model="isDeleting" :title="`Delete “${list.name}”`" width="min(480px, 94vw)" append-to-body>
      <div class="asked">
        <p>
          {{ peopleCount(count) }} {{ count === 1 ? 'is' : 'are' }} on it. They get nothing more from it, and are seen
          no more. What happened stays in the journal; to have it forgotten as well, erase them first.
        </p>
        <div v-if="count > 0" class="row">
          <ElButton :type="wasOffered ? undefined : 'primary'" @click="offer">Save them as a file first</ElButton>
          <ElButton v-if="!wasOffered" text @click="wasOffered = true">I do not need the file</ElButton>
        </div>
        <div class="row">
          <ElButton
            :type="wasOffered || count === 0 ? 'primary' : undefined"
            :disabled="count > 0 && !wasOffered"
            @click="remove"
            >Delete the list</ElButton
          >
          <ElButton text @click="isDeleting = false">Cancel</ElButton>
        </div>
      </div>
    </ElDialog>
    <SavePeople v-if="saved" :list="list" :chosen="saved" @close="((saved = null), (wasOffered = true))" />
  </div>
</template>

<style scoped>
.settings {
  display: grid;
  gap: var(--gap-5);
}
.facts {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(360px, 100%), 1fr));
  align-items: end;
  gap: var(--gap-4);
}
section {
  display: grid;
  gap: var(--gap-2);
}
.row {
  display: flex;
}
.keep {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2);
  align-items: center;
}
.days {
  width: 110px;
}
.asked {
  display: grid;
  gap: var(--gap-4);
}
</style>

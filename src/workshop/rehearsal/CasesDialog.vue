<script setup lang="ts">
import { ElButton, ElCheckbox, ElCheckboxGroup, ElDialog } from 'element-plus'
import { ref } from 'vue'
import { caseIds, type RehearsalCase, rehearsalCases } from '#core/proof'
import { useRehearsal } from './store'

/** What a rehearsal tries, each on or off. */
const emit = defineEmits<{ close: [] }>()
const rehearsal = useRehearsal()
const isOpen = ref(true)
const chosen = ref<RehearsalCase[]>([...rehearsal.cases])
async function keep(): Promise<void> {
  await rehearsal.chooseCases(caseIds.filter((one) => chosen.value.includes(one)))
  isOpen.value = false
}
</script>

<template>
  <ElDialog v-model="isOpen" title="What is tried" width="min(520px, 94vw)" append-to-body @closed="emit('close')">
    <ElCheckboxGroup v-model="chosen" aria-label="Cases">
      <ElCheckbox v-for="one in rehearsalCases" :key="one.id" :value="one.id">
        {{ one.name }} <span class="quiet small">{{ one.explanation }}</span>
      </ElCheckbox>
    </ElCheckboxGroup>
    <p class="quiet small">Before all of them, the page is fetched and what became of the code is named.</p>
    <template #footer>
      <ElButton @click="chosen = [...caseIds]">All</ElButton>
      <ElButton type="primary" @click="keep">Keep</ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.el-checkbox-group {
  display: grid;
  gap: var(--gap-2);
  margin-bottom: var(--gap-3);
}
.el-checkbox {
  height: auto;
  margin: 0;
  white-space: normal;
}
.el-checkbox span {
  display: block;
  line-height: 1.3;
}
</style>

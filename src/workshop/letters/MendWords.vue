<script setup lang="ts">
import { ElButton, ElDialog } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import type { LetterBody } from '#core/letter'
import type { List } from '#core/list'
import type { MailSettings } from '#core/mail'
import type { UndoRedo } from '../document'
import LetterWriter from './LetterWriter.vue'

/** Mends the words of a letter that goes: for those who have not got it yet. */
const { body, list, settings, mend } = defineProps<{
  body: LetterBody
  list: List
  settings: MailSettings
  mend: (body: LetterBody) => Promise<void>
}>()
const emit = defineEmits<{ close: [] }>()

const { subject, preview, isPlain, blocks } = body
const inHand = shallowRef<LetterBody>(structuredClone({ subject, preview, isPlain, blocks }))
const done = shallowRef<LetterBody[]>([])
const undone = shallowRef<LetterBody[]>([])
const undo: UndoRedo = {
  undoName: computed(() => (done.value.length > 0 ? 'Mend the words' : null)),
  redoName: computed(() => (undone.value.length > 0 ? 'Mend the words' : null)),
  undo: () => step(done, undone),
  redo: () => step(undone, done),
}
function step(from: typeof done, into: typeof done): void {
  const last = from.value.at(-1)
  if (last === undefined) return
  from.value = from.value.slice(0, -1)
  into.value = [...into.value, inHand.value]
  inHand.value = last
}
function change(_name: string, _part: string, recipe: (body: LetterBody) => void): void {
  const after = structuredClone(inHand.value)
  recipe(after)
  done.value = [...done.value, inHand.value].slice(-100)
  undone.value = []
  inHand.value = after
}
const isBusy = ref(false)
const problem = ref('')
async function keep(): Promise<void> {
  isBusy.value = true
  problem.value = ''
  try {
    await mend(inHand.value)
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <ElDialog
    :model-value="true"
    title="Mend its words"
    width="min(1180px, 96vw)"
    @update:model-value="(is: boolean) => is || emit('close')"
  >
    <p class="quiet">For those who have not got it yet. Who got it keeps the words of then.</p>
    <LetterWriter :body="inHand" :list="list" :settings="settings" :undo="undo" :change="change" />
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template #footer>
      <ElButton @click="emit('close')">Leave it as it is</ElButton>
      <ElButton type="primary" :loading="isBusy" :disabled="done.length === 0" @click="keep">Use these words</ElButton>
    </template>
  </ElDialog>
</template>

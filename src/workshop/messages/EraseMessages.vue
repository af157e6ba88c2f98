<script setup lang="ts">
import { ElButton, ElDialog } from 'element-plus'
import { ref } from 'vue'

/** Asks once more before messages are erased for good. */
const { count } = defineProps<{ count: number }>()
const emit = defineEmits<{ erase: []; close: [] }>()
const isOpen = ref(true)
const many = () => (count === 1 ? 'this message' : `${count} messages`)
function erase(): void {
  emit('erase')
  isOpen.value = false
}
</script>

<template>
  <ElDialog
    v-model="isOpen"
    :title="`Erase ${many()}?`"
    width="min(460px, 94vw)"
    append-to-body
    @closed="emit('close')"
  >
    <p>
      What was written and by whom goes for good, here and in the history. Your own mailbox keeps the mail that it got.
    </p>
    <div class="row">
      <ElButton type="primary" @click="erase">Erase {{ many() }}</ElButton>
      <ElButton text @click="isOpen = false">Cancel</ElButton>
    </div>
  </ElDialog>
</template>

<script setup lang="ts">
import { FileUp } from '@lucide/vue'
import { ElButton, ElInput, ElUpload, type UploadFile } from 'element-plus'
import { ref } from 'vue'

/** A file of people, dropped or chosen, or lines that are pasted. */
const emit = defineEmits<{ pick: [blob: Blob, name: string] }>()
const pasted = ref('')

function take({ raw }: UploadFile): void {
  if (raw !== undefined) emit('pick', raw, raw.name)
}

function takePasted(): void {
  emit('pick', new Blob([pasted.value]), 'pasted lines')
}
</script>

<template>
  <div class="pick">
    <ElUpload
      drag
      :auto-upload="false"
      :show-file-list="false"
      accept=".csv,.tsv,.txt,.jsonl,.ndjson,.vcf,text/*"
      @change="take"
    >
      <FileUp :size="28" aria-hidden="true" />
      <p><strong>Drop a file here, or press to choose one</strong></p>
      <p class="quiet small">
        A table (CSV), contacts (vCard), or lines that programs write (JSON Lines). Nothing is changed before you have
        seen what it would do.
      </p>
    </ElUpload>
    <form novalidate @submit.prevent="takePasted">
      <ElInput
        v-model="pasted"
        type="textarea"
        :rows="7"
        aria-label="Or paste addresses, one a line"
        placeholder="Or paste addresses, one a line:&#10;Ada Lindqvist <ada@mail.example>"
      />
      <ElButton native-type="submit" :disabled="pasted.trim() === ''">Look at these lines</ElButton>
    </form>
  </div>
</template>

<style scoped>
.pick {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(360px, 100%), 1fr));
  gap: var(--gap-4);
}
form {
  display: grid;
  gap: var(--gap-3);
  align-content: start;
  justify-items: start;
}
</style>

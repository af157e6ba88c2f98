<script setup lang="ts">
import { ElButton, ElInput, ElUpload, type UploadFile } from 'element-plus'
import { computed, ref } from 'vue'
import { handToDownloads } from '../../controls'
import Labelled from '../../controls/Labelled.vue'
import type { NewHandOver } from '../new-hand-over'
import MakingSteps from './MakingSteps.vue'
import MarkedExamples from './MarkedExamples.vue'
import { useServiceMaking } from './service-making'

/** A connection made from what the service's own help page shows. */
const { inHand } = defineProps<{ inHand: NewHandOver }>()
const making = useServiceMaking(inHand)
const { pasted, name, origin, text, problem, unread, isReading, made, requests } = making
const isEdited = ref(true)
const isMarked = ref(false)

async function read(): Promise<void> {
  await making.read(pasted.value)
  isEdited.value = requests.value.length === 0
}
async function open({ raw }: UploadFile): Promise<void> {
  if (raw === undefined) return
  if (raw.size > MOST_BYTES) {
    problem.value = `${raw.name} is ${Math.round(raw.size / 1e6)} MB; up to ${MOST_BYTES / 1e6} are read.`
    return
  }
  pasted.value = await raw.text()
  await read()
}
const MOST_BYTES = 8_000_000
/** Read by itself once it is pasted; typed text waits for the button. */
function paste(): void {
  setTimeout(() => void read())
}
const isOwnFile = computed(() => text.value === '' && inHand.service.value !== null)
function save(): void {
  const service = inHand.service.value
  if (service !== null)
    handToDownloads({
      blob: new Blob([`${JSON.stringify(service, null, 2)}\n`], { type: 'application/json' }),
      name: `${service.name}.json`,
    })
}
</script>

<template>
  <div class="making">
    <div v-if="isEdited" class="paste">
      <Labelled
        label="What the service’s help page shows"
        hint="Example requests (lines that begin with curl, or GET and POST), a description file (OpenAPI), its address, or a service file that somebody gave you. The help page is often called API, or for developers."
      >
        <ElInput
          v-model="pasted"
          type="textarea"
          :rows="9"
          spellcheck="false"
          class="code"
          placeholder="Paste it here: how somebody is added, how all lists are shown, how somebody is looked up and taken off."
          @paste="paste()"
        />
      </Labelled>
      <div class="row">
        <ElButton :loading="isReading" :disabled="pasted.trim() === ''" @click="read()">Read it</ElButton>
        <ElUpload :auto-upload="false" :show-file-list="false" accept=".json,.yaml,.yml,.txt,.md,.http" @change="open">
          <ElButton text>Open a file</ElButton>
        </ElUpload>
      </div>
    </div>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-for="one in unread" :key="one" class="quiet small">{{ one }}.</p>
    <p v-if="isOwnFile" class="ok" role="status">The service file of “{{ inHand.service.value!.name }}” is opened.</p>
    <template v-if="requests.length > 0">
      <div class="row">
        <h3>What it is asked</h3>
        <ElButton v-if="!isEdited" text size="small" @click="isEdited = true">Paste more, or something else</ElButton>
        <ElButton text size="small" :aria-expanded="isMarked" @click="isMarked = !isMarked">{{
          isMarked ? 'Hide the examples' : 'See the examples, and correct them'
        }}</ElButton>
      </div>
      <MarkedExamples v-if="isMarked" :making="making" />
      <MakingSteps :making="making" />
      <div v-if="made && !made.ok" class="missing">
        <p class="problem" role="status">{{ made.problem }}</p>
        <Labelled v-if="made.about === 'address'" label="Address of the service">
          <ElInput v-model="origin" placeholder="https://api.your-service.example" spellcheck="false" />
        </Labelled>
      </div>
      <div class="row end">
        <Labelled label="What you call it"
          ><ElInput v-model="name" :placeholder="inHand.service.value?.name"
        /></Labelled>
        <ElButton v-if="made?.ok" text @click="save()">Save the service file</ElButton>
      </div>
    </template>
  </div>
</template>

<style scoped>
.making,
.paste,
.missing {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
}
.making :deep(.el-form-item) {
  margin: 0;
}
.code :deep(textarea) {
  font-family: var(--mono);
  font-size: var(--text-s);
}
h3,
p {
  margin: 0;
}
.end {
  align-items: end;
}
.ok {
  color: var(--moss);
}
</style>

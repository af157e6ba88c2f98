<script setup lang="ts">
import type { BackupSettings, CareState } from '#core/api'
import { ElButton, ElCheckbox } from 'element-plus'
import { ref } from 'vue'
import Labelled from '../controls/Labelled.vue'
import NumberInput from '../controls/NumberInput.vue'
import { shownMoment } from '../controls'
import TypedInput from '../controls/TypedInput.vue'
import { useNotices } from '../notices'
import { useCare } from './care'

/** Copies of everything that the receiver makes by itself, every day. */
const notices = useNotices()
const { care, client, set } = useCare()
const isMaking = ref(false)

function setBackups(changes: Partial<BackupSettings>): Promise<void> {
  const { isOn, folder, keep } = care.value!.backups
  return set(() => client()?.keepBackups({ isOn, folder, keep, ...changes }))
}
async function makeNow(): Promise<void> {
  isMaking.value = true
  await set(() => client()?.makeBackup())
  isMaking.value = false
  if (care.value?.backups.problem === null) notices.done('The backup is made, and was read through.')
}
const inWords = ({ at, bytes }: NonNullable<CareState['backups']['last']>) =>
  `${shownMoment(new Date(at).toISOString())}, ${(bytes / 1_000_000).toFixed(1)} MB: it was read back, and nothing is missing.`
</script>

<template>
  <div class="group">
    <h3>Every day, by itself</h3>
    <p v-if="care === null" class="quiet">Shown when Ask Box answers.</p>
    <p v-else-if="care.backups.areMadeByServer">
      Everything is kept in a database server, which is copied by its own tools. Whoever looks after it sees to that;
      the file above is yours to save at any time.
    </p>
    <template v-else>
      <ElCheckbox
        :model-value="care.backups.isOn"
        label="A copy of everything, every day"
        @change="setBackups({ isOn: Boolean($event) })"
      />
      <p v-if="care.backups.problem" class="problem" role="alert">
        The last one could not be made: {{ care.backups.problem.said }}
      </p>
      <p>
        {{ care.backups.last ? `Last ${inWords(care.backups.last)}` : 'None is made yet.' }}
      </p>
      <div class="fields">
        <Labelled label="Kept in the folder" hint="On the computer where Ask Box runs. Empty: beside its data.">
          <TypedInput
            :value="care.backups.folder"
            :placeholder="care.backups.goesTo"
            @change="setBackups({ folder: $event.trim() })"
          />
        </Labelled>
        <Labelled label="So many of the newest are kept">
          <NumberInput :value="care.backups.keep" :least="1" :most="365" @change="setBackups({ keep: $event ?? 7 })" />
        </Labelled>
      </div>
      <div class="row">
        <ElButton :loading="isMaking" @click="makeNow">Make one now</ElButton>
        <span class="quiet small">It holds people’s addresses: keep the folder as carefully as the list.</span>
      </div>
    </template>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr);
  gap: var(--gap-3);
}
@media (max-width: 640px) {
  .fields {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

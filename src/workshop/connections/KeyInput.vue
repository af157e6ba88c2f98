<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import type { ServiceFile } from '#core/connection'
import Labelled from '../controls/Labelled.vue'

/** What opens a service: a key, or both parts of one. */
const key = defineModel<string>({ required: true })
const { place, hint, problem } = defineProps<{ place: ServiceFile['key']; hint?: string; problem?: string | null }>()
const first = ref('')
const second = ref('')
const isInParts = computed(() => place.second !== undefined)
watch([first, second, isInParts], () => {
  key.value = isInParts.value
    ? first.value && second.value
      ? `${first.value.trim()}:${second.value.trim()}`
      : ''
    : first.value
})
// Emptied from outside once it is kept, and not by a part that is still missing.
watch(key, (now) => {
  if (now !== '' || first.value === '' || (isInParts.value && second.value === '')) return
  first.value = ''
  second.value = ''
})
</script>

<template>
  <div class="parts">
    <Labelled :label="place.label ?? 'Key'" :hint="hint ?? place.where" :problem="problem ?? null">
      <ElInput v-model="first" type="password" autocomplete="off" spellcheck="false" />
    </Labelled>
    <Labelled
      v-if="place.second"
      :label="place.second.label"
      v-bind="place.second.where ? { hint: place.second.where } : {}"
    >
      <ElInput v-model="second" type="password" autocomplete="off" spellcheck="false" />
    </Labelled>
  </div>
</template>

<style scoped>
.parts {
  display: grid;
  gap: var(--gap-3);
}
</style>

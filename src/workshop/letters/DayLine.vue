<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { type SeriesStep, titleOf } from '#core/letter'

/** A series as a line of days, from joining on: each letter at its day, with how many wait for it. */
defineProps<{
  steps: readonly SeriesStep[]
  chosen: string | null
  listName: string
  waitingFor: (step: string) => number
  canAdd: boolean
}>()
const emit = defineEmits<{ choose: [step: string]; add: [] }>()
const dayWords = (days: number) => (days === 0 ? 'the same day' : days === 1 ? 'a day later' : `day ${days}`)
</script>

<template>
  <ol class="sheet" aria-label="The days of the series">
    <li class="join">
      <span class="mark" aria-hidden="true" />
      <span class="small quiet">Joins “{{ listName }}”</span>
    </li>
    <li v-for="step in steps" :key="step.id">
      <ElButton text class="day" :aria-pressed="step.id === chosen" @click="emit('choose', step.id)">
        <span class="mark" aria-hidden="true" />
        <span class="words">
          <span class="small quiet">{{ dayWords(step.days) }}, {{ step.time }}</span>
          <b>{{ titleOf(step.body, 'no subject yet') }}</b>
          <span v-if="waitingFor(step.id) > 0" class="small quiet"
            >{{ waitingFor(step.id).toLocaleString('en-GB') }} {{ waitingFor(step.id) === 1 ? 'waits' : 'wait' }} for
            it</span
          >
        </span>
      </ElButton>
    </li>
    <li v-if="canAdd">
      <ElButton text class="add" @click="emit('add')"><Plus :size="16" /><span>Add a letter</span></ElButton>
    </li>
  </ol>
</template>

<style scoped>
ol {
  display: flex;
  overflow-x: auto;
  margin: 0;
  padding: var(--gap-4);
  list-style: none;
}
li {
  position: relative;
  flex: 0 1 200px;
  min-width: 132px;
}
li::before {
  content: '';
  position: absolute;
  top: 10px;
  inset-inline: 0;
  border-top: 2px solid var(--moss);
}
li:first-child::before {
  inset-inline-start: 6px;
}
li:last-child::before {
  inset-inline-end: auto;
  width: 24px;
  border-top-style: dashed;
}
.join {
  flex: 0 0 160px;
  display: grid;
  gap: var(--gap-2);
  align-content: start;
  padding-inline-end: var(--gap-4);
}
.mark {
  position: relative;
  z-index: 1;
  display: block;
  width: 12px;
  height: 12px;
  margin-top: 5px;
  border: 2px solid var(--moss);
  border-radius: 50%;
  background: var(--sheet);
}
.join .mark {
  background: var(--moss);
}
.day {
  display: block;
  width: 100%;
  height: auto;
  padding: 0 var(--gap-3) var(--gap-1) 0;
  background: none !important;
  text-align: start;
  white-space: normal;
}
.day:hover b {
  text-decoration: underline;
  text-underline-offset: 4px;
}
.day :deep(> span) {
  display: grid;
  gap: var(--gap-2);
  justify-items: start;
}
.day[aria-pressed='true'] .mark {
  background: var(--moss);
}
.day[aria-pressed='true'] b {
  text-decoration: underline;
  text-underline-offset: 4px;
}
.words {
  display: grid;
  line-height: 1.3;
  overflow-wrap: anywhere;
}
.add {
  margin-top: 22px;
  padding-inline: 0;
}
@media (max-width: 700px) {
  ol {
    flex-direction: column;
  }
  li,
  .join {
    flex: none;
    padding-bottom: var(--gap-2);
  }
  li::before {
    top: 0;
    bottom: 0;
    inset-inline: 5px auto;
    border-top: 0;
    border-inline-start: 2px solid var(--moss);
  }
  .day :deep(> span),
  .join {
    grid-template-columns: auto minmax(0, 1fr);
  }
}
</style>

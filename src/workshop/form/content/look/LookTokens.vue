<script setup lang="ts">
import { ElButton } from 'element-plus'
import type { LineObstacle, Look } from '#core/look'
import Choice from '../../../controls/Choice.vue'
import ColourInput from '../../../controls/ColourInput.vue'
import type { LookControl, LookGroup } from './look-controls'
import Select from '../../../controls/Select.vue'
import RangeInput from '../../../controls/RangeInput.vue'

/** The controls of one group of a look's tokens. */
const {
  group,
  look,
  palette,
  obstacle = null,
} = defineProps<{
  group: LookGroup
  look: Look
  palette: readonly string[]
  /** What keeps fields from standing in one line, told beside that control. */ obstacle?: LineObstacle | null
}>()
const emit = defineEmits<{ change: [control: LookControl, value: string | number | null]; line: [] }>()

const colourOf = (control: LookControl) => control.read(look) as string | null

function setColour(control: LookControl, colour: string | null): void {
  if (colour !== null || (control.as.kind === 'colour' && control.as.without)) emit('change', control, colour)
}
</script>

<template>
  <div class="tokens">
    <template v-for="control in group.controls" :key="control.part">
      <template v-if="control.applies?.(look) ?? true">
        <ColourInput
          v-if="control.as.kind === 'colour'"
          :name="control.name"
          :value="colourOf(control)"
          :effective="control.as.without?.(look) ?? String(control.read(look))"
          :palette="control.as.without ? [] : palette"
          :can-be-none="control.as.without !== undefined"
          @change="setColour(control, $event)"
        />
        <RangeInput
          v-else-if="control.as.kind === 'range'"
          :name="control.name"
          :label="control.label"
          :unit="control.as.unit"
          :least="control.as.least"
          :most="control.as.most"
          :step="control.as.by"
          :value="control.read(look) as number"
          @change="emit('change', control, $event)"
        />
        <div v-else-if="control.as.kind === 'menu'" class="menu">
          <span>{{ control.name }}</span>
          <Select
            :label="control.name"
            :model-value="String(control.read(look))"
            :options="control.as.options"
            @update:model-value="emit('change', control, $event)"
          />
        </div>
        <div v-else class="named">
          <span>{{ control.name }}</span>
          <Choice
            :label="control.name"
            :model-value="String(control.read(look))"
            :name="`look-${control.part}`"
            :options="control.as.options"
            @update:model-value="emit('change', control, $event)"
          />
        </div>
        <p v-if="obstacle && control.part === 'arrangement'" class="small obstacle" role="status">
          {{ obstacle.why }}
          <ElButton v-if="obstacle.mended" size="small" @click="emit('line')">Make it one line</ElButton>
        </p>
        <p v-if="control.hint" class="quiet small">{{ control.hint }}</p>
      </template>
    </template>
    <p v-if="group.hint" class="quiet small">{{ group.hint }}</p>
  </div>
</template>

<style scoped>
.tokens {
  display: grid;
  gap: var(--gap-3);
}
.named {
  display: grid;
  gap: var(--gap-1);
  font-size: var(--text-s);
}
.obstacle {
  display: grid;
  gap: var(--gap-1);
  justify-items: start;
  margin: 0;
}
.menu {
  display: grid;
  grid-template-columns: 92px 1fr;
  align-items: center;
  gap: var(--gap-2);
  font-size: var(--text-s);
}
</style>

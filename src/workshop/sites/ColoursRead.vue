<script setup lang="ts">
import type { Palette } from '#core/look'
import { vHint } from '../controls'

/** What is known of a site's colours and type: which of them a form takes, and where they come from. */
defineProps<{
  palette: Palette | null
  isReading?: boolean
  problem?: string | null
  /** Where they were read just now; empty for those that are kept with the site. */
  from?: string
}>()
const roles = [
  { key: 'background', name: 'ground' },
  { key: 'text', name: 'text' },
  { key: 'accent', name: 'buttons' },
] as const
</script>

<template>
  <p class="colours small" role="status">
    <span v-if="isReading" class="quiet">Reading the site’s colours …</span>
    <template v-else-if="palette">
      <span v-for="{ key, name } in roles" :key="key" v-hint="`${name}: ${palette[key]}`" class="one">
        <span class="swatch" :style="{ background: palette[key] }" />{{ name }}
      </span>
      <span v-if="palette.font" class="one font">{{ palette.font.split(',')[0]!.replaceAll(/["']/g, '') }}</span>
      <span class="quiet">{{ from ? `read from ${from}` : 'the site’s own' }}</span>
    </template>
    <span v-else-if="problem" class="quiet"
      >Its colours could not be read: {{ problem }} The form starts in quiet colours of ours.</span
    >
    <slot />
  </p>
</template>

<style scoped>
.colours {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-1) var(--gap-3);
  min-height: 24px;
  margin: 0;
}
.one {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
.swatch {
  width: 18px;
  height: 18px;
  border: 1px solid var(--edge);
  border-radius: 2px;
}
.font {
  font-weight: 600;
}
</style>

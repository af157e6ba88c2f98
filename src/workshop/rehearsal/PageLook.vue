<script setup lang="ts">
import { computed } from 'vue'
import { type ProofLook, viewerOf } from '#core/proof'

/** What a visitor saw of the page, small, with the form framed where it stands. */
const { look, isFailed = false } = defineProps<{ look: ProofLook; isFailed?: boolean }>()
const viewer = computed(() => viewerOf(look.viewer))
const percent = (share: number) => `${(share * 100).toFixed(2)}%`
const frame = computed(() =>
  look.field === null
    ? null
    : {
        insetInlineStart: percent(look.field.left),
        top: percent(look.field.top),
        width: percent(look.field.width),
        height: percent(look.field.height),
      },
)
const says = computed(
  () => `The page as ${viewer.value.name} shows it${look.field === null ? '; the form is not in sight' : ''}`,
)
</script>

<template>
  <figure :class="{ failed: isFailed }">
    <span class="window" :style="{ aspectRatio: `${viewer.width} / ${viewer.height}` }">
      <img :src="`data:image/jpeg;base64,${look.jpeg}`" :alt="says" loading="lazy" />
      <span v-if="frame" class="field" :style="frame"></span>
    </span>
    <figcaption class="small quiet">{{ viewer.name }}</figcaption>
  </figure>
</template>

<style scoped>
figure {
  display: grid;
  gap: var(--gap-1);
  justify-items: start;
  margin: 0;
}
figcaption::first-letter {
  text-transform: uppercase;
}
.window {
  position: relative;
  display: block;
  height: var(--look-height, 76px);
  overflow: hidden;
  border: 1px solid var(--edge);
  background: var(--sunken);
}
.failed .window {
  border-color: var(--raspberry);
}
img {
  display: block;
  width: 100%;
  height: 100%;
}
/* Dark and light beside each other, so that it stands out from any page. */
.field {
  position: absolute;
  min-width: 8px;
  min-height: 6px;
  outline: 2px solid var(--moss);
  outline-offset: 1px;
  box-shadow: 0 0 0 4px color-mix(in srgb, var(--sheet) 70%, transparent);
}
</style>

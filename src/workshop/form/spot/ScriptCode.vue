<script setup lang="ts">
import { computed, ref } from 'vue'
import { headStep, placePart, popUpPart, sharedLine } from '#core/embed'
import type { FormContent } from '#core/form'
import { profileOf, type Site } from '#core/site'
import { type Spot, spotKinds } from '#core/spot'
import CodeBlock from './CodeBlock.vue'
import FormHeights from './FormHeights.vue'
import { standInPlace } from './stand-in'

/** The site's one shared line, and the part for this place. A pop-up has a part of its own and needs no other. */
const { spot, site, content, receiver } = defineProps<{
  spot: Spot
  site: Site
  content: FormContent
  receiver: string
}>()

const permits = computed(() => profileOf(site))
const line = computed(() => sharedLine(receiver))
const widths = computed(() => {
  const own = spotKinds.find(({ kind }) => kind === spot.kind)?.widths ?? []
  return [own[0]!, own.at(-1)!]
})
const heights = ref<Record<number, number>>({})
const place = computed(() => {
  const [narrow, wide] = widths.value as [number, number]
  const known = (width: number) => ({ width, height: heights.value[width] ?? 0 })
  if (!known(narrow).height || !known(wide).height) return null
  const part = placePart(content, receiver, spot.id, { narrow: known(narrow), wide: known(wide) })
  // Without a place for code in the head, both go together.
  return permits.value.siteHead ? part : `${line.value}${part}`
})
</script>

<template>
  <div class="script">
    <CodeBlock
      v-if="spot.kind === 'pop-up'"
      :title="permits.siteHead ? 'For the head of every page, or of one' : 'For the head of the page'"
      :text="popUpPart(receiver, spot.id)"
      label="The pop-up’s code"
      :paste="standInPlace(spot, site)"
      copy-words="Copy the code"
    />
    <template v-else>
      <template v-if="permits.siteHead">
        <CodeBlock
          title="The shared line, once for the whole site"
          :text="line"
          label="The shared line"
          :paste="standInPlace(spot, site, true)"
          copy-words="Copy the line"
        />
        <p class="quiet small">
          {{ headStep(site.kind, 'site') }} Paste it there. Where it stands already, nothing more is needed; twice does
          no harm.
        </p>
      </template>
      <CodeBlock
        v-if="place"
        :title="permits.siteHead ? 'The part for this place' : 'The code for this place'"
        :text="place"
        label="The code"
        :paste="standInPlace(spot, site)"
        copy-words="Copy the code"
        is-folded
      />
      <p v-else class="quiet small" role="status">The form is being measured …</p>
      <FormHeights v-model="heights" :spot="spot" :content="content" :widths="widths" with-space />
    </template>
  </div>
</template>

<style scoped>
.script {
  position: relative;
  display: grid;
  gap: var(--gap-2);
  min-width: 0;
}
</style>

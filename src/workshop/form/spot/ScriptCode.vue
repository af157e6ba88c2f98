<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import { headStep, type PlaceHeights, placePart, popUpPart, sharedLine } from '#core/embed'
import type { FormContent } from '#core/form'
import { profileOf, type Site } from '#core/site'
import type { Spot } from '#core/spot'
import CodeBlock from '../../embed/CodeBlock.vue'
import TallestRoom from '../../preview/TallestRoom.vue'
import { useLineThere } from './shared-line'
import { standInPlace } from '../../embed/stand-in'

/** The site's one shared line, and the part for this place. A pop-up has a part of its own and needs no other. */
const {
  spot,
  site,
  content,
  receiver,
  byRule = false,
} = defineProps<{
  spot: Spot
  site: Site
  content: FormContent
  receiver: string
  /** Whether the line alone is needed. */
  byRule?: boolean
}>()

const permits = computed(() => profileOf(site))
const line = computed(() => sharedLine(receiver))
/** Asked for only where it is not there yet. */
const { state: lineThere, look } = useLineThere(
  () => spot,
  () => site,
)
const showsLine = ref(false)
const heights = shallowRef<PlaceHeights | null>(null)
const place = computed(() => {
  if (heights.value === null) return null
  const part = placePart(content, receiver, spot.id, heights.value)
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
      is-main
    />
    <template v-else>
      <template v-if="permits.siteHead">
        <p v-if="lineThere === 'looking'" class="quiet small" role="status">
          Looking whether the site has the shared line …
        </p>
        <p v-else-if="lineThere === 'there' && !showsLine" class="small" role="status">
          The shared line stands on the site already:
          {{ byRule ? 'nothing is pasted any more.' : 'only the part below is needed.' }}
          <ElButton link type="primary" @click="showsLine = true">Show the line all the same</ElButton>
        </p>
        <template v-else>
          <CodeBlock
            title="The shared line: pasted once, for all forms of the site"
            :text="line"
            label="The shared line"
            @pasted="look"
            :paste="standInPlace(spot, site, true)"
            copy-words="Copy the line"
            is-main
          />
          <p class="quiet small">
            {{ headStep(site.kind, 'site') }} Paste it there.
            {{
              lineThere === 'missing'
                ? 'It is not on the site yet.'
                : 'Where it stands already, nothing more is needed; twice does no harm.'
            }}
          </p>
        </template>
      </template>
      <template v-if="byRule" />
      <CodeBlock
        v-else-if="place"
        :title="permits.siteHead ? 'The part for this place' : 'The code for this place'"
        :text="place"
        label="The code"
        :paste="standInPlace(spot, site)"
        copy-words="Copy the code"
        :is-main="!permits.siteHead || lineThere === 'there'"
        is-folded
      />
      <p v-else class="quiet small" role="status">The form is being measured …</p>
      <TallestRoom
        v-if="!byRule"
        :spot="spot"
        :content="content"
        :font="site.palette?.font ?? ''"
        @measured="heights = $event"
      />
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

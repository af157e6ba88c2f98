<script setup lang="ts">
import { computed, ref } from 'vue'
import { frameCode, type FrameSize } from '#core/embed'
import type { FormContent } from '#core/form'
import { type Spot, type SpotKind, spotKinds } from '#core/spot'
import Choice from '../../controls/Choice.vue'
import CodeBlock from '../../embed/CodeBlock.vue'
import type { StandInPlace } from '../../embed/stand-in'
import { useWorkspace } from '../../data'
import FormHeights from './FormHeights.vue'

/** A frame with the form, of the size that the form really needs: it is drawn at each width, out of sight, and measured. */
const { spot, content, address } = defineProps<{
  spot: Spot
  content: FormContent
  address: string
  paste: StandInPlace | null
}>()

const workspace = useWorkspace()
type Preset = 'place' | 'small' | 'line'
const SMALL = { width: 480, height: 320 }
const preset = ref<Preset | ''>('place')
const presets: { value: Preset; label: string }[] = [
  { value: 'place', label: 'As wide as its place' },
  { value: 'small', label: `${SMALL.width} × ${SMALL.height}` },
  { value: 'line', label: 'A slim line' },
]
const widthsOf = (kind: SpotKind) => spotKinds.find((one) => one.kind === kind)?.widths ?? []
/** Widths to draw the form at: those of its place, the widest alone for a line, or the set one. */
const widths = computed(() => {
  const own = widthsOf(spot.kind)
  return { place: own, line: own.slice(-1), small: [SMALL.width] }[preset.value || 'place']
})
/** Where wordings are shown in turn, the frame is as high as the tallest. */
const contents = computed(() => [content, ...workspace.triedAt(spot)])
const heights = ref<Record<number, number>[]>([])
const heightAt = (width: number) => Math.max(0, ...contents.value.map((_, at) => heights.value[at]?.[width] ?? 0))
const needed = computed(() => Math.max(0, ...widths.value.map(heightAt)))
const tightest = computed(() => widths.value.find((width) => heightAt(width) === needed.value))
const size = computed((): FrameSize => (preset.value === 'small' ? SMALL : { width: null, height: needed.value }))
const code = computed(() => frameCode(address, content.words.heading || content.words.button, size.value))
</script>

<template>
  <div class="frame">
    <Choice v-model="preset" :name="`size ${address}`" label="Size of the frame" :options="presets" />
    <p class="quiet small" role="status">
      <template v-if="needed === 0">The form is being measured …</template>
      <template v-else-if="preset === 'small' && needed > SMALL.height">
        The form is {{ needed }} px high at {{ SMALL.width }} px: it would have to be scrolled within the frame.
      </template>
      <template v-else-if="preset === 'line'">
        {{ needed }} px high at {{ widths[0] }} px; in a narrower place it would have to be scrolled within the frame.
      </template>
      <template v-else>
        {{ size.height }} px high, which the form needs at {{ tightest }} px; where its place is wider, some of that
        stays empty.
      </template>
    </p>
    <CodeBlock
      v-if="needed > 0"
      title="Frame"
      :text="code"
      label="The code"
      copy-words="Copy the code"
      is-folded
      :paste="paste"
    />
    <FormHeights
      v-for="(one, at) in contents"
      :key="at"
      :model-value="heights[at] ?? {}"
      :spot="spot"
      :content="one"
      :widths="widths"
      @update:model-value="heights[at] = $event"
    />
  </div>
</template>

<style scoped>
.frame {
  position: relative;
  display: grid;
  gap: var(--gap-3);
  min-width: 0;
}
</style>

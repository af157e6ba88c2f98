<script setup lang="ts" generic="Value extends string | number">
import { ElOption, ElSelect } from 'element-plus'
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue'

/**
 * A menu of options to choose one of. What the component lacks is mended here: the chosen option is told to screen
 * readers, the space key opens the menu, letters go to the option that begins with them, and a press takes effect
 * whenever it can be made.
 */
const value = defineModel<Value | ''>({ required: true })
const { options } = defineProps<{
  options: readonly { value: Value; label: string }[]
  /** What is chosen here, wherever no label around it says so. */ label?: string
  placeholder?: string
}>()

const NEXT_LETTER_MS = 700
const select = useTemplateRef('select')
const chosen = computed(() => options.find((option) => option.value === value.value)?.label ?? '')

/** Nothing chosen shows the placeholder, unless nothing is one of the options. */
const shown = computed(() =>
  value.value === '' && !options.some((option) => option.value === '') ? undefined : value.value,
)

// The text of the chosen option lies beside the input, where a screen reader does not look for it.
const tell = () => inputOf()?.setAttribute('aria-description', chosen.value)
onMounted(tell)
watch(chosen, tell)

function inputOf(): HTMLInputElement | null {
  return (select.value?.$el as HTMLElement | undefined)?.querySelector('input') ?? null
}

/** The list is shown a moment before it is in its place: what is pressed until then would be another option, or none. */
const isPlaced = ref(false)
function onVisible(isOpen: boolean): void {
  isPlaced.value = false
  if (isOpen) requestAnimationFrame(() => requestAnimationFrame(() => (isPlaced.value = true)))
}

let typed = ''
let typedAt = 0
function onKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey || event.key.length !== 1) return
  const isOpen = inputOf()?.getAttribute('aria-expanded') === 'true'
  if (event.timeStamp - typedAt > NEXT_LETTER_MS) typed = ''
  event.preventDefault()
  event.stopPropagation()
  if (event.key === ' ' && typed === '')
    inputOf()?.dispatchEvent(new KeyboardEvent('keydown', { code: 'Enter', key: 'Enter', bubbles: true }))
  else {
    typed += event.key.toLowerCase()
    typedAt = event.timeStamp
    const at = options.findIndex(({ label }) => label.toLowerCase().startsWith(typed))
    if (at === -1) return
    if (isOpen && select.value) select.value.states.hoveringIndex = at
    else if (options[at]!.value !== value.value) value.value = options[at]!.value
  }
}
</script>

<template>
  <ElSelect
    ref="select"
    :model-value="shown"
    :aria-label="label"
    :placeholder="placeholder ?? ''"
    :empty-values="[null, undefined]"
    :show-arrow="false"
    :offset="4"
    :popper-class="isPlaced ? '' : 'is-moving'"
    @update:model-value="value = $event"
    @visible-change="onVisible"
    @keydown.capture="onKey"
  >
    <ElOption v-for="option in options" :key="option.value" :value="option.value" :label="option.label" />
  </ElSelect>
</template>

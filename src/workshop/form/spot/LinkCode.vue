<script setup lang="ts">
import { computed, ref } from 'vue'
import { linkCode, type LinkLook } from '#core/embed'
import type { FormContent } from '#core/form'
import Choice from '../../controls/Choice.vue'
import CodeBlock from '../../embed/CodeBlock.vue'
import type { StandInPlace } from '../../embed/stand-in'

/** A link to the form's own page: its address, and its code where the site takes HTML. */
const {
  content,
  address,
  paste = null,
} = defineProps<{
  content: FormContent
  address: string
  paste?: StandInPlace | null
}>()

const shownAs = ref<LinkLook['shownAs'] | ''>('button')
const opens = ref<LinkLook['opens'] | ''>('here')
const code = computed(() =>
  linkCode(content, address, { shownAs: shownAs.value || 'button', opens: opens.value || 'here' }),
)
</script>

<template>
  <div class="link">
    <CodeBlock
      title="The address of its page"
      :text="address"
      label="The address"
      copy-words="Copy the address"
      is-main
    />
    <div class="row choices">
      <Choice
        v-model="shownAs"
        :name="`shown-as ${address}`"
        label="Shown as"
        :options="[
          { value: 'button', label: 'A button' },
          { value: 'words', label: 'Words in the text' },
        ]"
      />
      <Choice
        v-model="opens"
        :name="`opens ${address}`"
        label="Opens"
        :options="[
          { value: 'here', label: 'In the same window' },
          { value: 'new-window', label: 'In a new one' },
        ]"
      />
    </div>
    <CodeBlock
      title="Where the site takes HTML"
      :text="code"
      label="The code"
      copy-words="Copy the code"
      is-folded
      :paste="paste"
    />
  </div>
</template>

<style scoped>
.link {
  display: grid;
  gap: var(--gap-3);
  min-width: 0;
}
.choices {
  flex-wrap: wrap;
  gap: var(--gap-2) var(--gap-5);
}
</style>

<script setup lang="ts">
import { Check, Copy } from '@lucide/vue'
import { ElButton, ElCollapse, ElCollapseItem } from 'element-plus'
import { computed, inject, ref } from 'vue'
import { shownMoment } from '../controls'
import { useNotices } from '../notices'
import { codeTaken } from './code-taken'
import { pasteForOwner, type StandInPlace } from './stand-in'

/** Something to copy by one press: short things in sight, long ones folded behind their size. */
const { text, paste = null } = defineProps<{
  title: string
  text: string
  label: string
  copyWords: string
  isFolded?: boolean
  /** Whether to copy it is what is most likely next. */ isMain?: boolean
  /** Where it is pasted for its owner, on a pretend site. */ paste?: StandInPlace | null
}>()
/** Pasted for its owner, on a pretend site. */
const emit = defineEmits<{ pasted: [] }>()
const notices = useNotices()
const taken = inject(codeTaken, async () => [])
const isCopied = ref(false)
const size = computed(() => `${(text.length / 1000).toFixed(1)} KB`)

async function pasteIt(): Promise<void> {
  try {
    const { where, seenAt, shownFrom } = await pasteForOwner(paste!, text)
    const next = await taken(paste!.place === 'inline' || paste!.place === 'page-head' ? seenAt : undefined)
    emit('pasted')
    notices.done(`Pasted: ${where}.${shownWords(shownFrom)}`, undefined, undefined, [
      { words: 'See the page', address: seenAt },
      ...next,
    ])
  } catch (error) {
    notices.problem(error instanceof Error ? error.message : String(error))
  }
}

/** A site’s cache goes on showing the page as it was. */
const shownWords = (from: string | null) =>
  from === null ? '' : ` The site’s cache shows the page as it was until ${shownMoment(from)}.`

async function copy(): Promise<void> {
  try {
    await navigator.clipboard.writeText(text)
    void taken()
    isCopied.value = true
    setTimeout(() => (isCopied.value = false), 2_000)
  } catch {
    notices.problem('The browser did not allow copying. Select the code and copy it by hand.')
  }
}
</script>

<template>
  <div class="code">
    <div class="row head">
      <h3>{{ title }}</h3>
      <span class="spring" />
      <ElButton v-if="paste" text @click="pasteIt">Paste it for me</ElButton>
      <ElButton :type="isMain ? 'primary' : undefined" @click="copy">
        <Check v-if="isCopied" :size="16" /><Copy v-else :size="16" /><span>{{ isCopied ? 'Copied' : copyWords }}</span>
      </ElButton>
    </div>
    <ElCollapse v-if="isFolded">
      <ElCollapseItem :title="`See it, ${size}`">
        <pre tabindex="0" :aria-label="label" @copy="taken()">{{ text }}</pre>
      </ElCollapseItem>
    </ElCollapse>
    <pre v-else tabindex="0" :aria-label="label" @copy="taken()">{{ text }}</pre>
  </div>
</template>

<style scoped>
.code {
  min-width: 0;
}
h3 {
  flex: 0 1 auto;
}
.spring {
  flex: 1;
}
.head {
  min-height: 40px;
}
pre {
  max-height: 300px;
  margin: var(--gap-1) 0 0;
  padding: var(--gap-3);
  overflow: auto;
  border: 1px solid var(--hairline);
  border-radius: var(--corner);
  background: var(--sunken);
  font-size: 0.8125rem;
  line-height: 1.5;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
</style>

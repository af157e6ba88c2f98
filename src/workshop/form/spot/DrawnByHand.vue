<script setup lang="ts">
import { Copy } from '@lucide/vue'
import { ElButton, ElCollapse, ElCollapseItem, ElTable, ElTableColumn } from 'element-plus'
import { computed } from 'vue'
import { byHand } from '#core/embed'
import type { FormContent } from '#core/form'
import CodeBlock from '../../embed/CodeBlock.vue'
import { useNotices } from '../../notices'
import { stacked } from '../../controls'

/** For whoever draws the form themselves: where it is sent, and what each answer is sent as. */
const { content, receiver, spot } = defineProps<{ content: FormContent; receiver: string; spot: string }>()
const notices = useNotices()
const facts = computed(() => byHand(content, receiver, spot))
async function copy(text: string): Promise<void> {
  await navigator.clipboard.writeText(text)
  notices.done(`“${text.length > 60 ? `${text.slice(0, 58)} …` : text}” is copied.`)
}
</script>

<template>
  <ElCollapse>
    <ElCollapseItem name="hand" title="For a form that you draw yourself">
      <div class="facts">
        <p class="small">
          For whoever writes the HTML: the form is sent (POST) to <code>{{ facts.action }}</code>
          <ElButton text size="small" aria-label="Copy the address" @click="copy(facts.action)"
            ><Copy :size="14"
          /></ElButton>
        </p>
        <ElTable v-bind="stacked" :data="facts.names" row-key="name">
          <ElTableColumn prop="label" label="Question" />
          <ElTableColumn label="Is sent as">
            <template #default="{ row }">
              <code>{{ row.name }}</code>
              <ElButton text size="small" :aria-label="`Copy ${row.name}`" @click="copy(row.name)"
                ><Copy :size="14"
              /></ElButton>
              <span v-if="row.isRequired" class="quiet small">required</span>
            </template>
          </ElTableColumn>
        </ElTable>
        <CodeBlock title="Tried at a command line" :text="facts.curl" label="The command" copy-words="Copy it" />
        <CodeBlock title="The shortest HTML that works" :text="facts.html" label="The HTML" copy-words="Copy it" />
      </div>
    </ElCollapseItem>
  </ElCollapse>
</template>

<style scoped>
.facts {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
}
p {
  margin: 0;
}
code {
  overflow-wrap: anywhere;
}
</style>

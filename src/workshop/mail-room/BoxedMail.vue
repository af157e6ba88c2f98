<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { sizeWords } from '#core/mail'
import { clientFor } from '../client'
import Views from '../controls/Views.vue'
import { handToDownloads } from '../controls'
import { useReceiver } from '../sync'
import { useNotices } from '../notices'
import type { ReadMail } from './read-mail'

/** One mail of the stand-in mailbox, as its reader sees it. Its links open; nothing else in it can. */
const { mail } = defineProps<{ mail: ReadMail }>()
const receiver = useReceiver()
const notices = useNotices()
const shows = ref<'html' | 'plain' | 'source'>(mail.html === '' ? 'plain' : 'html')
/** Links open in a window of their own. Pictures of elsewhere stay away: the page's policy forbids them. */
const page = computed(() => mail.html.replace(/<head>/i, '<head><base target="_blank">'))
const links = computed(() => [...new Set(mail.text.match(/https?:\/\/[^\s<>]{1,500}/g) ?? [])])

async function forward(): Promise<void> {
  if (receiver.pairing === null) return
  try {
    const { recipient, member } = await clientFor(receiver.pairing).sendReport(mail.bytes)
    notices.done(member ? `${recipient} is marked as bounced.` : `The report about ${recipient} changed nothing.`)
  } catch (error) {
    notices.problem(error instanceof Error ? error.message : String(error))
  }
}
</script>

<template>
  <article class="sheet">
    <header>
      <h2>{{ mail.subject }}</h2>
      <p class="quiet small">{{ mail.from }} to {{ mail.to }}</p>
      <div class="row tools">
        <Views
          v-model="shows"
          label="Show"
          :views="[
            { value: 'html', label: 'As read' },
            { value: 'plain', label: 'Plain part' },
            { value: 'source', label: 'Source' },
          ]"
        />
        <ElButton v-if="mail.isReport" @click="forward">Hand it in as a report</ElButton>
      </div>
    </header>
    <iframe
      v-if="shows === 'html' && mail.html"
      sandbox="allow-popups allow-popups-to-escape-sandbox allow-downloads"
      title="The mail"
      :srcdoc="page"
    />
    <pre v-else-if="shows === 'source'" tabindex="0">{{ mail.source }}</pre>
    <pre v-else tabindex="0">{{ mail.text }}</pre>
    <footer v-if="links.length > 0 || mail.attachments.length > 0">
      <ul v-if="mail.attachments.length > 0" aria-label="Attached">
        <li v-for="one in mail.attachments" :key="one.name">
          <ElButton link @click="handToDownloads({ blob: one.content, name: one.name })">{{ one.name }}</ElButton>
          {{ sizeWords(one.content.size) }}
        </li>
      </ul>
      <ul aria-label="Links in it">
        <li v-for="link in links" :key="link">
          <a :href="link" target="_blank" rel="noreferrer">{{ link }}</a>
        </li>
      </ul>
    </footer>
  </article>
</template>

<style scoped>
header,
footer {
  padding: var(--gap-3) var(--gap-4);
}
header {
  border-bottom: 1px solid var(--hairline);
}
footer {
  border-top: 1px solid var(--hairline);
  font-size: var(--text-s);
}
h2 {
  margin: 0;
  overflow-wrap: anywhere;
}
.tools {
  flex-wrap: wrap;
  margin-top: var(--gap-2);
}
.tools :deep(.el-radio) {
  margin: 0 var(--gap-1) 0 0;
}
iframe {
  display: block;
  width: 100%;
  height: 460px;
  border: 0;
  background: #fff;
}
pre {
  max-height: 460px;
  margin: 0;
  padding: var(--gap-4);
  overflow: auto;
  font-family: var(--font-code);
  font-size: var(--text-s);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  overflow-wrap: anywhere;
}
</style>

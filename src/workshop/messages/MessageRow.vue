<script setup lang="ts">
import Changes from '../controls/Changes.vue'
import { ElButton, ElCollapseItem } from 'element-plus'
import { computed } from 'vue'
import { answerLink } from '#core/mail'
import { shownMoment, shownPage } from '../controls'
import type { KeptMessage } from '../data'
import { heldWords } from './found'

/** One message: who wrote, when, how it begins; opened, all of it, with what can be done. */
const {
  kept,
  formName,
  listName,
  isBusy = false,
} = defineProps<{
  kept: KeptMessage
  formName: string
  listName: string
  isBusy?: boolean
}>()
const emit = defineEmits<{ release: []; erase: [] }>()

const personal = computed(() => kept.message.personal)
const address = computed(() => personal.value?.email?.typed ?? '')
const from = computed(() => address.value || 'Without an address that can be read')
const begin = computed(() => {
  const { subject = '', text = '' } = personal.value ?? {}
  return [subject, text.replaceAll(/\s+/g, ' ')].filter(Boolean).join(' · ')
})
const answer = computed(() =>
  address.value === '' || personal.value === null
    ? null
    : answerLink({
        to: address.value.trim(),
        subject: personal.value.subject === '' ? `Your message by “${formName}”` : `Re: ${personal.value.subject}`,
        text: personal.value.text,
      }),
)
</script>

<template>
  <ElCollapseItem :name="kept.id">
    <template #title="{ isActive }">
      <span class="head">
        <span class="from">{{ from }}</span>
        <time class="quiet small" :datetime="kept.message.at">{{ shownMoment(kept.message.at) }}</time>
        <span class="begin quiet"
          ><template v-if="!isActive">{{ begin || 'No words' }}</template></span
        >
        <span v-if="kept.message.joins" class="small joins">joins {{ listName }}</span>
      </span>
    </template>
    <p v-if="kept.held === 1 && kept.message.held" class="note small" role="note">
      Held back. {{ heldWords[kept.message.held] }}
    </p>
    <h3 v-if="personal?.subject" class="subject">{{ personal.subject }}</h3>
    <p class="text">{{ personal?.text || 'No words were written.' }}</p>
    <dl v-if="personal && (personal.answers.length > 0 || personal.page)" class="small">
      <template v-for="one in personal.answers" :key="one.label">
        <dt>{{ one.label }}</dt>
        <dd>{{ one.answer }}</dd>
      </template>
      <template v-if="personal.page">
        <dt>Written on</dt>
        <dd>{{ shownPage(personal.page) }}</dd>
      </template>
    </dl>
    <div class="row">
      <ElButton v-if="answer" :type="kept.held === 1 ? '' : 'primary'" tag="a" :href="answer" rel="noreferrer"
        >Answer by mail</ElButton
      >
      <Changes>
        <ElButton v-if="kept.held === 1" type="primary" :disabled="isBusy || undefined" @click="emit('release')"
          >Let it through</ElButton
        >
        <ElButton text :disabled="isBusy || undefined" @click="emit('erase')">Erase</ElButton>
      </Changes>
    </div>
  </ElCollapseItem>
</template>

<style scoped>
.head {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 var(--gap-3);
  flex: 1 1 auto;
  min-width: 0;
  padding: var(--gap-2) var(--gap-3) var(--gap-2) 0;
  font-weight: 400;
  line-height: 1.4;
  text-align: start;
}
.from {
  overflow: hidden;
  font-weight: 650;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.begin {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.joins {
  justify-self: end;
  color: var(--moss);
}
time {
  justify-self: end;
}
.note,
.subject,
.text,
dl,
dd {
  margin: 0;
}
.subject {
  font-size: var(--text-l);
}
.text {
  max-width: 72ch;
  overflow-wrap: anywhere;
  white-space: pre-line;
}
dl {
  display: grid;
  grid-template-columns: max-content minmax(0, 1fr);
  gap: var(--gap-1) var(--gap-4);
}
dt {
  color: var(--quiet);
}
dd {
  overflow-wrap: anywhere;
}
</style>

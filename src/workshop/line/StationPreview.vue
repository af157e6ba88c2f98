<script setup lang="ts">
import { ElSkeleton } from 'element-plus'
import { computed } from 'vue'
import { answerTo, type FormContent, serviceHostOf } from '#core/form'
import type { FormId } from '#core/ids'
import type { Member } from '#core/list'
import { type MailSettings, outcomesWith } from '#core/mail'
import { answerPage, signOf } from '#core/render'
import type { Station } from '#core/station'
import { shownPage } from '../controls'
import { usePictures, useWorkspace } from '../data'
import { useMembers } from '../people'
import { formAlone, formInText, scenePage } from '../preview'
import SmallPreview from '../preview/SmallPreview.vue'
import MailPicture from './MailPicture.vue'

/** A station of the line as it really looks, small. */
const { form, content, isLanding, mail } = defineProps<{
  station: Station
  form: FormId
  content: FormContent
  isLanding: boolean
  /** The list's mail as it is written; null where it sends none. */
  mail: MailSettings | null
  newest: readonly Member[]
  /** Whether everybody was read, so that none among `newest` means nobody. */
  isKnown: boolean
  listName: string
}>()
const pictures = usePictures()
const workspace = useWorkspace()

/** Where who joins is sent on, where that is no page of ours. */
const sign = computed(() => signOf(outcomesWith(mail)[0]!))
const answer = computed(() => answerTo(content, outcomesWith(mail)[0]!))
const ownPage = computed(() =>
  answer.value.show === 'address' ? shownPage(answer.value.address) || 'not named yet' : null,
)
const members = useMembers()
void members.load()
const waiting = computed(() => {
  const list = workspace.form(form)?.list
  return (list === undefined ? null : members.countsOf(list))?.waiting ?? 0
})
/** Of a form that posts straight to a service. */
const directHost = computed(() => serviceHostOf(content))
const directWords = (station: Station) =>
  station === 'answer'
    ? `A page of ${directHost.value}`
    : station === 'mail'
      ? `Sent by ${directHost.value}`
      : `In the list at ${directHost.value}`
const popUp = computed(() => workspace.popUpOf(form))
const scene = computed(() => ({
  content,
  form,
  pictureAddress: pictures.addressOf,
  isLanding,
  popUp: popUp.value,
  surroundings: { background: '#ffffff', text: '#222222' },
}))
</script>

<template>
  <span>
    <SmallPreview
      v-if="station === 'spot'"
      :page="popUp !== null ? scenePage(scene) : formInText(scene)"
      :width="isLanding ? 1280 : 760"
    />
    <SmallPreview v-else-if="station === 'form'" :page="formAlone(scene)" :width="isLanding ? 1000 : 640" />
    <span v-else-if="directHost" class="words">{{ directWords(station) }}</span>
    <span v-else-if="station === 'answer' && ownPage" class="words">Your own page<br />{{ ownPage }}</span>
    <SmallPreview v-else-if="station === 'answer'" :page="answerPage(answer, content, null, { sign })" :width="640" />
    <MailPicture v-else-if="station === 'mail' && mail !== null" :settings="mail" :list-name="listName" />
    <span v-else-if="station === 'mail'" class="words">No mail is sent yet</span>
    <ElSkeleton v-else-if="newest.length === 0 && !isKnown" class="rows" :rows="2" animated />
    <span v-else-if="newest.length === 0" class="words">{{
      waiting > 0
        ? `${waiting === 1 ? 'One person has' : `${waiting} people have`} to confirm`
        : `Nobody in “${listName}” yet`
    }}</span>
    <span v-else class="rows">
      <span v-for="member in newest" :key="member.id" class="member">{{ member.email.typed }}</span>
    </span>
  </span>
</template>

<style scoped>
.words {
  display: grid;
  height: 100%;
  padding: var(--gap-2);
  /* An address has no place to break, and is as wide as its letters. */
  grid-template-columns: minmax(0, 100%);
  align-content: center;
  overflow-wrap: anywhere;
  color: var(--quiet);
  font-size: var(--text-s);
  text-align: center;
}
.rows {
  display: grid;
  height: 100%;
  padding: var(--gap-1) var(--gap-2);
  align-content: start;
}
.member {
  padding: 2px 0;
  border-bottom: 1px solid var(--hairline);
  font-size: 0.8125rem;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>

<script setup lang="ts">
import { ElButton, ElCheckbox, ElInput } from 'element-plus'
import { ref, shallowRef } from 'vue'
import type { ListId } from '#core/ids'
import { type FeedContent, type LetterContent, type LetterReaders, MOST_LOGO } from '#core/letter'
import type { List } from '#core/list'
import type { MailSettings } from '#core/mail'
import type { RichText } from '#core/text'
import { clientFor } from '../client'
import { newId } from '../clock'
import Choice from '../controls/Choice.vue'
import Labelled from '../controls/Labelled.vue'
import NumberInput from '../controls/NumberInput.vue'
import Select from '../controls/Select.vue'
import PictureFile from '../form/content/picture/PictureFile.vue'
import MessageText from '../form/mail/MessageText.vue'
import { useReceiver } from '../sync'
import type { TextEditor } from '../writing'
import { weekdays } from './feed-words'
import HourInput from './HourInput.vue'
import LetterPreview from './LetterPreview.vue'
import ReadersPick from './ReadersPick.vue'

/** When posts become a letter, what it looks like, and the letter that the newest would become. */
const { content, change } = defineProps<{
  content: FeedContent
  list: List
  settings: MailSettings
  change: (name: string, part: string, recipe: (content: FeedContent) => void) => void
}>()
const receiver = useReceiver()

const found = shallowRef<{
  ok: boolean
  said: string
  title: string
  posts: { title: string; at: number | null }[]
} | null>(null)
const letter = shallowRef<LetterContent | null>(null)
const isLooking = ref(false)
async function look(): Promise<void> {
  if (receiver.pairing === null) return
  isLooking.value = true
  try {
    const answer = await clientFor({ ...receiver.pairing }).lookAtFeed(content)
    found.value = answer
    letter.value = answer.letter
  } catch (error) {
    found.value = { ok: false, said: error instanceof Error ? error.message : String(error), title: '', posts: [] }
    letter.value = null
  } finally {
    isLooking.value = false
  }
}

const rhythms = [
  { value: 'each' as const, label: 'Each post' },
  { value: 'daily' as const, label: 'Once a day' },
  { value: 'weekly' as const, label: 'Once a week' },
]
const setRhythm = (kind: FeedContent['rhythm']['kind'] | '') =>
  change('How often', 'rhythm', (draft) => {
    const time = draft.rhythm.kind === 'each' ? '08:00' : draft.rhythm.time
    draft.rhythm = kind === 'daily' ? { kind, time } : kind === 'weekly' ? { kind, weekday: 4, time } : { kind: 'each' }
  })
const dayOptions = weekdays.map((label, at) => ({ value: at, label }))
const editor = shallowRef<TextEditor | null>(null)
const subjectEditor = shallowRef<TextEditor | null>(null)
/** What stands above and below the posts is one block of words each. */
const wordsIn = (part: 'above' | 'below'): RichText => {
  const [block] = content[part]
  return block?.kind === 'words' ? block.text : []
}
const setWords = (part: 'above' | 'below', text: RichText) =>
  change('Rewrite what stands around', part, (draft) => {
    draft[part] = text.length === 0 ? [] : [{ id: newId<string>(), kind: 'words', as: 'text', text }]
  })
</script>

<template>
  <div class="station">
    <div class="work">
      <form novalidate class="beside" @submit.prevent="look">
        <ElInput
          :model-value="content.address"
          aria-label="Address of the feed"
          placeholder="https://your-site.example/feed.xml"
          spellcheck="false"
          @update:model-value="change('Address of the feed', 'address', (draft) => void (draft.address = $event))"
        />
        <ElButton native-type="submit" :loading="isLooking">Look at it</ElButton>
      </form>
      <p v-if="found && !found.ok" class="problem" role="alert">{{ found.said }}</p>
      <p v-else-if="found" role="status">
        “{{ found.title }}” has {{ found.posts.length }} {{ found.posts.length === 1 ? 'post' : 'posts' }}. This is the
        letter that {{ content.rhythm.kind === 'each' ? 'the newest' : 'the newest of them' }} would become.
      </p>
      <p v-else class="quiet small">
        Most sites with posts have a feed, often at the site’s address with <code>/feed</code> or
        <code>/feed.xml</code> at its end.
      </p>
      <LetterPreview v-if="letter" :body="letter" :list="list" :settings="settings" />
    </div>
    <div class="controls">
      <fieldset class="group">
        <legend>When posts become a letter</legend>
        <Choice
          name="feed-rhythm"
          label="How often"
          :options="rhythms"
          :model-value="content.rhythm.kind"
          @update:model-value="setRhythm"
        />
        <div v-if="content.rhythm.kind !== 'each'" class="row">
          <Select
            v-if="content.rhythm.kind === 'weekly'"
            class="weekday"
            label="Day"
            :model-value="content.rhythm.weekday"
            :options="dayOptions"
            @update:model-value="
              change(
                'Day of the letter',
                'weekday',
                (draft) => void (draft.rhythm.kind === 'weekly' && (draft.rhythm.weekday = Number($event))),
              )
            "
          />
          <HourInput
            :model-value="content.rhythm.time"
            label="Hour"
            @update:model-value="
              (time) =>
                change(
                  'Hour of the letter',
                  'hour',
                  (draft) => void (draft.rhythm.kind !== 'each' && (draft.rhythm.time = time)),
                )
            "
          />
        </div>
        <Labelled label="At most so many posts at a time">
          <NumberInput
            :value="content.most"
            :least="1"
            :most="20"
            @change="change('Most posts', 'most', (draft) => void (draft.most = $event ?? 5))"
          />
        </Labelled>
        <ElCheckbox
          :model-value="content.goesByItself"
          label="It goes by itself, without my yes"
          @change="change('Goes by itself', 'itself', (draft) => void (draft.goesByItself = Boolean($event)))"
        />
      </fieldset>
      <fieldset class="group">
        <legend>The letter</legend>
        <Labelled label="Its name, for you">
          <ElInput
            :model-value="content.name"
            :maxlength="200"
            @update:model-value="change('Name of the feed', 'name', (draft) => void (draft.name = $event))"
          />
        </Labelled>
        <MessageText
          label="Subject"
          kind="line"
          :text="content.subject"
          :language="settings.language"
          @in-hand="subjectEditor = $event"
          @write="change('Subject of the feed', 'subject', (draft) => void (draft.subject = $event))"
        />
        <ElButton
          class="start"
          size="small"
          :disabled="subjectEditor === null"
          @mousedown.prevent
          @click="subjectEditor?.put('post-title', '')"
          >Put in the title of the post</ElButton
        >
        <Choice
          name="feed-shows"
          label="Of each post"
          :options="[
            { value: 'summary', label: 'Its beginning' },
            { value: 'whole', label: 'All of it' },
          ]"
          :model-value="content.shows"
          @update:model-value="change('Of each post', 'shows', (draft) => void ($event && (draft.shows = $event)))"
        />
        <ElCheckbox
          :model-value="content.hasPicture"
          label="With its pictures"
          @change="change('With pictures', 'pictures', (draft) => void (draft.hasPicture = Boolean($event)))"
        />
        <MessageText
          label="Above the posts"
          kind="rich"
          :text="wordsIn('above')"
          :language="settings.language"
          @in-hand="editor = $event"
          @write="setWords('above', $event)"
        />
        <MessageText
          label="Below the posts"
          kind="rich"
          :text="wordsIn('below')"
          :language="settings.language"
          @in-hand="editor = $event"
          @write="setWords('below', $event)"
        />
        <PictureFile
          :model-value="content.logo"
          name="Logo"
          :shown-at="{ width: MOST_LOGO / 2, height: MOST_LOGO / 2 }"
          @update:model-value="change('Logo of the letter', 'logo', (draft) => void (draft.logo = $event))"
        />
      </fieldset>
      <fieldset class="group">
        <legend>Who gets it</legend>
        <ReadersPick
          :lists="content.lists"
          :readers="content.readers"
          @update:lists="
            (lists: ListId[]) => change('Lists of the feed', 'lists', (draft) => void (draft.lists = lists))
          "
          @update:readers="
            (readers: LetterReaders) =>
              change('Readers of the feed', 'readers', (draft) => void (draft.readers = readers))
          "
        />
        <ElCheckbox
          :model-value="content.isInArchive"
          label="Among the letters that anybody can read"
          @change="change('In the archive', 'archive', (draft) => void (draft.isInArchive = Boolean($event)))"
        />
      </fieldset>
    </div>
  </div>
</template>

<style scoped>
.weekday {
  width: 140px;
}
.start {
  justify-self: start;
}
</style>

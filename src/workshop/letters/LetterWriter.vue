<script setup lang="ts">
import { ElButton, ElDropdown, ElDropdownItem, ElDropdownMenu, ElInput } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef } from 'vue'
import { allBlocks, type LetterBody } from '#core/letter'
import type { List } from '#core/list'
import type { MailSettings } from '#core/mail'
import type { Placeholder, RichText } from '#core/text'
import Labelled from '../controls/Labelled.vue'
import RichBar from '../controls/RichBar.vue'
import type { UndoRedo } from '../document'
import MessageText from '../form/mail/MessageText.vue'
import { placeholderNames, type TextEditor } from '../writing'
import BlockList from './BlockList.vue'
import BlockPanel from './BlockPanel.vue'
import { type ChangeBody, useBlocks } from './blocks-in-hand'
import LetterPreview from './LetterPreview.vue'

/** Writing a letter: the letter itself large on one side, what it is made of on the other. */
const { body, list, settings, undo, change } = defineProps<{
  body: LetterBody
  list: Pick<List, 'name' | 'why'>
  settings: MailSettings
  undo: UndoRedo
  change: ChangeBody
}>()
defineSlots<{ default?: () => unknown }>()

/** The block in hand. */
const chosen = defineModel<string | null>('chosen', { default: null })
const editor = shallowRef<TextEditor | null>(null)
const bar = useTemplateRef('bar')
const fallback = ref('there')
const block = computed(() => allBlocks(body.blocks).find(({ id }) => id === chosen.value) ?? null)
const blocks = useBlocks(
  () => body,
  (...step) => change(...step),
)
const offered: Placeholder[] = ['first-name', 'list', 'web-copy', 'leave-link']
/** A subject leads nowhere. */
const inSubject = ref(false)

function put(name: Placeholder): void {
  editor.value?.put(name, name === 'first-name' ? fallback.value : '')
}
function inHand(one: TextEditor | null, isSubject = false): void {
  editor.value = one?.kind === 'plain' ? null : one
  inSubject.value = isSubject
}
const writeSubject = (text: RichText) =>
  change('Rewrite the subject', 'subject', (changed) => void (changed.subject = text))
</script>

<template>
  <div class="station">
    <div class="work">
      <div class="bars">
        <RichBar ref="bar" :editor="editor" />
        <ElDropdown trigger="click" @command="put">
          <ElButton size="small" :disabled="editor === null" @mousedown.prevent>Put in …</ElButton>
          <template #dropdown>
            <ElDropdownMenu>
              <ElDropdownItem
                v-for="one in offered"
                :key="one"
                :command="one"
                :disabled="inSubject && (one === 'web-copy' || one === 'leave-link')"
                >{{ placeholderNames[one] }}</ElDropdownItem
              >
            </ElDropdownMenu>
          </template>
        </ElDropdown>
        <label class="row small"
          >Where no name is known
          <ElInput
            v-model="fallback"
            class="fallback"
            size="small"
            :maxlength="60"
            aria-label="Where no first name is known, say"
        /></label>
      </div>
      <LetterPreview
        :body="body"
        :list="list"
        :settings="settings"
        :chosen="chosen"
        :undo="undo"
        @change="(...step) => change(...step)"
        @block="chosen = $event"
        @move="(id, by) => blocks.moveBy(id, by)"
        @editor="inHand($event)"
        @link="bar?.startLink()"
      />
    </div>
    <div class="controls">
      <fieldset class="group">
        <legend>Subject</legend>
        <MessageText
          label="What they see first"
          kind="line"
          :text="body.subject"
          :language="settings.language"
          @in-hand="inHand($event, true)"
          @write="writeSubject"
        />
        <Labelled label="Beside it in the inbox" hint="Empty for the letter’s first words.">
          <ElInput
            :model-value="body.preview"
            :maxlength="200"
            @update:model-value="
              change('Words beside the subject', 'preview', (changed) => void (changed.preview = $event))
            "
          />
        </Labelled>
      </fieldset>
      <BlockPanel v-if="block" :key="block.id" v-model:chosen="chosen" :block="block" :body="body" :change="change" />
      <BlockList v-model="chosen" :body="body" :change="change" />
      <slot />
    </div>
  </div>
</template>

<style scoped>
.bars {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-2) var(--gap-4);
}
.fallback {
  width: 8em;
}
</style>

<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Finding } from '#core/checkup'
import type { List } from '#core/list'
import { type MailSettings, type MessageKind, messageNames, messagesInUse } from '#core/mail'
import { renderMessage } from '#core/message'

/** The way of a list's mail, from pressing the button to leaving: each mail at its moment, with its state and first words. */
export type MailPart = 'confirm' | 'sender' | 'gift' | 'notice' | MessageKind
const { settings, list, findings } = defineProps<{
  settings: MailSettings
  list: List
  findings: readonly Finding[]
}>()
const current = defineModel<MailPart>({ required: true })

interface Part {
  key: MailPart
  name: string
  state: 'on' | 'off' | 'stopped'
  /** In words: what holds, or why it cannot be sent. */
  says: string
}

const inUse = computed(() => messagesInUse(settings))
const problemOf = (key: MailPart) =>
  findings.find(({ about, weight }) => about === key && weight !== 'hint')?.message ?? null

function message(kind: MessageKind): Part {
  const isOn = inUse.value.includes(kind)
  const problem = isOn ? problemOf(kind) : null
  return {
    key: kind,
    name: messageNames[kind],
    state: problem !== null ? 'stopped' : isOn ? 'on' : 'off',
    says: problem ?? (isOn ? subjectOf(kind) : 'not sent'),
  }
}
const subjectOf = (kind: MessageKind) =>
  renderMessage(settings, list, kind, { firstName: '', link: null, leaveLink: null, giftLink: null }).subject
const confirms = {
  never: 'nobody: on the list at once',
  always: 'everybody',
  regions: 'visitors of some regions',
} as const
const notices = { never: 'none', each: 'each time', daily: 'once a day' } as const

const moments = computed((): { name: string; parts: Part[] }[] => {
  const { confirm, gift, notice } = settings
  return [
    {
      name: 'The button is pressed',
      parts: [
        { key: 'confirm', name: 'Who confirms', state: confirm === 'never' ? 'off' : 'on', says: confirms[confirm] },
        message('confirmation'),
        message('reminder'),
      ],
    },
    {
      name: 'Somebody is on the list',
      parts: [
        message('welcome'),
        part('gift', 'Gift', gift !== null, gift?.label ?? 'none'),
        part('notice', 'Notice to you', notice.when !== 'never', notices[notice.when]),
      ],
    },
    { name: 'Somebody signs up again', parts: [message('already-there')] },
    { name: 'Somebody leaves', parts: [message('leaving')] },
  ]
})
const sender = computed(() =>
  part(
    'sender',
    'From',
    settings.senderAddress.trim() !== '',
    settings.senderAddress.trim() === ''
      ? 'no address yet'
      : `${settings.senderName} <${settings.senderAddress.trim()}>`.trim(),
  ),
)
function part(key: MailPart, name: string, isOn: boolean, says: string): Part {
  const problem = problemOf(key)
  return { key, name, state: problem !== null ? 'stopped' : isOn ? 'on' : 'off', says: problem ?? says }
}
const stateWords = { on: 'on', off: 'off', stopped: 'cannot be sent' }
</script>

<template>
  <div class="way">
    <header>
      <div class="heading"><slot /></div>
      <ElButton
        text
        class="part from"
        :class="sender.state"
        :aria-pressed="current === 'sender'"
        @click="current = 'sender'"
      >
        <span class="mark" aria-hidden="true" />
        <span class="words"
          ><b>Sender and addresses</b> <span class="says small">{{ sender.says }}</span></span
        >
      </ElButton>
    </header>
    <ol aria-label="The way of a mail">
      <li v-for="moment in moments" :key="moment.name">
        <h3>{{ moment.name }}</h3>
        <ul>
          <li v-for="one in moment.parts" :key="one.key">
            <ElButton
              text
              class="part"
              :class="one.state"
              :aria-pressed="one.key === current"
              @click="current = one.key"
            >
              <span class="mark" aria-hidden="true" />
              <span class="words">
                <b>{{ one.name }}</b>
                <span class="only-heard">, {{ stateWords[one.state] }}:</span>
                <span class="says small">{{ one.says }}</span>
              </span>
            </ElButton>
          </li>
        </ul>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.way {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
}
ol,
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
ol {
  display: grid;
  grid-template-columns: 1.25fr 1.25fr 1fr 1fr;
}
ol > li {
  position: relative;
  padding: var(--gap-3) var(--gap-3) 0 0;
  border-top: 3px solid var(--ink);
}
/* Where a moment begins on the line. */
ol > li::before {
  content: '';
  position: absolute;
  top: -8px;
  left: 0;
  width: 13px;
  height: 13px;
  border: 3px solid var(--ink);
  border-radius: 50%;
  background: var(--paper);
}
h3 {
  margin: 0 0 var(--gap-1);
  color: var(--quiet);
  font-size: var(--text-s);
  font-weight: 400;
}
.part {
  width: 100%;
  height: auto;
  justify-content: start;
  min-height: 30px;
  padding: 3px var(--gap-2);
  border: 1px solid transparent;
  font-weight: 400;
  text-align: start;
  white-space: normal;
}
.part :deep(> span) {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr);
  width: 100%;
  line-height: 1.3;
}
.part[aria-pressed='true'] {
  border-color: var(--moss);
  background: var(--moss-wash);
}
/* Its name, and in the same line what it says as far as there is room. */
.words {
  display: flex;
  gap: 0 var(--gap-2);
  align-items: baseline;
  min-width: 0;
}
.words b {
  flex: none;
  font-weight: 400;
}
.part[aria-pressed='true'] b {
  font-weight: 650;
}
.stopped .words {
  flex-wrap: wrap;
}
.says {
  overflow: hidden;
  color: var(--quiet);
  text-overflow: ellipsis;
  white-space: nowrap;
}
.stopped .says {
  color: var(--raspberry);
  white-space: normal;
}
/* A letter that goes out is filled, one that does not is an outline; one that cannot is struck. */
.mark {
  width: 13px;
  height: 10px;
  margin-top: 5px;
  border: 2px solid var(--edge);
  border-radius: 1px;
}
.on .mark {
  border-color: var(--moss);
  background: var(--moss);
}
.stopped .mark {
  border-color: var(--raspberry);
  background: linear-gradient(to top right, transparent 42%, var(--raspberry) 42% 58%, transparent 58%);
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2) var(--gap-4);
  align-items: start;
  justify-content: space-between;
}
.heading {
  min-width: 0;
}
.from {
  width: auto;
  max-width: 100%;
  margin-inline-end: calc(-1 * var(--gap-2));
}
@media (max-width: 900px) {
  ol {
    grid-template-columns: minmax(0, 1fr);
    border-inline-start: 3px solid var(--ink);
  }
  ol > li {
    padding: var(--gap-2) 0 var(--gap-3) var(--gap-4);
    border-top: 0;
  }
  ol > li::before {
    top: 12px;
    left: -8px;
  }
}
</style>

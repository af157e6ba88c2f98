<script setup lang="ts">
import type { Box } from '#core/api'
import { ElButton, ElCollapse, ElCollapseItem, ElInput } from 'element-plus'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import type { MailboxRule } from '#core/mailbox'
import { clientFor } from '../client'
import AddressText from '../controls/AddressText.vue'
import FindBox from '../controls/FindBox.vue'
import Select from '../controls/Select.vue'
import { shownMoment } from '../controls'
import { useReceiver } from '../sync'
import BoxedMail from './BoxedMail.vue'
import { type ReadMail, readMail } from './read-mail'

/** The stand-in mailbox: a box for every address that mail was sent to, and what goes wrong there on purpose. */
const receiver = useReceiver()
const client = computed(() => (receiver.pairing === null ? null : clientFor(receiver.pairing)))
const boxes = shallowRef<Box[]>([])
const rules = shallowRef<MailboxRule[]>([])
const address = ref<string | null>(null)
const mails = shallowRef<ReadMail[]>([])
const open = ref<string | null>(null)
const shown = computed(() => mails.value.find(({ id }) => id === open.value) ?? null)

async function look(): Promise<void> {
  const mailbox = await client.value?.boxes().catch(() => null)
  if (!mailbox) return
  boxes.value = mailbox.boxes
  rules.value = mailbox.behaviour.rules
  address.value ??= mailbox.boxes[0]?.address ?? null
  const box = mailbox.boxes.find((one) => one.address === address.value)
  if (address.value !== null && box?.newest !== readUpTo) await read(address.value)
}
/** When the newest came of the box that was read last. */
let readUpTo: number | undefined
async function read(wanted: string): Promise<void> {
  const { mails: boxed } = (await client.value?.mailsInBox(wanted).catch(() => null)) ?? { mails: [] }
  const all = await Promise.all(boxed.map(readMail))
  if (wanted !== address.value) return
  mails.value = all
  readUpTo = all[0]?.at
  if (shown.value === null) open.value = all[0]?.id ?? null
}
async function choose(wanted: string): Promise<void> {
  address.value = wanted
  mails.value = []
  open.value = null
  await read(wanted)
}
void look()
useIntervalFn(() => void look(), 1_500)

/** Of more, nobody finds one at a glance. */
const MANY = 8
const sought = ref('')
const found = computed(() =>
  boxes.value.filter((box) => box.address.toLowerCase().includes(sought.value.trim().toLowerCase())),
)

const does = ref<MailboxRule['does']>('refuse')
const to = ref('')
const ways: { value: MailboxRule['does']; label: string }[] = [
  { value: 'refuse', label: 'is refused' },
  { value: 'busy', label: 'is put off' },
  { value: 'delay', label: 'comes a minute late' },
  { value: 'bounce', label: 'bounces later' },
]
const wordsOf = (rule: MailboxRule) => ways.find(({ value }) => value === rule.does)?.label ?? ''
async function behave(next: MailboxRule[]): Promise<void> {
  await client.value?.behaveMailbox(next)
  rules.value = next
}
async function add(): Promise<void> {
  if (to.value.trim() === '') return
  await behave([...rules.value, { to: to.value.trim(), does: does.value, seconds: does.value === 'delay' ? 60 : 0 }])
  to.value = ''
}
async function empty(): Promise<void> {
  await client.value?.emptyMailbox()
  mails.value = []
  address.value = null
  await look()
}
</script>

<template>
  <section class="boxes" aria-label="Stand-in mailbox">
    <div class="side">
      <ElCollapse :model-value="rules.length > 0 ? ['wrong'] : []">
        <ElCollapseItem
          name="wrong"
          :title="rules.length > 0 ? `What goes wrong here, ${rules.length}` : 'Let mail go wrong'"
        >
          <form novalidate class="group wrong" @submit.prevent="add">
            <ul v-if="rules.length > 0">
              <li v-for="(rule, at) in rules" :key="at" class="row">
                <span>Mail to “{{ rule.to }}” {{ wordsOf(rule) }}</span>
                <ElButton
                  link
                  :aria-label="`Stop: mail to ${rule.to} ${wordsOf(rule)}`"
                  @click="behave(rules.filter((_, other) => other !== at))"
                  >Stop</ElButton
                >
              </li>
            </ul>
            <ElInput v-model="to" placeholder="part of an address" aria-label="Mail to addresses with" />
            <Select v-model="does" label="What becomes of it" :options="ways" />
            <ElButton native-type="submit" class="start">Let it go wrong</ElButton>
          </form>
        </ElCollapseItem>
      </ElCollapse>
      <p v-if="boxes.length === 0" class="quiet">
        No mail yet. Every mail of every list comes here, whatever its address: sign up through a form to get one.
      </p>
      <FindBox
        v-if="boxes.length > MANY"
        v-model="sought"
        label="Find a box"
        :count="found.length"
        :of="boxes.length"
      />
      <ul v-if="boxes.length > 0" aria-label="Boxes">
        <li v-for="box in found" :key="box.address">
          <ElButton text class="box" :aria-pressed="box.address === address" @click="choose(box.address)">
            <AddressText class="address" :address="box.address" />
            <span class="quiet">{{ box.count }}</span>
          </ElButton>
        </li>
      </ul>
      <ElButton v-if="boxes.length > 0" text class="start" @click="empty">Empty all boxes</ElButton>
    </div>
    <div class="mails">
      <ol v-if="mails.length > 0" aria-label="Mail in this box">
        <li v-for="mail in mails" :key="mail.id">
          <ElButton text class="box" :aria-pressed="mail.id === open" @click="open = mail.id">
            <span class="address"
              ><b>{{ mail.subject }}</b> <span class="quiet">{{ mail.from }}</span></span
            >
            <span class="quiet">{{ shownMoment(new Date(mail.at).toISOString()) }}</span>
          </ElButton>
        </li>
      </ol>
      <BoxedMail v-if="shown" :key="shown.id" :mail="shown" />
    </div>
  </section>
</template>

<style scoped>
.boxes {
  display: grid;
  grid-template-columns: 280px minmax(0, 1fr);
  gap: var(--gap-5);
  align-items: start;
}
@media (max-width: 800px) {
  .boxes {
    grid-template-columns: minmax(0, 1fr);
  }
}
ul,
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
.side,
.mails {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
}
.box {
  display: flex;
  width: 100%;
  height: auto;
  min-height: 36px;
  padding: var(--gap-1) var(--gap-2);
  white-space: normal;
}
.box :deep(> span) {
  display: flex;
  width: 100%;
  justify-content: space-between;
  gap: var(--gap-3);
  text-align: start;
}
.box[aria-pressed='true'] {
  background: var(--moss-wash);
}
.address {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
.start {
  justify-self: start;
}
.wrong {
  font-size: var(--text-s);
}
</style>

<script setup lang="ts">
import type { Station } from '#core/station'
import { ElButton, ElInput } from 'element-plus'
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue'
import { pageAddress } from '#core/embed'
import type { Verdict } from '#core/journal'
import type { Signal } from '#core/line'
import { rehearsalAddress, type SeenMember } from '#core/proof'
import { addressProblem } from '#core/site'
import type { Spot } from '#core/spot'
import { messagesInUse } from '#core/mail'
import { useWorkspace } from '../data'
import OwnInbox from '../mail-room/OwnInbox.vue'
import RisingArms from './RisingArms.vue'
import { clientFor } from '../client'
import { useReceiver } from '../sync'

/**
 * The real page, tried by its owner: an address that marks the sign-up as a test, and what came of it, as it comes. Its
 * person lives in a space of the rehearsal's own and is gone when this is closed.
 */
const { spot } = defineProps<{ spot: Spot }>()
const LOOK_MS = 1_000
const workspace = useWorkspace()
const receiver = useReceiver()
const code = ref<string | null>(null)
const problem = ref<string | null>(null)
const seen = shallowRef<SeenMember>({ member: null, arrivals: [], messages: [] })
const address = computed(() => (code.value === null ? '' : rehearsalAddress(code.value, 'byhand')))
const page = computed(() => {
  if (spot.kind === 'landing')
    return receiver.publicUrl === null ? null : pageAddress(receiver.publicUrl, spot.slug ?? spot.id)
  return [spot.page, workspace.site(spot.site)?.address ?? ''].find((one) => addressProblem(one) === null) ?? null
})
const opensAt = computed(() =>
  page.value !== null && spot.kind === 'pop-up' ? `${page.value}#askbox-again` : page.value,
)
const newest = computed(() => seen.value.arrivals.at(-1))
const list = computed(() => workspace.form(spot.form)?.list ?? null)
const sendsMail = computed(() => {
  const mail = list.value === null ? null : (workspace.mail(list.value)?.published ?? null)
  return mail !== null && messagesInUse(mail).length > 0
})
const mailArrives = ref(false)
/** As far as it came. What visitors read in answer, only you see. */
const signals = computed((): Record<Station, Signal> => {
  const hasArrived = newest.value !== undefined
  const isBot = newest.value?.verdict === 'bot'
  return {
    spot: hasArrived ? 'proven' : 'empty',
    form: hasArrived ? (isBot ? 'needs-work' : 'proven') : 'empty',
    answer: 'empty',
    mail: mailArrives.value ? 'proven' : sendsMail.value ? 'ready' : 'empty',
    list: seen.value.member === null ? 'empty' : 'proven',
  }
})
const verdicts: Record<Verdict, string> = {
  joined: 'joined the list',
  'confirm-first': 'waits to be confirmed by mail',
  'already-on-list': 'is on the list already',
  'already-waiting': 'was waiting already',
  bot: 'was held back as a bot',
}

const client = clientFor({ ...receiver.pairing! })
void client.startRehearsal(spot.id, true).then(
  (begun) => (code.value = begun.code),
  (error: Error) => (problem.value = error.message),
)
const timer = setInterval(async () => {
  if (code.value === null) return
  try {
    seen.value = await client.lookUpForRehearsal(code.value, address.value)
    problem.value = null
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  }
}, LOOK_MS)
onBeforeUnmount(() => {
  clearInterval(timer)
  if (code.value !== null) void client.endRehearsal(code.value).catch(() => {})
})
const copy = () => navigator.clipboard.writeText(address.value)
</script>

<template>
  <div class="by-hand">
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p>Open the page, sign up with this address, and read what visitors read. Nothing of it stays in the list.</p>
    <div class="row">
      <ElInput :model-value="address" readonly aria-label="Address to sign up with" />
      <ElButton :disabled="code === null" @click="copy">Copy</ElButton>
      <a v-if="opensAt" :href="opensAt" target="_blank" rel="noreferrer">Open the page</a>
    </div>
    <RisingArms :signals="signals" />
    <p role="status">
      <span v-if="newest">
        It arrived, and {{ verdicts[newest.verdict]
        }}<template v-if="seen.member && Object.keys(seen.member.values).length > 0"
          >, with
          {{
            Object.entries(seen.member.values)
              .map(([column, value]) => `${column}: ${value}`)
              .join(', ')
          }}</template
        >. Version {{ newest.version }}{{ newest.personal?.page ? `, from ${newest.personal.page}` : '' }}. What you
        read on the page is the answer: does it say what it should?
      </span>
      <span v-else class="quiet">Waiting for it to arrive.</span>
    </p>
    <OwnInbox v-if="list !== null && sendsMail" :list="list" class="inbox" @proven="mailArrives = $event" />
  </div>
</template>

<style scoped>
.by-hand {
  display: grid;
  gap: var(--gap-2);
  padding: var(--gap-3);
  background: var(--sunken);
}
.row .el-input {
  width: min(460px, 100%);
}
.inbox {
  max-width: 560px;
}
</style>

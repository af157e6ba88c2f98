<script setup lang="ts">
import { ElButton, ElInput, ElCheckbox, ElUpload } from 'element-plus'
import { computed, ref } from 'vue'
import { type Gift, type MailSettings, MAX_GIFT_BYTES, sizeWords } from '#core/mail'
import Choice from '../../controls/Choice.vue'
import Labelled from '../../controls/Labelled.vue'
import NumberInput from '../../controls/NumberInput.vue'
import TypedInput from '../../controls/TypedInput.vue'
import { clientFor } from '../../client'
import { keepGiftFile } from '../../data'
import { useReceiver } from '../../sync'
import type { MailDraft } from './mail-draft'

/** What is handed over to who joins: a file or an address, where, to how many, and for how long. */
const { mail, settings } = defineProps<{ mail: MailDraft; settings: MailSettings }>()

const receiver = useReceiver()
const isBusy = ref(false)
const problem = ref('')
const address = ref('https://')
const gift = computed(() => settings.gift)
const shared = { onAnswer: false, inWelcome: 'link', firstSoMany: null, times: null, days: null } as const
const change = (name: string, part: string, work: (gift: Gift) => void) =>
  mail.change(name, `gift ${part}`, (changed) => {
    if (changed.gift !== null) work(changed.gift)
  })
const inWelcome = computed<Gift['inWelcome']>({
  get: () => gift.value?.inWelcome ?? 'no',
  set: (way) => change('Gift in the welcome', 'welcome', (one) => void (one.inWelcome = way)),
})

/** The bytes go to the receiver at once, by their hash; what is published names them. */
async function take(file: File | undefined): Promise<void> {
  if (file === undefined || receiver.pairing === null) return
  problem.value = ''
  if (file.size > MAX_GIFT_BYTES) {
    problem.value = `This file has ${sizeWords(file.size)}; a gift has at most 25 MB.`
    return
  }
  isBusy.value = true
  try {
    const digest = await crypto.subtle.digest('SHA-256', await file.arrayBuffer())
    const id = Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, '0')).join('')
    await clientFor(receiver.pairing).keepFile(id, file)
    await keepGiftFile(id, file)
    mail.change('Choose the gift', 'gift', (changed) => {
      changed.gift = {
        ...(changed.gift ?? { ...shared, label: file.name.replace(/\.[a-z0-9]{1,5}$/i, '').slice(0, 200) }),
        what: { kind: 'file', id, name: file.name.slice(0, 200), type: file.type.slice(0, 100), size: file.size },
      }
    })
  } catch (error) {
    problem.value = `Not kept: ${error instanceof Error ? error.message : 'no answer'}`
  } finally {
    isBusy.value = false
  }
}

function takeAddress(): void {
  mail.change('Choose the gift', 'gift', (changed) => {
    changed.gift = {
      ...(changed.gift ?? { ...shared, label: 'Your gift' }),
      what: { kind: 'address', address: address.value.trim() },
    }
  })
}
</script>

<template>
  <fieldset class="group">
    <legend>Gift</legend>
    <p v-if="gift === null" class="quiet small">A file or an address, for who joins. At most 25 MB.</p>
    <p v-else class="what">
      <b v-if="gift.what.kind === 'file'">{{ gift.what.name }}, {{ sizeWords(gift.what.size) }}</b>
      <b v-else>{{ gift.what.address }}</b>
    </p>
    <ElUpload
      drag
      :auto-upload="false"
      :show-file-list="false"
      :disabled="isBusy || receiver.pairing === null || undefined"
      @change="take($event.raw)"
    >
      {{ isBusy ? 'On its way …' : gift === null ? 'Choose a file, or drop it here' : 'Choose another file' }}
    </ElUpload>
    <form novalidate class="beside" @submit.prevent="takeAddress">
      <ElInput v-model="address" type="url" aria-label="Address of the gift" />
      <ElButton native-type="submit">Use this address</ElButton>
    </form>
    <p v-if="problem" class="problem small" role="alert">{{ problem }}</p>
    <template v-if="gift">
      <Labelled label="What the link to it says">
        <TypedInput
          :value="gift.label"
          :maxlength="200"
          @change="$event.trim() && change('Name of the gift', 'label', (one) => void (one.label = $event.trim()))"
        />
      </Labelled>
      <Labelled label="With the welcome">
        <Choice
          v-model="inWelcome"
          name="gift-welcome"
          :options="
            gift.what.kind === 'file'
              ? [
                  { value: 'link', label: 'As a link' },
                  { value: 'attachment', label: 'Attached' },
                  { value: 'no', label: 'Not' },
                ]
              : [
                  { value: 'link', label: 'As a link' },
                  { value: 'no', label: 'Not' },
                ]
          "
        />
      </Labelled>
      <ElCheckbox
        :model-value="gift.onAnswer"
        label="On the answer, once on the list"
        @change="change('Gift on the answer', 'answer', (one) => void (one.onAnswer = Boolean($event)))"
      />
      <p v-if="settings.isDiscreet && gift.onAnswer" class="quiet small">
        The list tells nobody who is on it, so the gift goes with the welcome instead: on a page it would tell.
      </p>
      <Labelled label="For the first so many only" hint="Empty: for everybody.">
        <NumberInput
          :value="gift.firstSoMany"
          :least="1"
          @change="change('For the first', 'first', (one) => void (one.firstSoMany = $event))"
        />
      </Labelled>
      <Labelled label="A personal link works so many days" hint="Empty: for ever.">
        <NumberInput
          :value="gift.days"
          :least="1"
          @change="change('Days of the link', 'days', (one) => void (one.days = $event))"
        />
      </Labelled>
      <Labelled label="… and so many times" hint="Empty: as often as wanted.">
        <NumberInput
          :value="gift.times"
          :least="1"
          @change="change('Times of the link', 'times', (one) => void (one.times = $event))"
        />
      </Labelled>
      <ElButton class="away" @click="mail.change('Take the gift away', 'gift', (changed) => void (changed.gift = null))"
        >Take the gift away</ElButton
      >
    </template>
  </fieldset>
</template>

<style scoped>
.what {
  overflow-wrap: anywhere;
}
.away {
  justify-self: start;
}
</style>

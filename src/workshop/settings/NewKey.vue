<script setup lang="ts">
import { ElButton, ElCheckbox, ElDatePicker, ElDialog, ElFormItem, ElInput } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import type { KeyGrant, PairingAddress, Right } from '#core/api'
import Choice from '../controls/Choice.vue'
import CopiedLine from '../controls/CopiedLine.vue'
import Labelled from '../controls/Labelled.vue'
import { endOfDay, isPast, shownMoment } from '../controls'

/** Makes an address that connects one browser, of somebody with a name and a right. It is shown once. */
const { make } = defineProps<{ make: (grant: KeyGrant) => Promise<PairingAddress | null> }>()
const emit = defineEmits<{ close: [] }>()
const isOpen = ref(true)
const isMaking = ref(false)
const name = ref('')
const right = ref<Right>('editor')
const seesPeople = ref(false)
/** Its last day, local; null for no end. */
const lastDay = ref<Date | null>(null)
const pairing = shallowRef<PairingAddress | null>(null)
const options: { value: Right; label: string }[] = [
  { value: 'owner', label: 'All of it' },
  { value: 'editor', label: 'Makes and publishes' },
  { value: 'reader', label: 'Looks on' },
]
const words: Record<Right, string> = {
  owner: 'As you: also lets others in and out, sets up mail, backups and keys of services, and erases many people.',
  editor:
    'Makes and publishes forms, letters and pages, brings people in and takes them off. Lets nobody in, sets up no mail, backups or keys, and erases one person at a time.',
  reader: 'Sees forms, pages and results, and changes nothing.',
}
const label = computed(() => name.value.trim() || 'this browser')

async function makeAddress(): Promise<void> {
  isMaking.value = true
  try {
    pairing.value = await make({
      ...{ name: name.value.trim(), right: right.value, seesPeople: seesPeople.value },
      endsAt: lastDay.value === null ? null : endOfDay(lastDay.value),
    })
  } finally {
    isMaking.value = false
  }
}
</script>

<template>
  <ElDialog v-model="isOpen" title="Let somebody in" width="min(560px, 94vw)" append-to-body @closed="emit('close')">
    <form novalidate v-if="pairing === null" class="new-key" @submit.prevent="makeAddress">
      <Labelled
        label="Whose browser it is"
        hint="It stands beside all that is changed with it. Empty: what the browser calls itself."
      >
        <ElInput v-model="name" maxlength="60" placeholder="Anna, at the studio" />
      </Labelled>
      <ElFormItem label="What they may do" label-position="top">
        <Choice v-model="right" name="right" label="What they may do" :options="options" />
        <p class="quiet small">{{ words[right] }}</p>
      </ElFormItem>
      <ElCheckbox v-if="right === 'reader'" v-model="seesPeople"
        >They see names, addresses and what people wrote</ElCheckbox
      >
      <Labelled label="Until" hint="Its last day. Empty: until you withdraw it.">
        <ElDatePicker v-model="lastDay" type="date" format="D MMM YYYY" :disabled-date="isPast" aria-label="Until" />
      </Labelled>
      <div class="row">
        <ElButton type="primary" native-type="submit" :loading="isMaking">Make an address</ElButton>
        <ElButton text @click="isOpen = false">Cancel</ElButton>
      </div>
    </form>
    <div v-else class="new-key" role="status">
      <p>
        Open this address in the browser of <b>{{ label }}</b>, before
        {{ shownMoment(new Date(pairing.until).toISOString()) }}. It works once, and is shown only now.
      </p>
      <CopiedLine :value="pairing.address" what="address" />
      <div class="row"><ElButton type="primary" @click="isOpen = false">Done</ElButton></div>
    </div>
  </ElDialog>
</template>

<style scoped>
.new-key {
  display: grid;
  gap: var(--gap-4);
}
.new-key p {
  margin: 0;
}
</style>

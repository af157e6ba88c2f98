<script setup lang="ts" generic="Shown extends string">
import Views from '../controls/Views.vue'

/** A mail as its reader opens it: by desk or phone, in one of several ways. The mail itself, an `iframe` or a `pre`, stands in the slot. */
defineProps<{ from: string; address: string; subject: string; ways: readonly { value: Shown; label: string }[] }>()
const shown = defineModel<Shown>('shown', { required: true })
const size = defineModel<'desk' | 'phone'>('size', { default: 'desk' })
</script>

<template>
  <div class="mail">
    <div class="row tools">
      <Views
        v-model="size"
        label="Shown on"
        :views="[
          { value: 'desk', label: 'Desk' },
          { value: 'phone', label: 'Phone' },
        ]"
      />
      <Views v-model="shown" label="Shown as" :views="ways" />
    </div>
    <slot name="before" />
    <div class="sheet letter" :class="size">
      <dl>
        <dt>From</dt>
        <dd>{{ from }} &lt;{{ address || 'address missing' }}&gt;</dd>
        <dt>Subject</dt>
        <dd class="subject">{{ subject }}</dd>
      </dl>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.mail {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
}
.tools {
  flex-wrap: wrap;
  gap: var(--gap-4);
}
.tools :deep(.el-radio) {
  margin: 0 var(--gap-1) 0 0;
}
.letter {
  display: grid;
  grid-template-rows: auto 1fr;
  overflow: hidden;
}
.letter.phone {
  width: 360px;
  max-width: 100%;
}
dl {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 2px var(--gap-3);
  margin: 0;
  padding: var(--gap-3) var(--gap-4);
  border-bottom: 1px solid var(--hairline);
  font-size: var(--text-s);
}
dt {
  color: var(--quiet);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
.subject {
  font-weight: 600;
}
.letter :slotted(iframe) {
  display: block;
  width: 100%;
  height: 480px;
  border: 0;
  background: #fff;
}
.letter :slotted(pre) {
  min-height: 320px;
  margin: 0;
  padding: var(--gap-4);
  font-family: var(--font-code);
  font-size: var(--text-s);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
</style>

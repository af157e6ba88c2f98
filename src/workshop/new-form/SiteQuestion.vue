<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed } from 'vue'
import { completedAddress, siteKinds } from '#core/site'
import Labelled from '../controls/Labelled.vue'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import ColoursRead from '../sites/ColoursRead.vue'
import AskWhich from './AskWhich.vue'
import { NEW } from './list-wish'
import type { Told } from './new-form'
import RealSite from './RealSite.vue'
import type { SiteWish } from './site-wish'

/** On which site a new form will sit. */
const { wish } = defineProps<{
  wish: SiteWish
  told: Told
  /** Whether sign-ups go straight to a service, so that nobody needs to reach the receiver. */
  isDirect: boolean
}>()
const workspace = useWorkspace()
const builders = siteKinds.map((one) => ({ value: one.kind, label: one.name }))
const kindHint = computed(() =>
  wish.isKindSeen ? 'As its page says.' : wish.kind === '' ? 'Which code works there depends on it.' : '',
)
const readFrom = computed(() => (wish.chosen?.palette ? '' : (wish.colours.reading?.host ?? '')))

function leaveAddress(): void {
  wish.address = completedAddress(wish.address)
  wish.readColours()
}
</script>

<template>
  <fieldset data-about="site">
    <legend>On which site will it sit?</legend>
    <AskWhich
      v-model="wish.key"
      name="site"
      question="On which site will it sit?"
      :all="workspace.sites"
      placeholder="Choose a site"
      new-one="A new site"
    />
    <p v-if="told?.site" class="problem small" role="alert">{{ told.site }}</p>
    <div v-if="wish.key === NEW" class="fields">
      <Labelled label="Name of the site" :problem="told?.siteName">
        <ElInput v-model="wish.name" :maxlength="200" />
      </Labelled>
      <Labelled label="Address" :problem="told?.siteAddress">
        <ElInput v-model="wish.address" type="url" placeholder="https://" @change="leaveAddress" />
      </Labelled>
      <Labelled label="Built with" :hint="kindHint">
        <Select
          :model-value="wish.kind"
          :options="builders"
          placeholder="Not said yet"
          @update:model-value="wish.kind = $event"
        />
      </Labelled>
    </div>
    <ColoursRead
      v-if="wish.key !== ''"
      :palette="wish.palette"
      :is-reading="wish.colours.isReading"
      :problem="wish.colours.problem"
      :from="readFrom"
    />
    <RealSite v-if="wish.reach && !isDirect" v-model="wish.isTried" :problem="wish.reach" :pretend="wish.pretend" />
  </fieldset>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(220px, 100%), 1fr));
  align-items: start;
  gap: var(--gap-3);
}
</style>

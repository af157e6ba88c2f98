<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed, toRefs } from 'vue'
import { completedAddress, siteKinds } from '#core/site'
import Labelled from '../controls/Labelled.vue'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import ColoursRead from '../sites/ColoursRead.vue'
import AskWhich from './AskWhich.vue'
import { NEW } from './list-pick'
import type { ShownProblems } from './new-form'
import RealSite from './RealSite.vue'
import type { SitePick } from './site-pick'

/** On which site a new form will sit. */
const { pick } = defineProps<{
  pick: SitePick
  told: ShownProblems
  /** Whether sign-ups go straight to a service, so that nobody needs to reach the receiver. */
  isDirect: boolean
}>()
const workspace = useWorkspace()
const { key, name, address, kind, isTried } = toRefs(pick)
const builders = siteKinds.map((one) => ({ value: one.kind, label: one.name }))
const kindHint = computed(() =>
  pick.isKindSeen ? 'As its page says.' : kind.value === '' ? 'Which code works there depends on it.' : '',
)
const readFrom = computed(() => (pick.chosen?.palette ? '' : (pick.colours.reading?.host ?? '')))

function leaveAddress(): void {
  address.value = completedAddress(address.value)
  pick.readColours()
}
</script>

<template>
  <fieldset data-about="site">
    <legend>On which site will it sit?</legend>
    <AskWhich
      v-model="key"
      name="site"
      question="On which site will it sit?"
      :all="workspace.sites"
      placeholder="Choose a site"
      new-one="A new site"
    />
    <p v-if="told?.site" class="problem small" role="alert">{{ told.site }}</p>
    <div v-if="key === NEW" class="fields">
      <Labelled label="Name of the site" :problem="told?.siteName">
        <ElInput v-model="name" :maxlength="200" />
      </Labelled>
      <Labelled label="Address" :problem="told?.siteAddress">
        <ElInput v-model="address" type="url" placeholder="https://" @change="leaveAddress" />
      </Labelled>
      <Labelled label="Built with" :hint="kindHint">
        <Select
          :model-value="kind"
          :options="builders"
          placeholder="Not said yet"
          @update:model-value="kind = $event"
        />
      </Labelled>
    </div>
    <ColoursRead
      v-if="key !== ''"
      :palette="pick.palette"
      :is-reading="pick.colours.isReading"
      :problem="pick.colours.problem"
      :from="readFrom"
    />
    <RealSite v-if="pick.reach && !isDirect" v-model="isTried" :problem="pick.reach" :pretend="pick.pretend" />
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

<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { addressProblem, completedAddress, type Site, type SiteKind, siteKinds } from '#core/site'
import Labelled from '../controls/Labelled.vue'
import Select from '../controls/Select.vue'
import TypedInput from '../controls/TypedInput.vue'
import { useWorkspace } from '../data'
import SiteQuestions from './SiteQuestions.vue'

/** What a site is called, where it is, and what it is built with, to be changed. */
const { site } = defineProps<{ site: Site }>()
const workspace = useWorkspace()
const kinds = siteKinds.map(({ kind, name }) => ({ value: kind, label: name }))
/** As the IANA database names them. */
const zones = ['UTC', ...Intl.supportedValuesOf('timeZone').filter((zone) => zone !== 'UTC')]

async function rename(name: string): Promise<void> {
  if (name.trim() !== '') await workspace.changeSite(site.id, { name: name.trim() })
}
/** Another kind has other answers; those given for the kind before are no longer asked. */
const build = (kind: SiteKind) => workspace.changeSite(site.id, { kind, profile: undefined })
</script>

<template>
  <div class="facts">
    <Labelled label="Name">
      <TypedInput :value="site.name" :maxlength="200" @change="rename" />
    </Labelled>
    <Labelled label="Address" :problem="addressProblem(site.address)">
      <TypedInput
        :value="site.address"
        type="url"
        @change="workspace.changeSite(site.id, { address: completedAddress($event) })"
      />
    </Labelled>
    <Labelled label="Built with">
      <Select
        :model-value="site.kind"
        :options="kinds"
        @update:model-value="$event !== '' && build($event as SiteKind)"
      />
    </Labelled>
    <Labelled label="Its clocks" hint="Days and hours of results are told by them.">
      <ElSelect
        :model-value="site.zone ?? 'UTC'"
        filterable
        @update:model-value="workspace.changeSite(site.id, { zone: String($event) })"
      >
        <ElOption v-for="zone in zones" :key="zone" :value="zone" :label="zone.replaceAll('_', ' ')" />
      </ElSelect>
    </Labelled>
    <Labelled
      label="Its privacy notice"
      :problem="site.privacy ? addressProblem(site.privacy) : null"
      hint="Landing pages link to it."
    >
      <TypedInput
        :value="site.privacy ?? ''"
        type="url"
        placeholder="none"
        @change="workspace.changeSite(site.id, { privacy: completedAddress($event) || undefined })"
      />
    </Labelled>
  </div>
  <SiteQuestions v-if="site.kind === 'other'" :site="site" />
</template>

<style scoped>
.facts {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: var(--gap-2) var(--gap-4);
  align-items: start;
}
@media (max-width: 1000px) {
  .facts {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

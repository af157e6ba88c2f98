<script setup lang="ts">
import { type Site, siteKinds, siteProfiles, type SiteKind } from '#core/site'
import Labelled from '../../controls/Labelled.vue'
import Select from '../../controls/Select.vue'
import { useWorkspace } from '../../data'

/** Asks what a site is built with where nobody said it: code and steps depend on it. */
const { site } = defineProps<{ site: Site }>()
const workspace = useWorkspace()
const options = siteKinds.map(({ kind, name }) => ({ value: kind, label: name }))

function answer(kind: SiteKind | ''): void {
  // Something else takes all code until its owner says otherwise, at the site's own questions.
  if (kind !== '')
    void workspace.changeSite(site.id, kind === 'other' ? { kind, profile: siteProfiles.other } : { kind })
}
</script>

<template>
  <Labelled
    :label="`What is ${site.name} built with?`"
    hint="Which code works there, and where it is pasted, depends on it. Until you say so, it is taken for a site that takes everything."
  >
    <Select :model-value="''" :options="options" placeholder="Not said yet" @update:model-value="answer" />
  </Labelled>
</template>

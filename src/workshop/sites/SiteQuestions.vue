<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import { computed } from 'vue'
import { profileOf, type Site, type SiteProfile } from '#core/site'
import NumberInput from '../controls/NumberInput.vue'
import { useWorkspace } from '../data'

/** What some other builder permits, answered by its owner: the answers are its profile. */
const { site } = defineProps<{ site: Site }>()
const workspace = useWorkspace()
const profile = computed(() => profileOf(site))
const change = (changes: Partial<SiteProfile>) =>
  workspace.changeSite(site.id, { profile: { ...profile.value, ...changes } })

type Question = { [Key in keyof SiteProfile]: SiteProfile[Key] extends boolean ? Key : never }[keyof SiteProfile]
const questions: { key: Question; words: string }[] = [
  { key: 'siteHead', words: 'A place for code in the head of every page' },
  { key: 'pageHead', words: 'A place for code in the head of one page' },
  { key: 'keepsForms', words: 'Forms in a page' },
  { key: 'keepsStyles', words: 'Style sheets in a page' },
  { key: 'keepsStyleAttributes', words: 'Styles inside tags' },
  { key: 'keepsScripts', words: 'Scripts in a page' },
  { key: 'keepsFrames', words: 'Frames in a page' },
  { key: 'visualEditorDamages', words: 'Its editor for words changes pasted code' },
]
</script>

<template>
  <fieldset>
    <legend>What it takes</legend>
    <ElCheckbox
      v-for="{ key, words } in questions"
      :key="key"
      :model-value="profile[key]"
      @update:model-value="change({ [key]: Boolean($event) })"
      >{{ words }}</ElCheckbox
    >
    <label class="row small">
      <span>Minutes until changes show</span>
      <NumberInput
        :value="profile.cacheMinutes"
        :least="0"
        :most="10000"
        label="Minutes until changes show"
        @change="change({ cacheMinutes: $event ?? 0 })"
      />
    </label>
    <p class="quiet small">Not sure? Leave it ticked, paste, and check the page: it tells what was taken out.</p>
  </fieldset>
</template>

<style scoped>
fieldset {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 280px), 1fr));
  gap: 0 var(--gap-4);
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0;
  font-weight: 600;
}
p {
  grid-column: 1 / -1;
  margin: 0;
}
</style>

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
  { key: 'siteHead', words: 'There is a place for code that all pages share (“head”, “header code”)' },
  { key: 'pageHead', words: 'There is a place for code of one page' },
  { key: 'keepsForms', words: 'A pasted form stays a form' },
  { key: 'keepsStyles', words: 'Pasted code keeps its colours (a <style> part)' },
  { key: 'keepsStyleAttributes', words: 'Pasted code keeps colours within its tags' },
  { key: 'keepsScripts', words: 'A pasted script runs' },
  { key: 'keepsFrames', words: 'A pasted frame shows another page' },
  { key: 'visualEditorDamages', words: 'Code pasted among the words comes out as text' },
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

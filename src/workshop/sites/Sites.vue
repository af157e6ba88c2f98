<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { ElButton, ElEmpty } from 'element-plus'
import { computed, ref } from 'vue'
import { useRowKeys } from '../controls'
import { useWorkspace } from '../data'
import Changes from '../controls/Changes.vue'
import SiteSheet from './SiteSheet.vue'
import FindBox from '../controls/FindBox.vue'
import Page from '../controls/Page.vue'

const workspace = useWorkspace()
/** Of more, nobody finds one at a glance. */
const MANY = 8
const words = ref('')
const shown = computed(() => {
  const sought = words.value.trim().toLowerCase()
  return workspace.sites.filter(({ name, address }) => `${name} ${address}`.toLowerCase().includes(sought))
})
const onKey = useRowKeys()

async function make(): Promise<void> {
  await workspace.makeSite({ name: 'New site', address: '', kind: 'self-hosted-blog' })
}
</script>

<template>
  <Page title="Sites">
    <template #actions>
      <Changes>
        <ElButton type="primary" @click="make"><Plus :size="18" /><span>New site</span></ElButton>
      </Changes>
    </template>
    <ElEmpty
      v-if="workspace.isLoaded && workspace.sites.length === 0"
      class="sheet"
      description="There is no site yet. A site is one of your websites, where forms will sit."
    />
    <template v-else>
      <FindBox
        v-if="workspace.sites.length > MANY"
        v-model="words"
        label="Find a site"
        :count="shown.length"
        :of="workspace.sites.length"
      />
      <p v-if="shown.length === 0" class="quiet">No site is called so.</p>
      <ul @keydown="onKey">
        <SiteSheet v-for="site in shown" :key="site.id" :site="site" />
      </ul>
    </template>
  </Page>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>

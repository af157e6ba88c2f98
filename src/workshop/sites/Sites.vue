<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { ElButton, ElEmpty } from 'element-plus'
import { useWorkspace } from '../data'
import SiteSheet from './SiteSheet.vue'
import Page from '../controls/Page.vue'

const workspace = useWorkspace()

async function make(): Promise<void> {
  await workspace.makeSite({ name: 'New site', address: '', kind: 'self-hosted-blog' })
}
</script>

<template>
  <Page title="Sites">
    <template #actions>
      <ElButton type="primary" @click="make"><Plus :size="18" /><span>New site</span></ElButton>
    </template>
    <ElEmpty
      v-if="workspace.isLoaded && workspace.sites.length === 0"
      class="sheet"
      description="There is no site yet. A site is one of your websites, where forms will sit."
    />
    <ul v-else>
      <SiteSheet v-for="site in workspace.sites" :key="site.id" :site="site" />
    </ul>
  </Page>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>

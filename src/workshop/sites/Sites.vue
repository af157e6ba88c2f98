<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { ElButton, ElEmpty } from 'element-plus'
import { RouterLink } from 'vue-router'
import { addressProblem, completedAddress, siteKinds, type Site, type SiteKind } from '#core/site'
import { vHint } from '../controls/hint'
import Labelled from '../controls/Labelled.vue'
import Select from '../controls/Select.vue'
import TypedInput from '../controls/TypedInput.vue'
import { useWorkspace } from '../data'

const kinds = siteKinds.map(({ kind, name }) => ({ value: kind, label: name }))
const workspace = useWorkspace()

async function rename(site: Site, name: string): Promise<void> {
  if (name.trim() !== '') await workspace.changeSite(site.id, { name: name.trim() })
}

function move(site: Site, address: string): void {
  void workspace.changeSite(site.id, { address: completedAddress(address) })
}

async function make(): Promise<void> {
  await workspace.makeSite({ name: 'New site', address: '', kind: 'self-hosted-blog' })
}

function formsOn(site: Site) {
  return workspace.forms.filter((form) => workspace.spotsOf(form.id).some((spot) => spot.site === site.id))
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Sites</h1>
      <ElButton type="primary" @click="make"><Plus :size="18" /><span>New site</span></ElButton>
    </div>
    <ElEmpty
      v-if="workspace.isLoaded && workspace.sites.length === 0"
      class="sheet"
      description="There is no site yet. A site is one of your websites, where forms will sit."
    />
    <ul v-else>
      <li v-for="site in workspace.sites" :key="site.id" class="sheet">
        <Labelled label="Name">
          <TypedInput :value="site.name" :maxlength="200" @change="rename(site, $event)" />
        </Labelled>
        <Labelled label="Address" :problem="addressProblem(site.address)">
          <TypedInput :value="site.address" type="url" @change="move(site, $event)" />
        </Labelled>
        <Labelled label="Built with">
          <Select
            :model-value="site.kind"
            :options="kinds"
            @update:model-value="workspace.changeSite(site.id, { kind: $event as SiteKind })"
          />
        </Labelled>
        <p class="palette small">
          <template v-if="site.palette">
            <span
              v-for="colour in site.palette.colours.slice(0, 10)"
              :key="colour"
              class="swatch"
              :style="{ background: colour }"
              v-hint="colour"
            />
            <span class="quiet">{{ site.palette.font }}</span>
          </template>
          <span v-else class="quiet">Its colours are not known yet: read them in a form’s Look.</span>
        </p>
        <p class="forms small">
          <span v-if="formsOn(site).length === 0" class="quiet">No form sits here.</span>
          <template v-for="(form, at) in formsOn(site)" :key="form.id">
            <template v-if="at > 0"> · </template>
            <RouterLink :to="{ name: 'form', params: { id: form.id, station: 'spot' } }">{{ form.name }}</RouterLink>
          </template>
        </p>
      </li>
    </ul>
  </div>
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
li {
  display: grid;
  grid-template-columns: 1fr 1.6fr 1fr;
  gap: var(--gap-2) var(--gap-4);
  padding: var(--gap-4);
  align-items: start;
}
.palette {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
  grid-column: 1 / -1;
}
.swatch {
  width: 18px;
  height: 18px;
  border: 1px solid var(--edge);
  border-radius: 2px;
}
.forms {
  grid-column: 1 / -1;
}
@media (max-width: 800px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

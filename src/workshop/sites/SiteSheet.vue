<script setup lang="ts">
import { Download } from '@lucide/vue'
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { until } from '@vueuse/core'
import { computed, reactive, ref } from 'vue'
import { RouterLink } from 'vue-router'
import {
  codeNames,
  codeOf,
  codeReachProblem,
  handoverFile,
  isPastedAgain,
  piecesOf,
  type PlaceHeights,
  sharedLine,
} from '#core/embed'
import { addressProblem, completedAddress, type Site, siteKinds, type SiteKind } from '#core/site'
import { type Spot, spotKinds } from '#core/spot'
import { handToDownloads } from '../controls/downloads'
import { vHint } from '../controls/hint'
import Labelled from '../controls/Labelled.vue'
import Select from '../controls/Select.vue'
import { shownPage } from '../controls/shown'
import TypedInput from '../controls/TypedInput.vue'
import { useWorkspace } from '../data'
import RehearseButton from '../rehearsal/RehearseButton.vue'
import CodeBlock from '../form/spot/CodeBlock.vue'
import PlaceRoom from '../form/spot/PlaceRoom.vue'
import { useReceiver } from '../sync'
import GettingOnline from './GettingOnline.vue'
import SiteQuestions from './SiteQuestions.vue'

/** One site: where it is, what it is built with, what stands where on it, and the line that its scripts share. */
const { site } = defineProps<{ site: Site }>()
const workspace = useWorkspace()
const receiver = useReceiver()
const kinds = siteKinds.map(({ kind, name }) => ({ value: kind, label: name }))

async function rename(name: string): Promise<void> {
  if (name.trim() !== '') await workspace.changeSite(site.id, { name: name.trim() })
}
/** Another kind has other answers; those given for the kind before are no longer asked. */
const build = (kind: SiteKind) => workspace.changeSite(site.id, { kind, profile: undefined })

const placeOf = ({ kind }: Spot) => spotKinds.find((one) => one.kind === kind)?.name ?? kind
const rows = computed(() =>
  workspace.spots
    .filter((spot) => spot.site === site.id)
    .flatMap((spot) => {
      const form = workspace.form(spot.form)
      const code = codeOf(spot, site)
      return form === null ? [] : [{ spot, form, code, version: workspace.latestVersion(form.id) }]
    }),
)
const heights = reactive(new Map<string, PlaceHeights>())
const handed = computed(() =>
  rows.value.flatMap(({ spot, form, version }) =>
    version === null ? [] : [{ spot, formName: form.name, version, heights: heights.get(spot.id) ?? null }],
  ),
)
const needsLine = computed(() =>
  handed.value.some(({ spot }) => spot.state === 'live' && spot.kind !== 'pop-up' && codeOf(spot, site) === 'script'),
)
const reach = computed(() =>
  receiver.publicUrl === null || addressProblem(site.address) !== null
    ? null
    : codeReachProblem(receiver.publicUrl, site),
)

/** While a file is made: forms that scripts place are measured for it, so that pages keep room for them. */
const isMeasuring = ref(false)
const unmeasured = computed(() =>
  handed.value.filter(
    ({ spot, heights }) => heights === null && spot.kind !== 'pop-up' && codeOf(spot, site) === 'script',
  ),
)

async function saveAll(): Promise<void> {
  heights.clear()
  isMeasuring.value = true
  await until(unmeasured).toMatch((left) => left.length === 0)
  isMeasuring.value = false
  const { inTagsCode } = await import('#core/inlining')
  const pieces = piecesOf(site, handed.value, receiver.publicUrl!, inTagsCode)
  const name = site.name.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '') || 'site'
  handToDownloads({
    blob: new Blob([handoverFile(site, pieces)], { type: 'text/html' }),
    name: `forms-on-${name}.html`,
  })
}
</script>

<template>
  <li class="sheet">
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
    </div>
    <SiteQuestions v-if="site.kind === 'other'" :site="site" />
    <GettingOnline v-if="reach" :site="site" :problem="reach" />
    <p v-if="rows.length === 0" class="quiet small">No form sits here.</p>
    <template v-else>
      <ElTable :data="rows" table-layout="auto" row-key="spot.id">
        <ElTableColumn label="Place" :formatter="({ spot }) => placeOf(spot)" />
        <ElTableColumn label="Form">
          <template #default="{ row }">
            <RouterLink :to="{ name: 'form', params: { id: row.form.id, station: 'spot' } }">{{
              row.form.name
            }}</RouterLink>
          </template>
        </ElTableColumn>
        <ElTableColumn
          label="Put there"
          :formatter="
            ({ version, code }) => (version === null ? 'nothing yet' : codeNames[code as keyof typeof codeNames])
          "
        />
        <ElTableColumn
          label="When words change"
          :formatter="({ code }) => (isPastedAgain(code) ? 'paste again' : 'shows by itself')"
        />
        <ElTableColumn label="State" :formatter="({ spot }) => spot.state" />
        <ElTableColumn label="Page" :formatter="({ spot }) => (spot.page === '' ? '' : shownPage(spot.page))" />
      </ElTable>
      <CodeBlock
        v-if="needsLine && receiver.publicUrl"
        title="The shared line, once for the whole site"
        :text="sharedLine(receiver.publicUrl)"
        label="The shared line"
        copy-words="Copy the line"
      />
      <div v-if="handed.length > 0 && receiver.publicUrl" class="row">
        <RehearseButton :spots="rows.map(({ spot }) => spot)" label="Rehearse this site" />
        <ElButton :loading="isMeasuring" @click="saveAll"
          ><Download :size="16" /><span>All code and steps as a file</span></ElButton
        >
        <span class="quiet small">For whoever looks after the site.</span>
      </div>
    </template>
    <template v-if="isMeasuring">
      <PlaceRoom
        v-for="{ spot, version } in unmeasured"
        :key="spot.id"
        :spot="spot"
        :content="version.content"
        :font="site.palette?.font ?? ''"
        @measured="heights.set(spot.id, $event)"
      />
    </template>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
  padding: var(--gap-4);
}
.facts {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: var(--gap-2) var(--gap-4);
  align-items: start;
}
.palette {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
  grid-column: 1 / -1;
  margin: 0;
}
.swatch {
  width: 18px;
  height: 18px;
  border: 1px solid var(--edge);
  border-radius: 2px;
}
@media (max-width: 1000px) {
  .facts {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

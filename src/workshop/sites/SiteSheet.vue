<script setup lang="ts">
import { ChevronDown, Download, Pencil } from '@lucide/vue'
import { ElButton, ElCollapse, ElCollapseItem } from 'element-plus'
import { until } from '@vueuse/core'
import { computed, reactive, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { codeOf, codeReachProblem, handoverFile, piecesOf, type PlaceHeights, sharedLine } from '#core/embed'
import { addressProblem, profileOf, type Site, siteKinds } from '#core/site'
import { handToDownloads, lowerFirst, shownPage } from '../controls'
import Changes from '../controls/Changes.vue'
import { useWorkspace } from '../data'
import RehearseButton from '../rehearsal/RehearseButton.vue'
import CodeBlock from '../embed/CodeBlock.vue'
import TallestRoom from '../preview/TallestRoom.vue'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'
import ColoursRead from './ColoursRead.vue'
import GettingOnline from './GettingOnline.vue'
import { useSiteReading } from './reading'
import SitePicture from './SitePicture.vue'
import SiteFacts from './SiteFacts.vue'
import SiteSpots from './SiteSpots.vue'

/** One site: where it is, what it is built with, what stands where on it, and the line that its scripts share. */
const { site } = defineProps<{ site: Site }>()
const workspace = useWorkspace()
const receiver = useReceiver()

const isEditing = ref(site.address === '')
/** With its colours, its code and all that is done with it as a whole. */
const isWhole = ref(false)
const kindName = computed(() => lowerFirst(siteKinds.find(({ kind }) => kind === site.kind)?.name ?? ''))
/** What its builder leaves of pasted code, in a sentence. */
const takes = computed(() => {
  const { siteHead, pageHead, keepsForms, keepsScripts, keepsFrames } = profileOf(site)
  const all = [
    keepsForms && 'forms',
    keepsScripts && 'scripts',
    keepsFrames && 'frames',
    (siteHead || pageHead) && 'code for every page',
  ].filter((one) => one !== false)
  return all.length === 0 ? 'It takes links only.' : `It takes ${all.join(', ')}.`
})
const notices = useNotices()
const colours = useSiteReading()
async function readColours(): Promise<void> {
  const before = site.palette
  const reading = await colours.read(site.address)
  if (reading === null) return
  await workspace.changeSite(site.id, { palette: reading.palette })
  notices.done(`The colours of ${site.name} are kept.`, () => workspace.changeSite(site.id, { palette: before }))
}

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
  handed.value.some(
    ({ spot }) => spot.state === 'live' && spot.kind !== 'pop-up' && ['script', 'rule'].includes(codeOf(spot, site)),
  ),
)
const reach = computed(() =>
  receiver.publicUrl === null || addressProblem(site.address) !== null
    ? null
    : codeReachProblem(receiver.publicUrl, site),
)

const isReached = computed(
  () => receiver.publicUrl !== null && addressProblem(site.address) === null && reach.value === null,
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
    <div class="site">
      <SitePicture class="drawn" :site="site" />
      <div class="about">
        <h2>{{ site.name }}</h2>
        <p class="small">
          <a v-if="addressProblem(site.address) === null" :href="site.address" target="_blank" rel="noreferrer">{{
            shownPage(site.address)
          }}</a>
          <span v-else class="problem">No address yet: press Edit.</span>
          <span class="quiet"> · {{ kindName }}</span>
          <span v-if="reach" class="problem"> · Visitors do not reach Ask Box from here.</span>
          <span v-else-if="isReached" class="quiet"> · Visitors reach Ask Box from here.</span>
        </p>
        <SiteSpots v-if="rows.length > 0" :rows="rows" :is-whole="isWhole" />
        <p v-else class="quiet small">No form sits here.</p>
      </div>
      <span class="acts">
        <RouterLink v-if="isReached" v-slot="{ navigate }" custom :to="{ name: 'site-pages', params: { id: site.id } }">
          <ElButton size="small" :aria-label="`Pages of ${site.name}`" @click="navigate()">Pages</ElButton>
        </RouterLink>
        <Changes>
          <ElButton size="small" :aria-expanded="isEditing" @click="isEditing = !isEditing"
            ><Pencil :size="14" /><span>{{ isEditing ? 'Done' : 'Edit' }}</span></ElButton
          >
        </Changes>
        <ElButton
          text
          size="small"
          class="more"
          :aria-expanded="isWhole"
          :aria-label="isWhole ? `Less of ${site.name}` : `More of ${site.name}`"
          @click="isWhole = !isWhole"
          ><ChevronDown :size="18"
        /></ElButton>
      </span>
    </div>
    <div v-if="isWhole" class="rest">
      <p class="small quiet">{{ takes }}</p>
      <ColoursRead
        :palette="site.palette"
        :is-reading="colours.isReading.value"
        :problem="colours.problem.value"
        :from="colours.reading.value?.host"
      >
        <Changes>
          <ElButton
            v-if="!colours.isReading.value && addressProblem(site.address) === null"
            link
            type="primary"
            @click="readColours"
            >{{ site.palette ? 'Read anew' : 'Read its colours' }}</ElButton
          >
        </Changes>
      </ColoursRead>
      <CodeBlock
        v-if="needsLine && receiver.publicUrl"
        title="The shared line: pasted once, for all forms of the site"
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
    </div>
    <SiteFacts v-if="isEditing" :site="site" />
    <ElCollapse v-if="reach">
      <ElCollapseItem title="What it needs before visitors can use its forms">
        <GettingOnline :site="site" />
      </ElCollapseItem>
    </ElCollapse>
    <template v-if="isMeasuring">
      <TallestRoom
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
  padding: var(--gap-3) var(--gap-4);
}
.site {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr) auto;
  gap: var(--gap-4);
  align-items: start;
}
.about,
.rest {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-1);
  min-width: 0;
}
.rest {
  gap: var(--gap-3);
}
h2 {
  font-size: 1.0625rem;
}
.about p {
  overflow-wrap: anywhere;
}
.acts {
  display: flex;
  gap: var(--gap-1);
  justify-content: flex-end;
}
/* As wide for every site, so that signals stand below each other. */
@media (min-width: 641px) {
  .acts {
    min-width: 180px;
  }
}
.more {
  width: 32px;
  padding: 0;
  color: var(--quiet);
}
.more[aria-expanded='true'] svg {
  transform: rotate(180deg);
}
/* What is said of the site, and its spots, have the whole width; only its name stands beside what can be done. */
@media (max-width: 640px) {
  .site {
    grid-template-columns: minmax(0, 1fr) auto;
    gap: var(--gap-1) var(--gap-2);
  }
  .about {
    display: contents;
  }
  .about > :not(h2) {
    grid-column: 1 / -1;
  }
  .acts {
    grid-area: 1 / 2;
  }
  .drawn {
    display: none;
  }
}
</style>

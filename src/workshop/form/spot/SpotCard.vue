<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { codeAdvice, codeOf, pageAddress, popUpProblem } from '#core/embed'
import type { FormContent, Version } from '#core/form'
import type { SiteId } from '#core/ids'
import type { StationState } from '#core/line'
import { addressProblem } from '#core/site'
import { type PopUp, type Spot, type SpotKind, spotKinds, startPopUp } from '#core/spot'
import { vHint } from '../../controls'
import Changes from '../../controls/Changes.vue'
import Labelled from '../../controls/Labelled.vue'
import Select from '../../controls/Select.vue'
import TypedInput from '../../controls/TypedInput.vue'
import { useWorkspace } from '../../data'
import { useNotices } from '../../notices'
import { useReceiver } from '../../sync'
import GettingOnline from '../../sites/GettingOnline.vue'
import InstallCheck from './InstallCheck.vue'
import LandingCode from './LandingCode.vue'
import ProofSheet from '../../rehearsal/ProofSheet.vue'
import PopUpRules from './PopUpRules.vue'
import RuleSheet from './rule/RuleSheet.vue'
import SpotCode from './SpotCode.vue'
import SpotHead from './SpotHead.vue'
import SpotPage from './SpotPage.vue'
import { useSpotChanges } from './spot-changes'
import { useSpotState } from './spot-state'

/** One spot: where it is, how it looks there, its code, and how that gets onto the page. */
const { spot, version, content } = defineProps<{
  spot: Spot
  version: Version | null
  content: FormContent
  line: StationState[]
}>()
const workspace = useWorkspace()
const receiver = useReceiver()
const notices = useNotices()
const site = computed(() => workspace.site(spot.site))
const sites = computed(() => workspace.sites.map(({ id, name }) => ({ value: id as SiteId, label: name })))
// What the site cannot take is not offered as if.
const kinds = computed(() =>
  spotKinds
    .filter(({ kind }) => kind !== 'pop-up' || kind === spot.kind || site.value === null || !popUpProblem(site.value))
    .map(({ kind, name }) => ({ value: kind, label: name })),
)
const changes = useSpotChanges()
const change = (what: Parameters<typeof changes.change>[1]) => changes.change(spot, what)
/** Visitors meet it so at once: there is no draft of it, so it is said, and taken back by one press. */
async function changePopUp(popUp: PopUp): Promise<void> {
  const before = spot.popUp
  await change({ popUp })
  const words = version !== null && spot.state === 'live' ? 'Visitors meet the pop-up like that at once.' : 'Kept.'
  notices.done(words, () => change({ popUp: before }))
}
const setState = (state: Spot['state']) => changes.setState(spot, state)
const { reach, hadVisitors, stateWord } = useSpotState(
  () => spot,
  () => ({
    site: site.value,
    isDirect: content.direct !== undefined,
    isPublished: version !== null,
    isArchived: workspace.form(spot.form)?.isArchived === true,
  }),
)
const isPopUpNowhere = computed(
  () => spot.kind === 'pop-up' && site.value !== null && popUpProblem(site.value) !== null,
)
const meantFor = computed(() => (spot.meant === undefined ? null : workspace.site(spot.meant)))
/** From the pretend site to the one that it is meant for. Code on the pretend one goes on working. */
async function move(): Promise<void> {
  const target = meantFor.value
  if (target === null) return
  const { site: before, page, code, meant } = spot
  await change({ site: target.id, page: '', code: codeAdvice(spot, target).works[0].kind, meant: undefined })
  notices.done(`It sits on ${target.name} now: its code is here, for pasting there.`, () =>
    workspace.changeSpot(spot.id, { site: before, page, code, meant }),
  )
}
const isCorrecting = ref(false)
/** Put on pages by the shared line alone; a form that posts straight to a service needs no receiver, and has no rule. */
const isByRule = computed(
  () => content.direct === undefined && spot.code === 'rule' && codeOf(spot, site.value) === 'rule',
)
const isLanding = computed(() => spot.kind === 'landing')
const ownPage = computed(() =>
  receiver.publicUrl === null ? null : pageAddress(receiver.publicUrl, spot.slug ?? spot.id),
)
const opensAt = computed(() =>
  isLanding.value
    ? version === null
      ? null
      : ownPage.value
    : ([spot.page, site.value?.address ?? ''].find((address) => addressProblem(address) === null) ?? null),
)
/** Whether there is a page of the site on which its code can be looked for. */
const hasPage = computed(() => !isLanding.value || addressProblem(spot.page) === null)
/** A pop-up that this browser has seen is shown it again there. */
const againAt = computed(() => (spot.kind === 'pop-up' && opensAt.value ? `${opensAt.value}#askbox-again` : null))

/** Code on a page names only its spot, so it goes on working wherever that is said to be. */
async function correct(changes: { site?: SiteId; kind?: SpotKind }): Promise<void> {
  const before = { site: spot.site, kind: spot.kind }
  await change(changes)
  notices.done('The spot is corrected. Code that is on a page already goes on working.', () =>
    workspace.changeSpot(spot.id, before),
  )
}
</script>

<template>
  <article :id="`spot-${spot.id}`" class="sheet spot" :class="spot.state">
    <SpotHead :spot="spot" :line="line" :state="stateWord" :opens-at="opensAt" :is-published="version !== null" />
    <div v-if="meantFor" class="row meant">
      <span
        >It is tried here, and meant for <b>{{ meantFor.name }}</b>.</span
      >
      <Changes>
        <ElButton @click="move">Move it to {{ meantFor.name }}</ElButton>
      </Changes>
    </div>
    <div v-if="spot.state === 'live'" class="body">
      <div v-if="spot.kind === 'pop-up' && !isPopUpNowhere" class="wide">
        <Changes>
          <PopUpRules :name="spot.id" :rules="spot.popUp ?? startPopUp" @change="changePopUp" />
        </Changes>
        <p v-if="againAt && version" class="small">
          Seen it already? <a :href="againAt" target="_blank" rel="noreferrer">Show it to me again</a>
        </p>
      </div>
      <Changes>
        <RuleSheet
          v-if="isByRule && site"
          class="wide"
          :spot="spot"
          :site="site"
          :content="content"
          :is-published="version !== null"
        />
      </Changes>
      <div class="part">
        <GettingOnline v-if="reach && site" :site="site" :was-reached="hadVisitors" />
        <div v-else-if="isPopUpNowhere" class="nowhere">
          <p>What works on this kind of site in its place:</p>
          <ElButton @click="correct({ kind: 'landing' })">A landing page to link to</ElButton>
          <ElButton @click="correct({ kind: 'inline' })">A place in the text</ElButton>
        </div>
        <LandingCode
          v-else-if="isLanding && version && receiver.publicUrl"
          :spot="spot"
          :version="version"
          :receiver="receiver.publicUrl"
          @slug="change({ slug: $event })"
        />
        <p v-else-if="isLanding && content.direct === undefined" class="quiet">
          The page opens when the form is published.
        </p>
        <SpotCode v-else :spot="spot" :site="site" :version="version" :content="content" @change="change" />
      </div>
      <div class="part">
        <SpotPage v-if="!isByRule" :spot="spot" :site="site" :content="content" />
        <Changes>
          <Labelled
            v-if="content.direct === undefined"
            class="source"
            label="Where sign-ups come from, in your words"
            hint="Such as “shop window”. Kept with each sign-up here and counted in Results; may stay empty."
          >
            <TypedInput
              :value="spot.source ?? ''"
              maxlength="100"
              placeholder="autumn letter"
              @change="change({ source: $event.trim() === '' ? undefined : $event.trim() })"
            />
          </Labelled>
        </Changes>
      </div>
    </div>
    <ProofSheet v-if="spot.state === 'live' && version && content.direct === undefined" class="check" :spot="spot" />
    <InstallCheck
      v-if="spot.state === 'live' && version && site && hasPage && !reach && content.direct === undefined"
      class="check"
      :spot="spot"
      :site="site"
    />
    <Changes>
      <div v-if="isCorrecting" class="row correct">
        <Labelled label="Site">
          <Select
            :model-value="spot.site"
            :options="sites"
            @update:model-value="$event !== '' && correct({ site: $event })"
          />
        </Labelled>
        <Labelled label="Where on it">
          <Select
            :model-value="spot.kind"
            :options="kinds"
            @update:model-value="$event !== '' && correct({ kind: $event })"
          />
        </Labelled>
      </div>
      <footer class="row">
        <ElButton text :aria-expanded="isCorrecting" @click="isCorrecting = !isCorrecting"
          >Correct site or place</ElButton
        >
        <ElButton v-if="spot.state !== 'live'" @click="setState('live')">Make it live again</ElButton>
        <ElButton v-if="spot.state === 'live'" text @click="setState('paused')">Pause this spot</ElButton>
        <ElButton
          v-if="spot.state !== 'retired'"
          v-hint="'Its code on the page takes no more sign-ups, and tells visitors so. It can be made live again.'"
          text
          @click="setState('retired')"
          >Take this spot out of use</ElButton
        >
      </footer>
    </Changes>
  </article>
</template>

<style scoped>
.spot {
  padding: var(--gap-4) var(--page-edge) var(--gap-2);
}
.body {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: var(--gap-4) var(--gap-5);
  margin-top: var(--gap-3);
}
.part {
  min-width: 0;
}
.wide {
  grid-column: 1 / -1;
}
.check {
  margin-top: var(--gap-4);
  padding-top: var(--gap-3);
  border-top: 1px solid var(--hairline);
}
.meant {
  margin-top: var(--gap-3);
  padding: var(--gap-2) var(--gap-3);
  background: var(--sunken);
}
.nowhere {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2);
}
.nowhere > p {
  flex: 1 0 100%;
  margin: 0;
}
.nowhere > .el-button {
  margin: 0;
}
.source {
  margin-top: var(--gap-3);
}
.correct {
  margin-top: var(--gap-3);
}
.correct > * {
  width: min(260px, 100%);
}
.live footer {
  margin: var(--gap-2) calc(-1 * var(--gap-2)) 0;
}
@media (max-width: 900px) {
  .body {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

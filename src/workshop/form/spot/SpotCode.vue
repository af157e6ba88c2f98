<script setup lang="ts">
import { ExternalLink } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { codeAdvice, codeNames, codeOf, frameAddress, pageAddress, pasteSteps, plainCode } from '#core/embed'
import type { Version } from '#core/form'
import { signalWords, type StationState } from '#core/line'
import { addressProblem, completedAddress, siteKinds } from '#core/site'
import type { SiteId } from '#core/ids'
import { type CodeKind, type Spot, type SpotKind, spotKinds } from '#core/spot'
import SignalArm from '../line/SignalArm.vue'
import { stationNames } from '../line/stations'
import { vHint } from '../../controls/hint'
import Choice from '../../controls/Choice.vue'
import Labelled from '../../controls/Labelled.vue'
import Select from '../../controls/Select.vue'
import TypedInput from '../../controls/TypedInput.vue'
import { useNotices } from '../../shell/notices'
import { useReceiver, useWaiting } from '../../sync'
import { useWorkspace } from '../../data'
import { shownPage } from '../../controls/shown'
import CodeBlock from './CodeBlock.vue'
import FrameCode from './FrameCode.vue'
import LinkCode from './LinkCode.vue'

/** One spot: where it is, its code, and how that gets onto the page. */
const { spot, version } = defineProps<{ spot: Spot; version: Version | null; line: StationState[] }>()
const workspace = useWorkspace()
const receiver = useReceiver()
const notices = useNotices()
const waiting = useWaiting()
const site = computed(() => workspace.site(spot.site))
const facts = computed(() => siteKinds.find(({ kind }) => kind === site.value?.kind) ?? siteKinds.at(-1)!)
const code = computed(() =>
  version === null || receiver.publicUrl === null
    ? null
    : plainCode({
        content: version.content,
        form: spot.form,
        version: version.number,
        spot: spot.id,
        receiver: receiver.publicUrl,
      }),
)
const advice = computed(() => codeAdvice(spot, site.value ?? { kind: 'other' }))
const chosen = computed(() => codeOf(spot, site.value))
const reason = computed(() => advice.value.works.find(({ kind }) => kind === chosen.value)?.reason ?? '')
const codes = computed(() =>
  advice.value.works.map(({ kind }, at) => ({
    value: kind,
    label: `${codeNames[kind]}${at === 0 && advice.value.works.length > 1 ? ' (works best)' : ''}`,
  })),
)
const steps = computed(() => (spot.kind === 'landing' ? [] : pasteSteps(facts.value.kind, spot.kind, chosen.value)))
const sites = computed(() => workspace.sites.map(({ id, name }) => ({ value: id as SiteId, label: name })))
const kinds = spotKinds.map(({ kind, name }) => ({ value: kind, label: name }))
const isCorrecting = ref(false)
const isLanding = computed(() => spot.kind === 'landing')
const kindName = computed(() => spotKinds.find(({ kind }) => kind === spot.kind)?.name.toLowerCase() ?? spot.kind)
const ownPage = computed(() => (receiver.publicUrl === null ? null : pageAddress(receiver.publicUrl, spot.id)))
const opensAt = computed(() =>
  isLanding.value
    ? version === null
      ? null
      : ownPage.value
    : ([spot.page, site.value?.address ?? ''].find((address) => addressProblem(address) === null) ?? null),
)
const pageProblem = computed(() => (spot.page.trim() === '' ? null : addressProblem(spot.page)))
async function setPage(page: string): Promise<void> {
  await workspace.changeSpot(spot.id, { page: completedAddress(page) })
}

/** Code on a page names only its spot, so it goes on working wherever that is said to be. */
async function correct(changes: { site?: SiteId; kind?: SpotKind }): Promise<void> {
  const before = { site: spot.site, kind: spot.kind }
  await workspace.changeSpot(spot.id, changes)
  if (version !== null) await receiver.tell('spot', spot.id)
  notices.done('The spot is corrected. Code that is on a page already goes on working.', () =>
    workspace.changeSpot(spot.id, before),
  )
}

/** Another kind of code at the same place. What is pasted there already goes on working. */
async function choose(code: CodeKind | ''): Promise<void> {
  if (code !== '') await workspace.changeSpot(spot.id, { code })
}

async function setState(state: Spot['state']): Promise<void> {
  const before = spot.state
  await workspace.changeSpot(spot.id, { state })
  const isTold = version === null || (await receiver.tell('spot', spot.id))
  const undo = () => setState(before)
  if (state === 'live')
    notices.done(
      isTold
        ? 'The spot is live again.'
        : 'The spot is live here. It takes sign-ups again once the receiver is told, which happens by itself.',
      undo,
    )
  else
    notices.done(
      isTold
        ? `The spot is ${state}: its code takes no ${state === 'paused' ? 'sign-ups for now' : 'more sign-ups'}, and tells visitors so.`
        : `The spot is ${state} here, but the receiver has not taken it in yet: its code still takes sign-ups until the receiver is told, which happens by itself.`,
      undo,
    )
}
</script>

<template>
  <article class="sheet spot" :class="spot.state">
    <header class="row">
      <h2>
        {{ site?.name ?? 'No site' }} <span class="quiet kind">{{ kindName }} · {{ spot.state }}</span>
      </h2>
      <span v-if="version && waiting.isWaiting('spot', spot.id)" class="quiet small" role="status"
        >the receiver does not know of this yet</span
      >
      <a v-if="opensAt" :href="opensAt" target="_blank" rel="noreferrer"
        >{{ shownPage(opensAt) }} <ExternalLink :size="14" aria-hidden="true"
      /></a>
    </header>
    <ol v-if="line.length" class="signals" aria-label="The line of this spot">
      <li v-for="one in line" :key="one.station" v-hint="one.reason">
        <SignalArm :signal="one.signal" :size="26" />
        <span
          >{{ stationNames[one.station] }}
          <span class="state" :class="one.signal">{{ signalWords[one.signal] }}</span></span
        >
      </li>
    </ol>
    <div v-if="spot.state === 'live'" class="body">
      <template v-if="isLanding">
        <CodeBlock
          v-if="version && ownPage"
          :title="`Its address, version ${version.number}`"
          :text="ownPage"
          label="The address"
          copy-words="Copy the address"
        />
        <p v-else class="quiet">The page opens when the form is published.</p>
        <div class="how">
          <h3>To the page</h3>
          <ul>
            <li>Link to it from {{ site?.name ?? 'your site' }}, from messages, from a page of links, or print it.</li>
            <li>Nothing is pasted anywhere: each publishing changes the page at once.</li>
          </ul>
        </div>
      </template>
      <template v-else>
        <div class="how">
          <Choice
            v-if="codes.length > 1"
            :model-value="chosen"
            :name="`code-${spot.id}`"
            label="What is put there"
            :options="codes"
            @update:model-value="choose"
          />
          <p class="quiet small">
            {{ reason }}
            <template v-for="one in advice.ruledOut" :key="one.kind">
              {{ codeNames[one.kind] }} does not work there: {{ one.reason }}
            </template>
          </p>
          <p v-if="code === null || version === null || ownPage === null" class="quiet">
            The code appears here when the form is published.
          </p>
          <CodeBlock
            v-else-if="chosen === 'plain'"
            :title="`Plain code, version ${version.number}`"
            :text="code"
            label="The code"
            copy-words="Copy the code"
            is-folded
          />
          <FrameCode
            v-else-if="chosen === 'frame' && receiver.publicUrl"
            :spot="spot"
            :content="version.content"
            :address="frameAddress(receiver.publicUrl, spot.id)"
          />
          <LinkCode v-else :content="version.content" :address="ownPage" />
        </div>
        <div class="how">
          <h4>Onto the page · {{ facts.name.toLowerCase() }}</h4>
          <ol>
            <li v-for="step in steps" :key="step">{{ step }}</li>
          </ol>
          <Labelled
            label="Address of the page it sits on"
            :problem="pageProblem"
            hint="Browsers often tell only the site; this names the page in your list."
          >
            <TypedInput :value="spot.page" type="url" :placeholder="site?.address" @change="setPage" />
          </Labelled>
        </div>
      </template>
    </div>
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
      <ElButton v-if="spot.state !== 'retired'" text @click="setState('retired')">Retire this spot</ElButton>
    </footer>
  </article>
</template>

<style scoped>
.spot {
  padding: var(--gap-4) var(--page-edge) var(--gap-2);
}
header {
  justify-content: space-between;
  overflow-wrap: anywhere;
}
.signals {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-1) var(--gap-4);
  margin: var(--gap-2) 0 0;
  padding: 0;
  list-style: none;
  font-size: var(--text-s);
}
.signals li {
  display: flex;
  align-items: center;
  gap: var(--gap-1);
}
.state {
  color: var(--quiet);
}
.state.needs-work,
.state.changed {
  color: var(--raspberry);
}
.state.proven {
  color: var(--moss);
}
.kind {
  margin-inline-start: var(--gap-2);
  font-size: var(--text-s);
  font-weight: 400;
}
.body {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 360px;
  gap: var(--gap-2) var(--gap-6);
  margin-top: var(--gap-3);
}
h4 {
  margin: 0;
  font-size: var(--text-m);
}
.how {
  display: grid;
  gap: var(--gap-2);
  align-content: start;
}
.how > .el-form-item {
  margin-top: var(--gap-2);
}
.how ul,
.how ol {
  display: grid;
  gap: var(--gap-2);
  margin: 0;
  padding-inline-start: 1.1em;
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

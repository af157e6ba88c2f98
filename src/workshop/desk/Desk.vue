<script setup lang="ts">
import { Plus, Search } from '@lucide/vue'
import { ElButton, ElSkeleton } from 'element-plus'
import { computed, defineAsyncComponent, reactive, ref, shallowRef, watchEffect } from 'vue'
import { useRouter } from 'vue-router'
import type { FormId } from '#core/ids'
import type { Signal } from '#core/line'
import ArrivalList from './ArrivalList.vue'
import DeskLine from './DeskLine.vue'
import { type DeskForm, foundForms, openWish } from './found-forms'
import NeedsHand from './NeedsHand.vue'
import StillNeeded from './StillNeeded.vue'
import { useRowKeys } from '../controls'
import { isDemo, useWorkspace } from '../data'
import RehearseButton from '../rehearsal/RehearseButton.vue'
import { useRhythm } from '../results/rhythm'
import { useReceiver } from '../sync'

/** Seen once, by whoever has no form yet: not loaded with everybody's first screen. */
const FirstSteps = defineAsyncComponent(() => import('./FirstSteps.vue'))
/** Where there are more than one sees at once. */
const FindForms = defineAsyncComponent(() => import('./FindForms.vue'))
const ChosenForms = defineAsyncComponent(() => import('./ChosenForms.vue'))
const ArchivedForms = defineAsyncComponent(() => import('./ArchivedForms.vue'))
/** Seen by who opened a file beside a new receiver. */
const FillReceiver = defineAsyncComponent(() => import('../settings/FillReceiver.vue'))
const FOUND_FROM = 6
/** Of so many, nobody sees all at once: then what finds them is there at once, though the first screen is larger by it. */
const MANY = 12

const workspace = useWorkspace()
const router = useRouter()
const receiver = useReceiver()
const rhythms = useRhythm()
/** A browser that is new here may get all of it from the receiver first. */
const isEmpty = computed(() => workspace.isLoaded && workspace.forms.length === 0 && (isDemo || receiver.sync !== null))
/** Stays while it is filled. */
const hasEmptyReceiver = ref(false)
watchEffect(() => receiver.sync?.state === 'empty-receiver' && (hasEmptyReceiver.value = true))
const inUse = computed(() => workspace.forms.filter(({ isArchived }) => !isArchived))
const spotsInUse = computed(() => inUse.value.flatMap(({ id }) => workspace.spotsOf(id)))
const archived = computed(() => workspace.forms.filter(({ isArchived }) => isArchived))

const wish = shallowRef(openWish)
const signals = reactive(new Map<FormId, Signal>())
const all = computed(() =>
  inUse.value.map((form): DeskForm => {
    const spots = workspace.spotsOf(form.id)
    const sites = spots.map(({ site }) => site)
    return {
      form,
      about: [workspace.list(form.list)?.name, ...sites.map((id) => workspace.site(id)?.name)].join(' '),
      sites,
      signal: signals.get(form.id) ?? null,
      isPublished: workspace.latestVersion(form.id) !== null,
      isPaused: spots.length > 0 && spots.every(({ state }) => state !== 'live'),
      joined: rhythms.of(form.id)?.week ?? 0,
    }
  }),
)
const shown = computed(() => foundForms(all.value, wish.value).map(({ form }) => form))

const isFindingHere = ref(false)
const isFinding = computed(() => isFindingHere.value || inUse.value.length >= MANY)
const isChoosing = ref(false)
const chosen = reactive(new Set<FormId>())
/** Of those that are shown: nothing is done to what nobody sees. */
const chosenForms = computed(() => shown.value.filter(({ id }) => chosen.has(id)))
const choose = (id: FormId) => (chosen.has(id) ? chosen.delete(id) : chosen.add(id))
function chooseAll(isAll: boolean): void {
  chosen.clear()
  if (isAll) for (const { id } of shown.value) chosen.add(id)
}
const onKey = useRowKeys()
</script>

<template>
  <div class="page desk">
    <section class="lines" aria-labelledby="lines-title">
      <div class="page-head">
        <h1 id="lines-title">Forms and their lines</h1>
        <span class="row">
          <RehearseButton v-if="workspace.forms.length > 0" :spots="spotsInUse" label="Rehearse everything" />
          <ElButton v-if="workspace.forms.length > 0 && !receiver.looksOn" type="primary" @click="router.push('/new')"
            ><Plus :size="18" /><span>New form</span></ElButton
          >
        </span>
      </div>
      <FillReceiver v-if="hasEmptyReceiver" />
      <FirstSteps v-if="isEmpty" />
      <ElSkeleton v-else-if="workspace.forms.length === 0" :rows="6" animated />
      <template v-else>
        <div v-if="isFinding" class="find">
          <FindForms v-model="wish" v-model:choosing="isChoosing" :count="shown.length" :of="inUse.length" />
        </div>
        <div v-else-if="inUse.length >= FOUND_FROM">
          <ElButton text size="small" @click="isFindingHere = true"
            ><Search :size="16" /><span>Find, order, choose several</span></ElButton
          >
        </div>
        <ChosenForms
          v-if="isChoosing"
          :forms="chosenForms"
          :is-all="shown.length > 0 && chosenForms.length === shown.length"
          @all="chooseAll"
          @done="chosen.clear()"
        />
        <p v-if="shown.length === 0" class="quiet none">
          No form is like that.
          <ElButton text size="small" @click="wish = { ...openWish, order: wish.order }">Show all</ElButton>
        </p>
        <ul @keydown="onKey">
          <DeskLine
            v-for="form in shown"
            :key="form.id"
            :form="form"
            :is-chosen="isChoosing ? chosen.has(form.id) : null"
            @signal="signals.set(form.id, $event)"
            @choose="choose(form.id)"
          />
        </ul>
      </template>
      <ArchivedForms v-if="archived.length > 0" :forms="archived" />
    </section>
    <aside>
      <StillNeeded />
      <NeedsHand v-if="workspace.forms.length > 0" />
      <section v-if="workspace.forms.length > 0" aria-labelledby="arrivals-title">
        <ArrivalList :count="9" />
      </section>
    </aside>
  </div>
</template>

<style scoped>
.desk {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 320px;
  gap: var(--gap-6);
}
.lines {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
  align-content: start;
}
.page-head {
  margin: 0;
}
/* As high as its controls, before they are there. */
.find {
  min-height: 36px;
}
ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
aside {
  display: grid;
  gap: var(--gap-5);
  align-content: start;
}
h2 {
  margin-bottom: var(--gap-2);
}
@media (max-width: 980px) {
  .desk {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

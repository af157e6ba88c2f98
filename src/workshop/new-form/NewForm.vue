<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { codeAdvice } from '#core/embed'
import { quietPalette } from '#core/look'
import { completedAddress, siteKinds } from '#core/site'
import { spotKinds } from '#core/spot'
import Choice from '../controls/Choice.vue'
import Labelled from '../controls/Labelled.vue'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import PopUpRules from '../form/spot/PopUpRules.vue'
import ShapeTiles from '../preview/ShapeTiles.vue'
import ColoursRead from '../sites/ColoursRead.vue'
import OwnForm from './OwnForm.vue'
import RealSite from './RealSite.vue'
import { NEW, useWishes } from './new-form'

const workspace = useWorkspace()
const router = useRouter()
const {
  list,
  site,
  listName,
  siteName,
  siteAddress,
  siteKind,
  page,
  name,
  isNameOwn,
  kind,
  popUp,
  chosenSite,
  noPopUp,
  colours,
  readColours,
  palette,
  reach,
  pretend,
  isTried,
  shape,
  fitting,
  isKindSeen,
  shownShape,
  language,
  told,
  direct,
  make: makeIt,
} = useWishes()
const { isReading, problem: readingProblem } = colours
const { read: ownForm } = direct
const asked = useTemplateRef('asked')

/** So many stand side by side; more are a menu. */
const FEW = 10
const withNew = (all: readonly { id: string; name: string }[], label: string) => [
  ...all.map(({ id, name }) => ({ value: id, label: name })),
  { value: NEW, label },
]
const listQuestion = computed(() =>
  ownForm.value === null ? 'Which list does it feed?' : 'Which of your lists is it about?',
)
/** The chosen list, where nothing of it goes to a service. */
const keptHere = computed(() => {
  const chosen = workspace.lists.find(({ id }) => id === list.value)
  return chosen === undefined || ownForm.value !== null || workspace.handOversOf(chosen.id).length > 0 ? null : chosen
})
const listChoices = computed(() => withNew(workspace.lists, 'A new list'))
const siteChoices = computed(() => withNew(workspace.sites, 'A new site'))
const builders = siteKinds.map((one) => ({ value: one.kind, label: one.name }))
const spotKind = computed(() => spotKinds.find((one) => one.kind === kind.value)!)
// What a site cannot take is not offered as if.
const kindChoices = computed(() =>
  spotKinds
    .filter((one) => one.kind !== 'pop-up' || noPopUp.value === null || kind.value === 'pop-up')
    .map(({ kind, name }) => ({ value: kind, label: name })),
)
const readFrom = computed(() => (chosenSite.value?.palette ? '' : (colours.reading.value?.host ?? '')))
/** What comes of it on a site that takes out forms: said before it is made. */
const becomesLink = computed(() => {
  if (kind.value === 'landing' || kind.value === 'pop-up') return false
  const built = chosenSite.value ?? (site.value === NEW ? { kind: siteKind.value || ('other' as const) } : null)
  return built !== null && codeAdvice({ kind: kind.value }, built).works[0].kind === 'link'
})

/** Who points at “A new …” goes on to name it. Keys stay where they are: arrows pass by here on their way. */
let isPointing = false as boolean
for (const [about, key] of [
  ['list', list],
  ['site', site],
] as const)
  watch(key, async (chosen) => {
    if (chosen !== NEW || !isPointing) return
    await nextTick()
    asked.value?.querySelector<HTMLInputElement>(`[data-about="${about}"] .el-form-item input`)?.focus()
  })

function leaveAddress(): void {
  siteAddress.value = completedAddress(siteAddress.value)
  readColours()
}

function leave(): void {
  void router.push('/')
}

async function make(): Promise<void> {
  const form = await makeIt()
  if (form !== null) {
    await router.push({ name: 'form', params: { id: form.id, station: 'form' } })
    return
  }
  await nextTick()
  const wrong = asked.value?.querySelector('.problem')?.closest('.el-form-item, fieldset')
  wrong?.querySelector<HTMLElement>('input, button')?.focus()
}
</script>

<template>
  <form
    ref="asked"
    class="page new"
    novalidate
    @pointerdown.capture="isPointing = true"
    @keydown.capture="isPointing = false"
    @submit.prevent="make"
  >
    <h1>New form</h1>

    <OwnForm :in-hand="direct" :unread="told?.own" />

    <fieldset data-about="list">
      <legend>{{ listQuestion }}</legend>
      <p v-if="ownForm" class="quiet small">
        Who signs up goes to {{ direct.host.value }}, and is not kept here; its name and why-line are what visitors
        read.
      </p>
      <Select
        v-if="listChoices.length > FEW"
        v-model="list"
        :label="listQuestion"
        placeholder="Choose a list"
        :options="listChoices"
      />
      <Choice
        v-else-if="workspace.lists.length > 0"
        v-model="list"
        name="list"
        :label="listQuestion"
        :options="listChoices"
      />
      <p v-if="told?.list" class="problem small" role="alert">{{ told.list }}</p>
      <p v-if="keptHere" class="quiet small">
        Its people are kept here. Are your letters sent by a service?
        <RouterLink :to="{ name: 'hand-on', params: { id: keptHere.id } }">Hand this list on</RouterLink> to it.
      </p>
      <Labelled v-if="list === NEW" label="Name of the list, as its members will know it" :problem="told?.listName">
        <ElInput v-model="listName" :maxlength="200" />
      </Labelled>
    </fieldset>

    <fieldset data-about="site">
      <legend>On which site will it sit?</legend>
      <Select
        v-if="siteChoices.length > FEW"
        v-model="site"
        label="On which site will it sit?"
        placeholder="Choose a site"
        :options="siteChoices"
      />
      <Choice
        v-else-if="workspace.sites.length > 0"
        v-model="site"
        name="site"
        label="On which site will it sit?"
        :options="siteChoices"
      />
      <p v-if="told?.site" class="problem small" role="alert">{{ told.site }}</p>
      <div v-if="site === NEW" class="fields">
        <Labelled label="Name of the site" :problem="told?.siteName">
          <ElInput v-model="siteName" :maxlength="200" />
        </Labelled>
        <Labelled label="Address" :problem="told?.siteAddress">
          <ElInput v-model="siteAddress" type="url" placeholder="https://" @change="leaveAddress" />
        </Labelled>
        <Labelled
          label="Built with"
          :hint="isKindSeen ? 'As its page says.' : siteKind === '' ? 'Which code works there depends on it.' : ''"
        >
          <Select
            :model-value="siteKind"
            :options="builders"
            placeholder="Not said yet"
            @update:model-value="siteKind = $event"
          />
        </Labelled>
      </div>
      <ColoursRead
        v-if="site !== ''"
        :palette="palette"
        :is-reading="isReading"
        :problem="readingProblem"
        :from="readFrom"
      />
      <RealSite v-if="reach && ownForm === null" v-model="isTried" :problem="reach" :pretend="pretend" />
    </fieldset>

    <fieldset>
      <legend>Where on the site?</legend>
      <Choice v-model="kind" name="kind" label="Where on the site?" :options="kindChoices" />
      <div v-if="kind === 'pop-up' && noPopUp" class="row cannot" role="alert">
        <span class="problem">{{ noPopUp }} What works there:</span>
        <ElButton size="small" @click="kind = 'landing'">A landing page to link to</ElButton>
        <ElButton size="small" @click="kind = 'inline'">A place in the text</ElButton>
      </div>
      <template v-else>
        <p class="quiet small">
          {{ spotKind.explanation }}
          <template v-if="becomesLink">
            This kind of site takes forms out, so what stands there is a link to the form’s own page.
          </template>
          <template v-if="noPopUp">A pop-up is not offered: {{ noPopUp }}</template>
        </p>
        <PopUpRules v-if="kind === 'pop-up'" name="new" :rules="popUp" @change="popUp = $event" />
        <Labelled
          v-else-if="kind !== 'landing' && !(reach && isTried)"
          label="Address of the page, if you know it already"
          :problem="told?.page"
        >
          <ElInput
            v-model="page"
            type="url"
            :placeholder="chosenSite?.address ?? 'https://'"
            @change="page = completedAddress(page)"
          />
        </Labelled>
      </template>
    </fieldset>

    <fieldset>
      <legend>What does it look like at first?</legend>
      <ShapeTiles
        label="Start shapes"
        :shapes="fitting"
        :is-narrow="kind === 'sidebar'"
        :chosen="shownShape"
        :palette="palette ?? quietPalette"
        :language="language"
        @choose="shape = $event.key"
      />
      <p class="quiet small">
        {{
          palette
            ? 'In the site’s colours, with sample words.'
            : 'In quiet colours of ours until the site’s are known, with sample words.'
        }}
        Shapes that are made for this place; all of it can be changed later.
      </p>
    </fieldset>

    <fieldset>
      <legend>What do you call it?</legend>
      <Labelled label="Name, for your eyes only" :problem="told?.name">
        <ElInput v-model="name" :maxlength="200" @input="isNameOwn = true" />
      </Labelled>
    </fieldset>

    <div class="row done">
      <ElButton type="primary" native-type="submit">Make the form</ElButton>
      <ElButton text @click="leave">Cancel</ElButton>
      <span class="quiet small">List, site and place can be corrected later.</span>
    </div>
  </form>
</template>

<style scoped>
.new {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-5);
  max-width: 900px;
}
fieldset,
.new :deep(fieldset) {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
  min-width: 0;
  margin: 0;
  padding: 0 0 0 var(--gap-4);
  border: 0;
  border-inline-start: 3px solid var(--hairline);
}
fieldset:focus-within,
.new :deep(fieldset:focus-within) {
  border-inline-start-color: var(--moss);
}
legend,
.new :deep(legend) {
  margin-bottom: var(--gap-2);
  padding: 0;
  font-size: var(--text-l);
  font-weight: 650;
}
.cannot {
  gap: var(--gap-2);
}
.cannot .el-button {
  margin: 0;
}
/* The way on stays in reach however long the page is. */
.done {
  position: sticky;
  bottom: 0;
  z-index: 1;
  padding-block: var(--gap-3);
  background: var(--paper);
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(220px, 100%), 1fr));
  align-items: start;
  gap: var(--gap-3);
}
</style>

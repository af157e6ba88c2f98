<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, nextTick, reactive, ref, useTemplateRef, watch, watchEffect } from 'vue'
import { useRouter } from 'vue-router'
import { shapeForSpot, shapeOf } from '#core/form'
import { quietPalette } from '#core/look'
import { addressProblem, completedAddress, siteKinds, type SiteKind } from '#core/site'
import { type SpotKind, spotKinds, suggestFormName } from '#core/spot'
import Choice from '../controls/Choice.vue'
import Labelled from '../controls/Labelled.vue'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import ShapeTiles from '../preview/ShapeTiles.vue'

const NEW = 'new'
const workspace = useWorkspace()
const router = useRouter()

// What there is one of is chosen already; between several only the owner knows.
const chosenKeys = reactive({ list: null as string | null, site: null as string | null })
const only = (all: readonly { id: string }[]) => (all.length === 0 ? NEW : all.length === 1 ? all[0]!.id : '')
const list = computed({
  get: () => chosenKeys.list ?? only(workspace.lists),
  set: (key) => (chosenKeys.list = key),
})
const site = computed({
  get: () => chosenKeys.site ?? only(workspace.sites),
  set: (key) => (chosenKeys.site = key),
})
const withNew = (all: readonly { id: string; name: string }[], label: string) => [
  ...all.map(({ id, name }) => ({ value: id, label: name })),
  { value: NEW, label },
]
const listChoices = computed(() => withNew(workspace.lists, 'A new list'))
const siteChoices = computed(() => withNew(workspace.sites, 'A new site'))
const listName = ref('')
const siteName = ref('')
const siteAddress = ref('')
const siteKind = ref<SiteKind | ''>('self-hosted-blog')
const builders = siteKinds.map((one) => ({ value: one.kind, label: one.name }))
const page = ref('')
const name = ref('')
const isNameOwn = ref(false)
const hasTried = ref(false)
const asked = useTemplateRef('asked')

const chosenList = computed(() => workspace.lists.find(({ id }) => id === list.value))
const chosenSite = computed(() => workspace.sites.find(({ id }) => id === site.value))
const kind = ref<SpotKind>('inline')
const spotKind = computed(() => spotKinds.find((one) => one.kind === kind.value)!)
const kindChoices = spotKinds.map((one) => ({ value: one.kind, label: one.name }))
const shape = ref('')
const shownShape = computed(() => shape.value || shapeForSpot(kind.value).key)
const palette = computed(() => chosenSite.value?.palette ?? quietPalette)
const language = computed(() => (chosenSite.value ? workspace.languageOf(chosenSite.value.id) : 'en'))

watchEffect(() => {
  if (!isNameOwn.value)
    name.value = suggestFormName(
      chosenSite.value?.name ?? siteName.value,
      kind.value,
      chosenList.value?.name ?? listName.value,
    )
})
watch(name, (value) => value === '' && (isNameOwn.value = false))

const problems = computed(() => ({
  list: list.value === '' ? 'Choose the list that it feeds.' : '',
  listName:
    list.value === NEW && listName.value.trim() === '' ? 'Give the list a name, as its members will know it.' : '',
  site: site.value === '' ? 'Choose the site that it will sit on.' : '',
  siteName: site.value === NEW && siteName.value.trim() === '' ? 'Give the site a name.' : '',
  siteAddress: site.value === NEW ? (addressProblem(siteAddress.value) ?? '') : '',
  page: page.value.trim() === '' ? '' : (addressProblem(page.value) ?? ''),
  name: name.value.trim() === '' ? 'The form needs a name.' : '',
}))
const told = computed(() => (hasTried.value ? problems.value : null))
const isComplete = computed(() => Object.values(problems.value).every((problem) => problem === ''))

/** Who points at “A new …” goes on to name it. Keys stay where they are: arrows pass by here on their way. */
let isPointing = false as boolean
for (const [name, key] of [
  ['list', list],
  ['site', site],
] as const)
  watch(key, async (chosen) => {
    if (chosen !== NEW || !isPointing) return
    await nextTick()
    asked.value?.querySelector<HTMLInputElement>(`[data-about="${name}"] .el-form-item input`)?.focus()
  })

function leave(): void {
  void router.push('/')
}

async function make(): Promise<void> {
  hasTried.value = true
  // With Enter in a field, nothing has left it yet.
  siteAddress.value = completedAddress(siteAddress.value)
  page.value = completedAddress(page.value)
  if (!isComplete.value) {
    await nextTick()
    asked.value?.querySelector('.problem')?.closest('.el-form-item, fieldset')?.querySelector('input')?.focus()
    return
  }
  const feeds = chosenList.value ?? (await workspace.makeList(listName.value.trim()))
  const on =
    chosenSite.value ??
    (await workspace.makeSite({
      name: siteName.value.trim(),
      address: siteAddress.value.trim(),
      kind: siteKind.value || 'other',
    }))
  const form = await workspace.makeForm({
    name: name.value.trim(),
    list: feeds,
    site: on,
    kind: kind.value,
    page: kind.value === 'landing' ? '' : page.value.trim(),
    shape: shapeOf(shownShape.value) ?? undefined,
  })
  await router.push({ name: 'form', params: { id: form.id, station: 'form' } })
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

    <fieldset data-about="list">
      <legend>Which list does it feed?</legend>
      <Choice v-model="list" name="list" label="Which list does it feed?" :options="listChoices" />
      <p v-if="told?.list" class="problem small" role="alert">{{ told.list }}</p>
      <Labelled v-if="list === NEW" label="Name of the list, as its members will know it" :problem="told?.listName">
        <ElInput v-model="listName" :maxlength="200" />
      </Labelled>
    </fieldset>

    <fieldset data-about="site">
      <legend>On which site will it sit?</legend>
      <Choice v-model="site" name="site" label="On which site will it sit?" :options="siteChoices" />
      <p v-if="told?.site" class="problem small" role="alert">{{ told.site }}</p>
      <div v-if="site === NEW" class="fields">
        <Labelled label="Name of the site" :problem="told?.siteName">
          <ElInput v-model="siteName" :maxlength="200" />
        </Labelled>
        <Labelled label="Address" :problem="told?.siteAddress">
          <ElInput
            v-model="siteAddress"
            type="url"
            placeholder="https://"
            @change="siteAddress = completedAddress(siteAddress)"
          />
        </Labelled>
        <Labelled label="Built with">
          <Select v-model="siteKind" :options="builders" />
        </Labelled>
      </div>
    </fieldset>

    <fieldset>
      <legend>Where on the site?</legend>
      <Choice v-model="kind" name="kind" label="Where on the site?" :options="kindChoices" />
      <p class="quiet small">{{ spotKind.explanation }}</p>
      <Labelled v-if="kind !== 'landing'" label="Address of the page, if you know it already" :problem="told?.page">
        <ElInput
          v-model="page"
          type="url"
          :placeholder="chosenSite?.address ?? 'https://'"
          @change="page = completedAddress(page)"
        />
      </Labelled>
    </fieldset>

    <fieldset>
      <legend>How does it start?</legend>
      <p class="quiet small">In the site’s colours, with sample words. All of it can be changed later.</p>
      <ShapeTiles
        label="Start shapes"
        :chosen="shownShape"
        :palette="palette"
        :language="language"
        @choose="shape = $event.key"
      />
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
fieldset {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
  min-width: 0;
  margin: 0;
  padding: 0 0 0 var(--gap-4);
  border: 0;
  border-inline-start: 3px solid var(--hairline);
}
fieldset:focus-within {
  border-inline-start-color: var(--moss);
}
legend {
  margin-bottom: var(--gap-2);
  padding: 0;
  font-size: var(--text-l);
  font-weight: 650;
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

<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, nextTick, reactive, ref, useTemplateRef, watch, watchEffect } from 'vue'
import { useRouter } from 'vue-router'
import { addressProblem, completedAddress, siteKinds, type SiteKind } from '#core/site'
import { shapeForSpot, shapeOf, shapes as startShapes } from '#core/form'
import { type SpotKind, spotKinds, suggestFormName } from '#core/spot'
import Choice from '../controls/Choice.vue'
import { useWorkspace } from '../data/workspace'

const NEW = 'new'
const workspace = useWorkspace()
const router = useRouter()

// The first one there is, even when it arrives from the receiver after this page opened, until the owner chooses.
const chosenKeys = reactive({ list: null as string | null, site: null as string | null })
const list = computed({
  get: () => chosenKeys.list ?? workspace.lists[0]?.id ?? NEW,
  set: (key) => (chosenKeys.list = key),
})
const site = computed({
  get: () => chosenKeys.site ?? workspace.sites[0]?.id ?? NEW,
  set: (key) => (chosenKeys.site = key),
})
const listName = ref('')
const siteName = ref('')
const siteAddress = ref('')
const siteKind = ref<SiteKind>('self-hosted-blog')
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
const suggested = computed(() => shapeForSpot(kind.value).key)

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
  list: list.value === NEW && listName.value.trim() === '' ? 'Give the list a name, as its members will know it.' : '',
  siteName: site.value === NEW && siteName.value.trim() === '' ? 'Give the site a name.' : '',
  siteAddress: site.value === NEW ? (addressProblem(siteAddress.value) ?? '') : '',
  page: page.value.trim() === '' ? '' : (addressProblem(page.value) ?? ''),
  name: name.value.trim() === '' ? 'The form needs a name.' : '',
}))
const isComplete = computed(() => Object.values(problems.value).every((problem) => problem === ''))

/** Who points at “A new …” goes on to name it. Keys stay where they are: arrows pass by here on their way. */
async function goOn(event: MouseEvent): Promise<void> {
  if (event.detail === 0) return
  const group = event.currentTarget as HTMLElement
  await nextTick()
  if ((event.target as Element).closest('label')?.querySelector<HTMLInputElement>('input')?.value === NEW)
    group.querySelector<HTMLInputElement>('.field input')?.focus()
}

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
    asked.value?.querySelector('.problem')?.closest('label')?.querySelector('input')?.focus()
    return
  }
  const feeds = chosenList.value ?? (await workspace.makeList(listName.value.trim()))
  const on =
    chosenSite.value ??
    (await workspace.makeSite({ name: siteName.value.trim(), address: siteAddress.value.trim(), kind: siteKind.value }))
  const form = await workspace.makeForm({
    name: name.value.trim(),
    list: feeds,
    site: on,
    kind: kind.value,
    page: kind.value === 'landing' ? '' : page.value.trim(),
    shape: shapeOf(shape.value || suggested.value) ?? undefined,
  })
  await router.push({ name: 'form', params: { id: form.id, station: 'form' } })
}
</script>

<template>
  <form ref="asked" class="page new" novalidate @submit.prevent="make">
    <h1>New form</h1>

    <fieldset @click="goOn">
      <legend>Which list does it feed?</legend>
      <Choice
        v-model="list"
        name="list"
        :options="[
          ...workspace.lists.map(({ id, name }) => ({ value: id, label: name })),
          { value: NEW, label: 'A new list' },
        ]"
      />
      <label v-if="list === NEW" class="field">
        <span class="name">Name of the list, as its members will know it</span>
        <ElInput v-model="listName" :maxlength="200" />
        <span v-if="hasTried && problems.list" class="problem small">{{ problems.list }}</span>
      </label>
    </fieldset>

    <fieldset @click="goOn">
      <legend>On which site will it sit?</legend>
      <Choice
        v-model="site"
        name="site"
        :options="[
          ...workspace.sites.map(({ id, name }) => ({ value: id, label: name })),
          { value: NEW, label: 'A new site' },
        ]"
      />
      <div v-if="site === NEW" class="fields">
        <label class="field">
          <span class="name">Name of the site</span>
          <ElInput v-model="siteName" :maxlength="200" />
          <span v-if="hasTried && problems.siteName" class="problem small">{{ problems.siteName }}</span>
        </label>
        <label class="field">
          <span class="name">Address</span>
          <ElInput
            v-model="siteAddress"
            type="url"
            placeholder="https://"
            @change="siteAddress = completedAddress(siteAddress)"
          />
          <span v-if="hasTried && problems.siteAddress" class="problem small">{{ problems.siteAddress }}</span>
        </label>
        <label class="field">
          <span class="name">Built with</span>
          <select v-model="siteKind" class="plain-select">
            <option v-for="one in siteKinds" :key="one.kind" :value="one.kind">{{ one.name }}</option>
          </select>
        </label>
      </div>
    </fieldset>

    <fieldset>
      <legend>Where on the site?</legend>
      <Choice v-model="kind" name="kind" :options="kindChoices" />
      <p class="quiet small">{{ spotKind.explanation }}</p>
      <label v-if="kind !== 'landing'" class="field">
        <span class="name">Address of the page, if you know it already</span>
        <ElInput
          v-model="page"
          type="url"
          :placeholder="chosenSite?.address ?? 'https://'"
          @change="page = completedAddress(page)"
        />
        <span v-if="hasTried && problems.page" class="problem small">{{ problems.page }}</span>
      </label>
    </fieldset>

    <fieldset>
      <legend>What is it for?</legend>
      <label class="field">
        <span class="name">Start shape; you can change it later</span>
        <select
          class="plain-select"
          :value="shape || suggested"
          @change="shape = ($event.target as HTMLSelectElement).value"
        >
          <option v-for="one in startShapes" :key="one.key" :value="one.key">
            {{ one.name }}: {{ one.purpose.toLowerCase().replace(/\.$/, '') }}
          </option>
        </select>
      </label>
    </fieldset>

    <fieldset>
      <legend>What do you call it?</legend>
      <label class="field">
        <span class="name">Name, for your eyes only</span>
        <ElInput v-model="name" :maxlength="200" @input="isNameOwn = true" />
        <span v-if="hasTried && problems.name" class="problem small">{{ problems.name }}</span>
      </label>
    </fieldset>

    <div class="row">
      <ElButton type="primary" native-type="submit">Make the form</ElButton>
      <ElButton text @click="leave">Cancel</ElButton>
    </div>
  </form>
</template>

<style scoped>
.new {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-5);
  max-width: 768px;
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
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(220px, 100%), 1fr));
  align-items: start;
  gap: var(--gap-3);
}
</style>

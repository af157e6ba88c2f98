<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { nextTick, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { quietPalette } from '#core/look'
import Labelled from '../controls/Labelled.vue'
import ShapeTiles from '../preview/ShapeTiles.vue'
import ListQuestion from './ListQuestion.vue'
import OwnForm from './OwnForm.vue'
import PlaceQuestion from './PlaceQuestion.vue'
import SiteQuestion from './SiteQuestion.vue'
import { NEW } from './list-pick'
import { useNewForm } from './new-form'

const router = useRouter()
const route = useRoute()
const {
  list,
  site,
  place,
  direct,
  name,
  isNameOwn,
  told,
  make: makeIt,
} = useNewForm(typeof route.query.list === 'string' ? route.query.list : null)
const { read: ownForm } = direct
const asked = useTemplateRef('asked')

/** Who points at “A new …” goes on to name it. Keys stay where they are: arrows pass by here on their way. */
let isPointing = false as boolean
for (const [about, pick] of [
  ['list', list],
  ['site', site],
] as const)
  watch(
    () => pick.key,
    async (chosen) => {
      if (chosen !== NEW || !isPointing) return
      await nextTick()
      asked.value?.querySelector<HTMLInputElement>(`[data-about="${about}"] .el-form-item input`)?.focus()
    },
  )

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
    <ListQuestion :pick="list" :told="told" :services-host="ownForm === null ? null : direct.host.value" />
    <SiteQuestion :pick="site" :told="told" :is-direct="ownForm !== null" />
    <PlaceQuestion :pick="place" :site="site" :told="told" />

    <fieldset>
      <legend>What does it look like at first?</legend>
      <ShapeTiles
        label="Start shapes"
        :shapes="place.fitting"
        :is-narrow="place.kind === 'sidebar'"
        :chosen="place.shownShape"
        :palette="site.palette ?? quietPalette"
        :language="site.language"
        @choose="place.shape = $event.key"
      />
      <p class="quiet small">
        {{
          site.palette
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
/* The way on stays in reach however long the page is. */
.done {
  position: sticky;
  bottom: 0;
  z-index: 1;
  padding-block: var(--gap-3);
  background: var(--paper);
}
</style>

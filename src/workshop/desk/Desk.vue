<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { ElButton, ElCollapse, ElCollapseItem, ElSkeleton } from 'element-plus'
import { computed, defineAsyncComponent } from 'vue'
import { useRouter } from 'vue-router'
import ArrivalList from './ArrivalList.vue'
import DeskLine from './DeskLine.vue'
import NeedsHand from './NeedsHand.vue'
import StillNeeded from './StillNeeded.vue'
import { isDemo, useWorkspace } from '../data'
import RehearseButton from '../rehearsal/RehearseButton.vue'
import { useReceiver } from '../sync'

/** Seen once, by whoever has no form yet: not loaded with everybody's first screen. */
const FirstSteps = defineAsyncComponent(() => import('./FirstSteps.vue'))

const workspace = useWorkspace()
const router = useRouter()
const receiver = useReceiver()
/** A browser that is new here may get all of it from the receiver first. */
const isEmpty = computed(() => workspace.isLoaded && workspace.forms.length === 0 && (isDemo || receiver.sync !== null))
const inUse = computed(() => workspace.forms.filter(({ isArchived }) => !isArchived))
const spotsInUse = computed(() => inUse.value.flatMap(({ id }) => workspace.spotsOf(id)))
const archived = computed(() => workspace.forms.filter(({ isArchived }) => isArchived))
</script>

<template>
  <div class="page desk">
    <section class="lines" aria-labelledby="lines-title">
      <div class="page-head">
        <h1 id="lines-title">Forms and their lines</h1>
        <span class="row">
          <RehearseButton v-if="workspace.forms.length > 0" :spots="spotsInUse" label="Rehearse everything" />
          <ElButton v-if="workspace.forms.length > 0" type="primary" @click="router.push('/new')"
            ><Plus :size="18" /><span>New form</span></ElButton
          >
        </span>
      </div>
      <FirstSteps v-if="isEmpty" />
      <ElSkeleton v-else-if="workspace.forms.length === 0" :rows="6" animated />
      <ul v-else>
        <DeskLine v-for="form in inUse" :key="form.id" :form="form" />
      </ul>
      <ElCollapse v-if="archived.length > 0" class="archived">
        <ElCollapseItem :title="`Archived, ${archived.length}`">
          <ul>
            <DeskLine v-for="form in archived" :key="form.id" :form="form" />
          </ul>
        </ElCollapseItem>
      </ElCollapse>
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
ul {
  display: grid;
  gap: var(--gap-3);
  margin: 0;
  padding: 0;
  list-style: none;
}
.archived {
  margin-top: var(--gap-4);
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

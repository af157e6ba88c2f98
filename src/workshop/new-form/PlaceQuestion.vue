<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, toRefs } from 'vue'
import { completedAddress } from '#core/site'
import { spotKinds } from '#core/spot'
import Choice from '../controls/Choice.vue'
import Labelled from '../controls/Labelled.vue'
import PopUpRules from '../form/spot/PopUpRules.vue'
import type { ShownProblems } from './new-form'
import type { PlacePick } from './place-pick'
import type { SitePick } from './site-pick'

/** Where on its site a new form will stand. */
const { pick, site } = defineProps<{ pick: PlacePick; site: SitePick; told: ShownProblems }>()
const { kind, page, popUp } = toRefs(pick)
const spotKind = computed(() => spotKinds.find((one) => one.kind === kind.value)!)
// What a site cannot take is not offered as if.
const kindChoices = computed(() =>
  spotKinds
    .filter((one) => one.kind !== 'pop-up' || pick.noPopUp === null || kind.value === 'pop-up')
    .map(({ kind, name }) => ({ value: kind, label: name })),
)
</script>

<template>
  <fieldset>
    <legend>Where on the site?</legend>
    <Choice v-model="kind" name="kind" label="Where on the site?" :options="kindChoices" />
    <div v-if="kind === 'pop-up' && pick.noPopUp" class="row cannot" role="alert">
      <span class="problem">{{ pick.noPopUp }} What works there:</span>
      <ElButton size="small" @click="kind = 'landing'">A landing page to link to</ElButton>
      <ElButton size="small" @click="kind = 'inline'">A place in the text</ElButton>
    </div>
    <template v-else>
      <p class="quiet small">
        {{ spotKind.explanation }}
        <template v-if="pick.becomesLink">
          This kind of site takes forms out, so what stands there is a link to the form’s own page.
        </template>
        <template v-if="pick.noPopUp">A pop-up is not offered: {{ pick.noPopUp }}</template>
      </p>
      <PopUpRules v-if="kind === 'pop-up'" name="new" :rules="popUp" @change="popUp = $event" />
      <Labelled
        v-else-if="kind !== 'landing' && !(site.reach && site.isTried)"
        label="Address of the page, if you know it already"
        :problem="told?.page"
      >
        <ElInput
          v-model="page"
          type="url"
          :placeholder="site.chosen?.address ?? 'https://'"
          @change="page = completedAddress(page)"
        />
      </Labelled>
    </template>
  </fieldset>
</template>

<style scoped>
.cannot {
  gap: var(--gap-2);
}
.cannot .el-button {
  margin: 0;
}
</style>

<script setup lang="ts">
import { ElButton, ElCheckbox } from 'element-plus'
import { computed } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import type { ListId } from '#core/ids'
import { abilitiesOf, placeOf, serviceOf } from '#core/connection'
import Choice from '../controls/Choice.vue'
import Labelled from '../controls/Labelled.vue'
import { useWorkspace } from '../data'
import Nowhere from '../Nowhere.vue'
import { useNotices } from '../notices'
import { useTitle } from '../title'
import ConnectionPick from './ConnectionPick.vue'
import FieldsSide from './FieldsSide.vue'
import { useNewHandOver } from './new-hand-over'
import { useOutside } from '.'
import TheirLists from './TheirLists.vue'
import TrialSteps from './TrialSteps.vue'
import Page from '../controls/Page.vue'

const props = defineProps<{ id: string }>()
const workspace = useWorkspace()
const outside = useOutside()
void outside.look()
const notices = useNotices()
const router = useRouter()
const list = computed(() => workspace.list(props.id as ListId))
useTitle(() => (list.value === null ? null : `Hand on ${list.value.name}`))
const inHand = useNewHandOver(() => list.value!)
const { way, isBusy, problem, moment, confirmsThere, sendsTags, tried, isReady } = inHand

const ourMail = computed(() => workspace.mail(props.id as ListId)?.published ?? null)
const confirmsHere = computed(() => ourMail.value !== null && ourMail.value.confirm !== 'never')
const can = computed(() => (way.value === null ? null : abilitiesOf(way.value)))
const canAsk = computed(() => way.value !== null && serviceOf(way.value)?.confirms === true)

async function keep(): Promise<void> {
  const handOver = await inHand.keep()
  if (handOver === null) return
  notices.done('From now on, who joins goes there as well.')
  await router.push({ name: 'hand-over', params: { id: props.id, handOver: handOver.id } })
}
</script>

<template>
  <Nowhere v-if="workspace.isLoaded && list === null" />
  <Page v-else-if="list" class="whole" title="Hand this list on">
    <template #above
      ><RouterLink :to="{ name: 'list', params: { id: list.id } }">{{ list.name }}</RouterLink></template
    >
    <p v-if="outside.client === null" class="problem sheet told">
      People are handed on by the computer where Ask Box runs. Connect this browser with it first.
    </p>
    <template v-else>
      <ConnectionPick :in-hand="inHand" />
      <p v-if="problem" class="problem sheet told" role="alert">{{ problem }}</p>
      <TheirLists v-if="inHand.lists.value" :in-hand="inHand" />
      <template v-if="way && can && (!can.canBeAsked || inHand.theirList.value)">
        <FieldsSide v-if="can.hasFields" :in-hand="inHand" :list="list" />
        <section class="rules" aria-labelledby="when-title">
          <h2 id="when-title">When, and with what</h2>
          <Choice
            v-if="can.takesPeople"
            v-model="moment"
            name="moment"
            label="When somebody goes there"
            :options="[
              { value: 'confirmed', label: 'Once they are on the list for good' },
              { value: 'joined', label: 'At once, though they have yet to confirm' },
            ]"
          />
          <ElCheckbox v-if="can.takesTags" v-model="sendsTags" label="With their tags" />
          <Labelled v-if="canAsk" label="Who sends the mail to confirm">
            <Choice
              :model-value="confirmsThere ? 'there' : 'here'"
              name="confirms"
              label="Who sends the mail to confirm"
              :options="[
                { value: 'here', label: confirmsHere ? 'This list does' : 'Nobody does' },
                { value: 'there', label: `${placeOf(way)} does`, disabled: confirmsHere },
              ]"
              @update:model-value="confirmsThere = $event === 'there'"
            />
            <p class="quiet small">
              {{
                confirmsHere
                  ? 'This list asks by mail already: nobody is asked twice. To have the service ask, switch that off on the list’s mail first.'
                  : 'This list does not ask by mail, so the service may.'
              }}
            </p>
          </Labelled>
        </section>
        <TrialSteps v-if="can.takesPeople" :in-hand="inHand" />
        <div class="row">
          <ElButton type="primary" :loading="isBusy" :disabled="!isReady" @click="keep()">Hand this list on</ElButton>
          <span class="quiet small">
            {{
              tried === null
                ? 'From then on. Who is on the list already is asked about next.'
                : 'Who is on the list already is asked about next.'
            }}
          </span>
        </div>
      </template>
    </template>
  </Page>
</template>

<style scoped>
.whole {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-5);
  max-width: 1000px;
}
.told {
  margin: 0;
  padding: var(--gap-3) var(--gap-4);
}
.rules {
  display: grid;
  gap: var(--gap-3);
  justify-items: start;
}
h2 {
  margin: 0;
}
</style>

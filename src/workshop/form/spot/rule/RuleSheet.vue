<script setup lang="ts">
import { ElButton, ElCollapse, ElCollapseItem } from 'element-plus'
import { computed, ref, watch } from 'vue'
import type { FormContent } from '#core/form'
import { sameValue } from '#core/json'
import { type Placing, type Rule, ruleWords, startRule } from '#core/rule'
import type { Site } from '#core/site'
import type { Spot } from '#core/spot'
import { shownPage } from '../../../controls'
import Labelled from '../../../controls/Labelled.vue'
import Select from '../../../controls/Select.vue'
import { useNotices } from '../../../notices'
import ChosenPagesInput from '../ChosenPagesInput.vue'
import { useSpotChanges } from '../spot-changes'
import { meaningOf } from './meaning-of'
import PagePicture from './PagePicture.vue'
import RulePlace from './RulePlace.vue'
import RuleWho from './RuleWho.vue'
import { useSamplePages } from './sample-pages'
import { selectorOf, selectorOfAlike } from './selector-of'

/** The rule by which the shared line puts a form: said in one sentence, set beside a picture of the real page, published. */
const { spot, site, content } = defineProps<{ spot: Spot; site: Site; content: FormContent; isPublished: boolean }>()
const notices = useNotices()
const changes = useSpotChanges()

const placing = computed((): Placing => spot.placing ?? { draft: startRule, published: null })
const rule = computed(() => placing.value.draft)
const isSame = computed(() => placing.value.published !== null && sameValue(placing.value.published, rule.value))
const set = (part: Partial<Rule>) =>
  void changes.change(spot, { placing: { ...placing.value, draft: { ...rule.value, ...part } } })

async function publish(published: Rule | null, said: string): Promise<void> {
  const before = placing.value
  const isTold = await changes.change(spot, { placing: { draft: rule.value, published } })
  notices.done(
    isTold ? said : 'It is kept here, and reaches pages when Ask Box is reached, which happens by itself.',
    () => void changes.change(spot, { placing: before }),
  )
}

const { addresses, pages, isReading } = useSamplePages(
  () => spot,
  () => site,
  rule,
)
const looked = ref('')
watch(addresses, (all) => !all.includes(looked.value) && (looked.value = all[0] ?? ''), { immediate: true })
const options = computed(() => addresses.value.map((address) => ({ value: address, label: shownPage(address) })))

const alike = ref<string | null>(null)
/** The selector of the pressed part where the rule says by its place in the text what it is. */
const pressed = ref<string | null>(null)
async function choose(part: Element): Promise<void> {
  // What is beside is known only while the page is as it came.
  const meaning = meaningOf(part)
  const [selector, others] = await Promise.all([selectorOf(part), selectorOfAlike(part)])
  alike.value = others
  pressed.value = meaning === null ? null : selector
  if (meaning !== null) return set({ place: meaning, times: 'once' })
  const at = rule.value.place.kind === 'selector' ? rule.value.place.at : 'after'
  set({ place: { kind: 'selector', at, selector }, times: 'once' })
}
function placesWords({ places, problem }: (typeof pages.value)[number]): string {
  if (problem !== '') return problem
  if (places === null) return ''
  if (!places.isMeant) return 'left out by the rule'
  const { forms, found } = places
  if (forms === 0) return 'no place: no form stands there'
  if (rule.value.place.kind === 'selector' && found > forms)
    return `${found.toLocaleString('en-GB')} places, ${forms === 1 ? 'the first is used' : `the first ${forms} are used`}`
  return forms === 1 ? 'one place' : `${forms} places`
}
</script>

<template>
  <section class="rule" aria-label="The rule">
    <div class="said">
      <p class="sentence">{{ ruleWords(rule) }}</p>
      <p class="small" role="status">
        <span v-if="!isPublished" class="quiet">Publish the form first: a rule shows its newest version.</span>
        <span v-else-if="isSame" class="quiet"
          >Visitors’ pages follow it, for who was just there within ten minutes.</span
        >
        <span v-else-if="placing.published" class="problem"
          >Visitors’ pages still follow: {{ ruleWords(placing.published) }}</span
        >
        <span v-else class="quiet">It is not published: no page shows the form yet.</span>
      </p>
      <div class="row">
        <ElButton
          type="primary"
          :disabled="isSame || !isPublished || undefined"
          @click="publish(rule, 'The rule is published. Nothing has to be pasted.')"
          >Publish the rule</ElButton
        >
        <ElButton v-if="placing.published" text @click="publish(null, 'The form is on no page by rule now.')"
          >Take it off all pages</ElButton
        >
      </div>
    </div>
    <div class="columns">
      <div class="set">
        <RulePlace :rule="rule" :name="spot.id" :alike="alike" :pressed="pressed" @change="set" />
        <ChosenPagesInput :pages="rule.pages" :name="`rule-${spot.id}`" @change="set({ pages: $event })" />
        <ElCollapse>
          <ElCollapseItem title="Kinds of pages, and who is asked">
            <RuleWho :rule="rule" :greets="content.known !== undefined" @change="set" />
          </ElCollapseItem>
        </ElCollapse>
        <div v-if="pages.length > 0" class="samples" :aria-busy="isReading">
          <h4>On pages of the site</h4>
          <ul class="small">
            <li v-for="one in pages" :key="one.address">
              <span class="sample">{{ shownPage(one.address) }}</span>
              <span :class="{ problem: one.problem || (one.places?.isMeant && one.places.forms === 0) }">{{
                placesWords(one)
              }}</span>
            </li>
          </ul>
        </div>
        <p class="quiet small">
          Nothing that is seen moves: where the place is in sight when a visitor arrives, the form comes once it is out
          of sight. To have it in the first view, paste the place part instead.
        </p>
      </div>
      <div class="looked">
        <Labelled v-if="options.length > 1" label="Page">
          <Select v-model="looked" label="Page" :options="options" />
        </Labelled>
        <PagePicture v-if="looked" :address="looked" :rule="rule" @choose="choose" />
        <p v-else class="quiet">Give the site its address, in Sites: then its page is shown here.</p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.rule,
.said,
.set,
.looked {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
  align-content: start;
}
.said {
  gap: var(--gap-2);
}
.sentence {
  font-weight: 600;
  font-size: var(--text-l);
  text-wrap: pretty;
  overflow-wrap: anywhere;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 400px) minmax(0, 1fr);
  gap: var(--gap-4) var(--gap-5);
}
.samples ul {
  display: grid;
  gap: 2px;
  margin: var(--gap-1) 0 0;
  padding: 0;
  list-style: none;
}
.samples li {
  display: flex;
  gap: var(--gap-3);
  justify-content: space-between;
}
.sample {
  overflow: hidden;
  min-width: 0;
  text-overflow: ellipsis;
  white-space: nowrap;
}
h4,
p {
  margin: 0;
}
h4 {
  font-size: var(--text-m);
}
@media (max-width: 1000px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

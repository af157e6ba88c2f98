<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import { ref } from 'vue'
import { type Rule, selectorProblem } from '#core/rule'
import Labelled from '../../../controls/Labelled.vue'
import Select from '../../../controls/Select.vue'
import TypedInput from '../../../controls/TypedInput.vue'

/** By which marks a page is left out or taken in, and who is asked on it. */
const { rule } = defineProps<{ rule: Rule; /** Whether the form greets whom it knows. */ greets: boolean }>()
const emit = defineEmits<{ change: [changes: Partial<Rule>] }>()

const who = (changes: Partial<Rule['who']>) => emit('change', { who: { ...rule.who, ...changes } })
const from = [
  { value: 'anywhere', label: 'From anywhere' },
  { value: 'own', label: 'From another page of the site' },
  { value: 'elsewhere', label: 'From elsewhere' },
] as const

const refused = ref<Record<string, string>>({})
const problemOf = (name: string) => (refused.value[name] === undefined ? null : selectorProblem(refused.value[name]))
/** Selectors, one a line; taken when all of them can be used. */
function setSelectors(name: 'has' | 'lacks' | 'members', text: string): void {
  const lines = text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
  const wrong = lines.find((line) => selectorProblem(line) !== null)
  const { [name]: _, ...others } = refused.value
  refused.value = wrong === undefined ? others : { ...others, [name]: wrong }
  if (wrong !== undefined) return
  if (name === 'members') who({ members: lines[0] ?? '' })
  else emit('change', { marks: { ...rule.marks, [name]: lines } })
}
const setCampaigns = (text: string) =>
  who({
    campaigns: text
      .split(/[\n,]/)
      .map((word) => word.trim().slice(0, 60))
      .filter(Boolean)
      .slice(0, 20),
  })
</script>

<template>
  <div class="who">
    <Labelled
      label="Only pages with one of these marks"
      :problem="problemOf('has')"
      hint="Selectors, one a line: body.single-post, html[lang=de]. Empty for all."
    >
      <TypedInput
        :value="refused.has ?? rule.marks.has.join('\n')"
        :is-refused="refused.has !== undefined"
        type="textarea"
        :rows="2"
        @change="setSelectors('has', $event)"
      />
    </Labelled>
    <Labelled label="No pages with one of these" :problem="problemOf('lacks')" hint="Such as body.category-notices.">
      <TypedInput
        :value="refused.lacks ?? rule.marks.lacks.join('\n')"
        :is-refused="refused.lacks !== undefined"
        type="textarea"
        :rows="2"
        @change="setSelectors('lacks', $event)"
      />
    </Labelled>
    <Labelled
      label="Not for members"
      :problem="problemOf('members')"
      hint="What the site sets on a page for who is signed in, as a selector: body.logged-in."
    >
      <TypedInput
        :value="refused.members ?? rule.who.members"
        :is-refused="refused.members !== undefined"
        placeholder="nothing"
        @change="setSelectors('members', $event)"
      />
    </Labelled>
    <Labelled
      label="Only who came by these words"
      hint="Words of a campaign in the page’s address, with commas between."
    >
      <TypedInput :value="rule.who.campaigns.join(', ')" placeholder="everybody" @change="setCampaigns" />
    </Labelled>
    <Labelled label="Where visitors come from">
      <Select
        :model-value="rule.who.from"
        :options="from"
        @update:model-value="$event !== '' && who({ from: $event })"
      />
    </Labelled>
    <ElCheckbox :model-value="rule.who.joined === 'not-asked'" @change="who({ joined: $event ? 'not-asked' : 'asked' })"
      >Who has joined in this browser sees no form{{
        greets ? '; otherwise they see the form’s own greeting' : ''
      }}</ElCheckbox
    >
  </div>
</template>

<style scoped>
.who {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 240px), 1fr));
  gap: var(--gap-2) var(--gap-4);
  align-items: start;
}
.who > .el-checkbox {
  grid-column: 1 / -1;
  height: auto;
  white-space: normal;
}
</style>

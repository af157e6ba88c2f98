<script setup lang="ts">
import { sameValue } from '#core/json'
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { checkup } from '#core/checkup'
import { type Form, type FormContent, type Theme } from '#core/form'
import type { ThemeId } from '#core/ids'
import Labelled from '../../../controls/Labelled.vue'
import Select from '../../../controls/Select.vue'
import type { Draft } from '../../draft'
import { useTrialsBeside } from '../../trials-beside'
import { useNotices } from '../../../notices'
import { useSubjects } from '../../../line/line'
import { useThemes, useWorkspace } from '../../../data'
import { useReceiver } from '../../../sync'

/** A look under a name that forms share. What a change to it reaches is shown before it is made. */
const { form, content, draft } = defineProps<{ form: Form; content: FormContent; draft: Draft }>()

const workspace = useWorkspace()
const receiver = useReceiver()
const themes = useThemes()
const notices = useNotices()
const subjects = useSubjects()
const trials = useTrialsBeside()
/** Of the forms that would be published. */
const trialsThere = computed(() => trials.goingOn(waiting.value.map(({ id }) => id)))
const name = ref('')
const isNaming = ref(false)
const theme = computed(() => themes.theme(draft.theme.value))
const choices = computed(() => [
  { value: '', label: 'a look of its own' },
  ...themes.themes.map((one) => ({ value: String(one.id), label: one.name })),
])
const withoutCss = (look: FormContent['look']) => ({ ...look, custom: null })
const differs = computed(
  () => theme.value !== null && !sameValue(withoutCss(theme.value.look), withoutCss(content.look)),
)
const others = computed(() =>
  theme.value === null ? [] : themes.formsWith(theme.value.id).filter(({ id }) => id !== form.id),
)
/** Forms that show visitors another look than the theme's, until they are published. */
const waiting = computed(() =>
  theme.value === null
    ? []
    : themes
        .formsWith(theme.value.id)
        .filter(
          (one) =>
            workspace.latestVersion(one.id) !== null &&
            !sameValue(withoutCss(workspace.latestVersion(one.id)!.content.look), withoutCss(one.draft.look)),
        ),
)

/** Puts a look on; the form's own CSS stays. */
function wear({ id, look }: Theme, step: string): void {
  draft.change(step, 'theme', (changed) => (changed.look = { ...look, custom: changed.look.custom }), { theme: id })
}

function choose(id: string): void {
  const chosen = themes.themes.find((one) => one.id === id)
  if (chosen === undefined) draft.change('Have a look of its own', 'theme', () => {}, { theme: null })
  else wear(chosen, `Take the theme “${chosen.name}”`)
}

async function keep(): Promise<void> {
  if (name.value.trim() === '') return
  const made = await themes.makeTheme(name.value.trim().slice(0, 200), content.look)
  await draft.change(`Keep the look as the theme “${made.name}”`, 'theme', () => {}, { theme: made.id })
  isNaming.value = false
  name.value = ''
  notices.done(`The look is kept as the theme “${made.name}”.`)
}

async function changeTheme(id: ThemeId, before: FormContent['look']): Promise<void> {
  await themes.changeTheme(id, content.look)
  notices.done(
    `The theme is changed, and with it ${countOf(others.value.length + 1)}. Visitors see it when they are published.`,
    () => themes.changeTheme(id, before),
  )
}

async function forget(id: ThemeId, called: string): Promise<void> {
  const bringBack = await themes.deleteTheme(id)
  notices.done(`The theme “${called}” is forgotten. Its forms keep their look as their own.`, bringBack)
}

/** Each by itself: a form with something that stops publishing stays as visitors see it now, and is named. */
async function publishAll(): Promise<void> {
  const left: string[] = []
  const published = waiting.value.map(({ id }) => id)
  let count = 0
  for (const one of [...waiting.value]) {
    const stopping = stops(one)
    if (stopping !== null) {
      left.push(`“${one.name}”: ${stopping}`)
      continue
    }
    try {
      await receiver.publish([{ kind: 'form', key: one.id }])
      count += 1
    } catch (error) {
      left.push(`“${one.name}”: ${error instanceof Error ? error.message : 'no answer'}`)
      break
    }
  }
  if (left.length > 0)
    notices.problem(
      `${count === 0 ? 'None' : count === 1 ? 'One form' : `${count} forms`} published. Not published: ${left.join(' ')}`,
    )
  else {
    const going = trials.goingOn(published)
    notices.done(
      `All forms with this theme are published.${trials.words(going)}`,
      undefined,
      undefined,
      trials.ways(going),
    )
  }
}

/** What keeps a form from being published, in words; null when nothing does. */
function stops(one: Form): string | null {
  return checkup(subjects.of(one)).find(({ weight }) => weight === 'stops')?.message ?? null
}

function countOf(forms: number): string {
  return forms === 1 ? 'one form' : `${forms} forms`
}
</script>

<template>
  <div class="theme">
    <Labelled label="Theme">
      <Select :model-value="theme?.id ?? ''" :options="choices" @update:model-value="choose" />
    </Labelled>
    <template v-if="theme">
      <template v-if="differs">
        <p class="small">
          This form’s look differs from “{{ theme.name }}”.
          <template v-if="others.length">
            Putting it into the theme also changes: {{ others.map((one) => one.name).join('; ') }}.</template
          >
        </p>
        <div class="row">
          <ElButton size="small" type="primary" @click="changeTheme(theme.id, theme.look)"
            >Put it into the theme</ElButton
          >
          <ElButton size="small" @click="wear(theme, `Go back to the theme “${theme.name}”`)"
            >Go back to the theme</ElButton
          >
        </div>
      </template>
      <p v-else class="quiet small">
        {{
          others.length ? `Shared with ${others.map((one) => one.name).join('; ')}.` : 'No other form shares it yet.'
        }}
      </p>
      <p v-if="!differs && waiting.length > 0 && trialsThere.length > 0" class="small">
        {{ trials.words(trialsThere).trim() }}
        <RouterLink v-for="one in trialsThere" :key="one.id" :to="{ name: 'trials', params: { id: one.form } }"
          >End it first, so that its visitors get the theme too</RouterLink
        >
      </p>
      <div v-if="!differs" class="row">
        <ElButton v-if="waiting.length" size="small" @click="publishAll"
          >Publish {{ countOf(waiting.length) }} with this theme</ElButton
        >
        <ElButton size="small" text @click="forget(theme.id, theme.name)">Forget this theme</ElButton>
      </div>
    </template>
    <form novalidate v-else-if="isNaming" class="row" @submit.prevent="keep">
      <ElInput v-model="name" class="name" aria-label="Name of the theme" placeholder="Name of the theme" />
      <ElButton size="small" type="primary" native-type="submit">Keep it</ElButton>
      <ElButton size="small" text @click="isNaming = false">Cancel</ElButton>
    </form>
    <div v-else><ElButton size="small" @click="isNaming = true">Keep this look as a theme</ElButton></div>
  </div>
</template>

<style scoped>
.theme {
  display: grid;
  gap: var(--gap-2);
  padding-bottom: var(--gap-3);
  border-bottom: 1px solid var(--hairline);
}
.name {
  flex: 1;
}
</style>

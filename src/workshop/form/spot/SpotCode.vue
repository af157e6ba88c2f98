<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, provide, ref, watch, watchEffect } from 'vue'
import {
  codeAdvice,
  codeNames,
  codeOf,
  fileName,
  frameAddress,
  isPastedAgain,
  pageAddress,
  pageFile,
  pasteSteps,
  plainCode,
  repeatSteps,
} from '#core/embed'
import { byOlderCode } from '#core/line'
import type { FormContent, Version } from '#core/form'
import { addressProblem, completedAddress, siteKinds, type Site } from '#core/site'
import type { CodeKind, Spot } from '#core/spot'
import Changes from '../../controls/Changes.vue'
import Choice from '../../controls/Choice.vue'
import { handToDownloads, lowerFirst } from '../../controls'
import Labelled from '../../controls/Labelled.vue'
import TypedInput from '../../controls/TypedInput.vue'
import { useOlderCode } from './older-code'
import { useReceiver } from '../../sync'
import { codeTaken } from '../../embed/code-taken'
import type { NoticeWay } from '../../notices'
import { noteMended, useRehearseAgain } from '../../rehearsal/again'
import CodeBlock from '../../embed/CodeBlock.vue'
import BuiltWith from './BuiltWith.vue'
import DrawnByHand from './DrawnByHand.vue'
import FrameCode from './FrameCode.vue'
import LinkCode from './LinkCode.vue'
import ScriptCode from './ScriptCode.vue'
import { standInPlace } from '../../embed/stand-in'

/** What is put at a spot within a site's pages, and how it gets there. */
const {
  spot,
  site,
  version: published,
  content,
} = defineProps<{ spot: Spot; site: Site | null; version: Version | null; content: FormContent }>()
const emit = defineEmits<{ change: [changes: Partial<Pick<Spot, 'code' | 'page'>>] }>()
const receiver = useReceiver()
/** A form that posts straight to a service needs nobody to be published for: its code is what is drawn now. */
const isDirect = computed(() => content.direct !== undefined)
const version = computed(() =>
  isDirect.value ? { content, number: published?.number ?? 1, publishedAt: '' } : published,
)

const built = computed(() => site ?? { kind: 'other' as const })
const kindName = computed(() => lowerFirst(siteKinds.find(({ kind }) => kind === built.value.kind)?.name ?? ''))
const advice = computed(() => {
  const all = codeAdvice(spot, built.value)
  return isDirect.value ? { ...all, works: all.works.filter(({ kind }) => isWhole(kind)) } : all
})
/** Code that needs no receiver beside it. */
const isWhole = (kind: CodeKind) => kind === 'plain' || kind === 'in-tags'
const chosen = computed(() => {
  const code = codeOf(spot, built.value)
  return !isDirect.value || isWhole(code) ? code : (advice.value.works[0]?.kind ?? 'plain')
})
/** Another kind that its owner looks at: nothing is changed by looking, only by taking it. */
const looked = ref<CodeKind | null>(null)
watch([() => spot.id, chosen], () => (looked.value = null))
const shown = computed(() => looked.value ?? chosen.value)
const reason = computed(() => advice.value.works.find(({ kind }) => kind === shown.value)?.reason ?? '')
const codes = computed(() =>
  advice.value.works.map(({ kind }, at) => ({
    value: kind,
    label: `${codeNames[kind]}${at === 0 && advice.value.works.length > 1 ? ' (works best)' : ''}`,
  })),
)
const steps = computed(() => (spot.kind === 'landing' ? [] : pasteSteps(built.value, spot.kind, shown.value)))
/** Where no rule can put it on all pages. */
const repeats = computed(() => (spot.kind === 'landing' || spot.kind === 'pop-up' ? [] : repeatSteps(built.value)))
const placed = computed(() =>
  version.value === null || (receiver.publicUrl === null && !isDirect.value)
    ? null
    : {
        content: version.value.content,
        form: spot.form,
        version: version.value.number,
        spot: spot.id,
        receiver: receiver.publicUrl ?? '',
      },
)
const again = useRehearseAgain()
const olderCode = useOlderCode()
const older = computed(() => (isDirect.value || published === null ? 0 : olderCode.count(spot.form, spot)))
const pasted = ref<string | null>(null)
watchEffect(async () => {
  const [form, code] = [placed.value, shown.value]
  if (form === null) pasted.value = null
  else if (code === 'plain') pasted.value = plainCode(form)
  else if (code === 'in-tags') pasted.value = (await import('#core/inlining')).inTagsCode(form)
})
const pageProblem = computed(() => (spot.page.trim() === '' ? null : addressProblem(spot.page)))

const directHost = computed(() => (content.direct === undefined ? '' : new URL(content.direct.action).host))

/** A page of its own with the form, to host anywhere. */
function saveFile(): void {
  if (placed.value === null || version.value === null) return
  const text = pageFile(
    { spot, version: { ...version.value, form: spot.form }, site, receiver: placed.value.receiver },
    () => undefined,
  )
  handToDownloads({ blob: new Blob([text], { type: 'text/html' }), name: `${fileName(spot)}.html` })
}

const look = (code: CodeKind | '') => code !== '' && (looked.value = code)
/** Another kind of code at the same place. What is pasted there already goes on working. */
async function take(seenAt?: string): Promise<NoticeWay[]> {
  const page = seenAt !== undefined && spot.page === '' ? { page: seenAt } : null
  const code = shown.value === chosen.value ? null : { code: shown.value }
  if (page !== null || code !== null) emit('change', { ...page, ...code })
  noteMended(spot.id, 'its code was taken anew')
  return again.offer([spot])
}
provide(codeTaken, take)
</script>

<template>
  <div class="how">
    <BuiltWith v-if="site !== null && site.kind === 'other' && site.profile === undefined" :site="site" />
    <Choice
      v-if="codes.length > 1"
      :model-value="shown"
      :name="`code-${spot.id}`"
      label="What is put there"
      is-quiet
      :options="codes"
      @update:model-value="look"
    />
    <p class="quiet small">
      {{ reason }}
      <template v-for="one in advice.ruledOut" :key="one.kind">
        {{ codeNames[one.kind] }} does not work there: {{ one.reason }}
      </template>
    </p>
    <Changes>
      <div v-if="shown !== chosen" class="row looking" role="status">
        <span>The spot is set to “{{ codeNames[chosen] }}”, which checks and rehearsals look for.</span>
        <ElButton size="small" @click="take()">Use this one</ElButton>
      </div>
    </Changes>
    <p v-if="isDirect && content.direct" class="small">
      It posts straight to {{ directHost }}, with no receiver between. Whether sign-ups arrive is seen there alone: sign
      up on the page, and look for yourself in that list.
    </p>
    <p v-if="older > 0 && version" class="again">
      {{ byOlderCode(older) }}
    </p>
    <p v-else-if="version && !isPastedAgain(shown)" class="small">
      Pasted once, it follows: changed words and looks need no pasting again.
    </p>
    <p v-if="placed === null || version === null" class="quiet">The code appears here when the form is published.</p>
    <CodeBlock
      v-else-if="(shown === 'plain' || shown === 'in-tags') && pasted !== null"
      :title="`${shown === 'plain' ? 'Plain code' : 'Plain code, styles in its tags'}${isDirect ? '' : `, version ${version.number}`}`"
      :text="pasted"
      :paste="standInPlace(spot, site)"
      label="The code"
      copy-words="Copy the code"
      is-main
      is-folded
    />
    <ScriptCode
      v-else-if="(shown === 'script' || shown === 'rule') && site !== null"
      :by-rule="shown === 'rule'"
      :spot="spot"
      :site="site"
      :content="version.content"
      :receiver="placed.receiver"
    />
    <FrameCode
      v-else-if="shown === 'frame'"
      :spot="spot"
      :content="version.content"
      :address="frameAddress(placed.receiver, spot.id)"
      :paste="standInPlace(spot, site)"
    />
    <LinkCode
      v-else-if="shown === 'link'"
      :content="version.content"
      :address="pageAddress(placed.receiver, spot.slug ?? spot.id)"
      :paste="standInPlace(spot, site)"
    />
    <div v-if="isDirect" class="row">
      <ElButton size="small" @click="saveFile()">Save it as a page in one file</ElButton>
    </div>
    <h4>Onto the page{{ built.kind === 'other' ? '' : ` · ${kindName}` }}</h4>
    <ol>
      <li v-for="step in steps" :key="step">{{ step }}</li>
    </ol>
    <template v-if="repeats.length > 0">
      <h4>On many pages at once</h4>
      <ul>
        <li v-for="step in repeats" :key="step">{{ step }}</li>
      </ul>
    </template>
    <DrawnByHand
      v-if="!isDirect && version && placed"
      :content="version.content"
      :receiver="placed.receiver"
      :spot="spot.id"
    />
    <Changes>
      <Labelled
        label="Address of the page it sits on"
        :problem="pageProblem"
        hint="Browsers often tell only the site; this names the page in your list."
      >
        <TypedInput
          :value="spot.page"
          type="url"
          :placeholder="site?.address"
          @change="emit('change', { page: completedAddress($event) })"
        />
      </Labelled>
    </Changes>
  </div>
</template>

<style scoped>
.how {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  align-content: start;
}
p {
  margin: 0;
}
.looking {
  gap: var(--gap-3);
  font-size: var(--text-s);
}
.again {
  color: var(--raspberry);
}
h4 {
  margin: var(--gap-2) 0 0;
  font-size: var(--text-m);
}
.how > .el-form-item {
  margin-top: var(--gap-2);
}
ol,
ul {
  display: grid;
  gap: var(--gap-1);
  margin: 0;
  padding-inline-start: 1.1em;
}
</style>

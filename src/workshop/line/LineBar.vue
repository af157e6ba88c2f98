<script setup lang="ts">
import { type Station, stationNames } from '#core/station'
import { ChevronDown } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { FormContent } from '#core/form'
import type { FormId } from '#core/ids'
import { type Signal, type StationState, signalWords } from '#core/line'
import type { Member } from '#core/list'
import type { MailSettings } from '#core/mail'
import { spotName } from '#core/spot'
import { readSetting, useWorkspace, writeSetting } from '../data'
import { vHint } from '../controls'
import SignalArm from './SignalArm.vue'
import StationPreview from './StationPreview.vue'

/** The line: a form's whole round trip, each station a small preview of the real thing under its signal. */
const {
  form,
  content,
  isLanding,
  mail,
  risen = null,
} = defineProps<{
  form: FormId
  content: FormContent
  line: StationState[]
  current: Station
  newest: readonly Member[]
  /** Whether everybody was read, so that none among `newest` means nobody. */
  isKnown: boolean
  listName: string
  /** The list's mail as it is written; null where it sends none. */
  mail: MailSettings | null
  isLanding: boolean
  /** While a rehearsal goes on: how far it has come. */
  risen?: Record<Station, { signal: Signal; seen: string | null }> | null
}>()
/** One strip of signals, so that what is worked on stands high. Null until it is read; whole until it was explained. */
const isFolded = ref<boolean | null>(null)
const isNew = ref(false)
void readSetting('isLineFolded').then((kept) => {
  isNew.value = kept === undefined
  isFolded.value = kept ?? false
})
async function fold(value: boolean): Promise<void> {
  isFolded.value = value
  isNew.value = false
  await writeSetting('isLineFolded', value)
}

const workspace = useWorkspace()
/** Which spot a state is that of, where the spots differ. */
function worstSpotOf({ spot, reason }: StationState): string | null {
  const place = spot === null ? null : workspace.spot(spot)
  const name = place === null ? null : spotName(place, workspace.sites)
  return name !== null && reason.startsWith(`${name}: `) ? name : null
}
</script>

<template>
  <div v-if="isNew" class="explained">
    <p>
      <b>This is the line of your form:</b> where it stands, the form, what visitors read next, the mail, and the list.
      Press a station to work on it; its arm goes up once it is ready, and stands upright once it was tried and held.
    </p>
    <ElButton size="small" @click="fold(true)">Understood: fold it to a strip</ElButton>
  </div>
  <nav class="line" :class="{ folded: isFolded !== false }" aria-label="The line: stations of this form">
    <RouterLink
      v-for="state in line"
      :key="state.station"
      class="station"
      :class="{ current: state.station === current }"
      :to="{ name: 'form', params: { id: form, station: state.station } }"
      :aria-current="state.station === current ? 'page' : undefined"
      v-hint="state.reason"
      replace
    >
      <StationPreview
        v-if="isFolded === false"
        class="picture"
        :station="state.station"
        :form="form"
        :content="content"
        :is-landing="isLanding"
        :mail="mail"
        :newest="newest"
        :is-known="isKnown"
        :list-name="listName"
      />
      <span class="sign">
        <SignalArm :signal="risen?.[state.station].signal ?? state.signal" />
        <span class="name">
          <b>{{ stationNames[state.station] }}</b>
          <template v-if="risen"
            ><span class="seen">{{
              risen[state.station].seen ??
              (state.station === 'mail' && mail === null ? 'no mail is sent' : 'not reached yet')
            }}</span></template
          >
          <template v-else>
            <span class="state" :class="state.signal">{{ signalWords[state.signal] }}</span>
            <span v-if="worstSpotOf(state)" class="where">{{ worstSpotOf(state) }}</span>
          </template>
        </span>
      </span>
    </RouterLink>
    <ElButton
      v-hint="isFolded ? 'Show each station as it looks' : 'Fold the line to a strip'"
      text
      class="fold"
      :aria-expanded="isFolded === false"
      aria-label="The line with its previews"
      @click="fold(isFolded === false)"
      ><ChevronDown :size="18"
    /></ElButton>
  </nav>
</template>

<style scoped>
.explained {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2) var(--gap-4);
  align-items: center;
  margin-bottom: var(--gap-3);
}
.explained p {
  flex: 1 1 480px;
}
.line {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr)) 28px;
  gap: var(--gap-4);
  position: relative;
  padding-bottom: 3px;
}
/* The track that the stations stand on. */
.line::after {
  content: '';
  position: absolute;
  inset: auto 0 0;
  border-bottom: 3px solid var(--ink);
}
.station {
  display: block;
  color: var(--ink);
  text-decoration: none;
}
.picture {
  display: block;
  height: 92px;
  overflow: hidden;
  border: 1px solid var(--hairline);
  border-radius: var(--corner);
  background: var(--sheet);
}
.station:hover .picture {
  border-color: var(--edge);
}
.current .picture {
  outline: 2px solid var(--moss);
  outline-offset: 1px;
}
.sign {
  display: flex;
  align-items: flex-end;
  gap: var(--gap-2);
  padding: var(--gap-2) var(--gap-1) 0;
}
.name {
  display: grid;
  padding-bottom: 3px;
  line-height: 1.2;
}
.current .name b {
  text-decoration: underline;
  text-decoration-thickness: 2px;
  text-decoration-color: var(--moss);
  text-underline-offset: 3px;
}
.state {
  color: var(--quiet);
  font-size: var(--text-s);
}
.state.needs-work,
.state.changed {
  color: var(--raspberry);
}
.state.proven {
  color: var(--moss);
}
.seen {
  overflow: hidden;
  color: var(--quiet);
  font-size: var(--text-s);
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name {
  min-width: 0;
}
.where {
  color: var(--quiet);
  font-size: 0.75rem;
}
.fold {
  align-self: end;
  width: 28px;
  padding: 0;
  color: var(--quiet);
}
.line:not(.folded) .fold svg {
  transform: rotate(180deg);
}
/* One strip: what stands under an arm goes beside it. */
.folded {
  min-height: 51px;
}
.folded .sign {
  padding-top: 0;
}
.folded .where {
  display: none;
}
.folded .current .name b {
  font-weight: 700;
}
/* Where there is no room for pictures, the line stays whole: signals and names side by side. */
@media (max-width: 640px) {
  .line {
    grid-template-columns: repeat(5, minmax(0, 1fr));
    gap: var(--gap-1);
  }
  .picture,
  .fold {
    display: none;
  }
  .sign {
    display: grid;
    padding: var(--gap-1) 0 0;
    gap: 0;
  }
  .sign :deep(svg) {
    margin-inline-start: -6px;
  }
  .name {
    order: -1;
    align-content: start;
    min-height: 3.2rem;
  }
}
</style>

<script setup lang="ts">
import { computed, defineAsyncComponent, ref, watchEffect } from 'vue'
import { RouterLink, RouterView, useRouter } from 'vue-router'
import { ElButton, ElConfigProvider, ElSkeleton } from 'element-plus'
import en from 'element-plus/es/locale/lang/en'
import { useEventListener, whenever } from '@vueuse/core'
import { hinted, provideLooksOn } from '../controls'
import PairingOffer from './PairingOffer.vue'
import { useRehearsal } from '../rehearsal/store'
import { useReceiver, useWaiting } from '../sync'
import { isDemo, saveAgain, savingProblem, useWorkspace } from '../data'

// It comes with the first thing that is pointed at, and stays.
const Hint = defineAsyncComponent(() => import('../controls/Hint.vue'))
const GoAnywhere = defineAsyncComponent(() => import('./GoAnywhere.vue'))
const Contradictions = defineAsyncComponent(() => import('./Contradictions.vue'))
const LooksOnBar = defineAsyncComponent(() => import('./LooksOnBar.vue'))
const DemoBar = defineAsyncComponent(() => import('./DemoBar.vue'))
const UnpairedBar = defineAsyncComponent(() => import('./UnpairedBar.vue'))
const PairFirst = defineAsyncComponent(() => import('./PairFirst.vue'))
const RehearsalDock = defineAsyncComponent(() => import('../rehearsal/RehearsalDock.vue'))
const receiver = useReceiver()
provideLooksOn(computed(() => receiver.looksOn))
const workspace = useWorkspace()
const waiting = useWaiting()
const isNothingHere = computed(() => workspace.lists.length + workspace.sites.length + workspace.forms.length === 0)
const rehearsal = useRehearsal()
/** In the head of every page: whether all is saved, and what is not yet. */
const state = computed(() => {
  if (onTheWay.value === '') return receiver.words
  return receiver.isLinked ? `${onTheWay.value} on the way` : `${receiver.words}, ${onTheWay.value} kept here`
})
const onTheWay = computed(() =>
  waiting.count === 0 || receiver.pairing === null ? '' : waiting.count === 1 ? '1 change' : `${waiting.count} changes`,
)

const prefersDark = matchMedia('(prefers-color-scheme: dark)')
const applyScheme = () => {
  const scheme = receiver.scheme ?? 'system'
  document.documentElement.classList.toggle('dark', scheme === 'dark' || (scheme === 'system' && prefersDark.matches))
}
watchEffect(applyScheme)
prefersDark.addEventListener('change', applyScheme)

const isHinting = ref(false)
whenever(hinted, () => (isHinting.value = true))

/** Whoever opens a dialog goes on in its first field, not at its cross. */
useEventListener(document, 'focusin', ({ target, relatedTarget }: FocusEvent) => {
  const at = target as HTMLElement
  const dialog = at.closest<HTMLElement>('.el-dialog')
  const isEntered = dialog !== null && !(relatedTarget instanceof Node && dialog.contains(relatedTarget))
  if (!isEntered || !at.matches('.el-dialog, .el-dialog__headerbtn, [tabindex="-1"]')) return
  const fields =
    '.el-dialog__body :is(input:not([type=hidden], [type=radio]:not(:checked)), textarea, select):not(:disabled)'
  dialog.querySelector<HTMLElement>(fields)?.focus()
})

const router = useRouter()
const isGoing = ref(false)
useEventListener('keydown', (event: KeyboardEvent) => {
  const target = event.target as HTMLElement
  // In a text of the preview the same keys make a link.
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k' && !target.closest('[contenteditable]')) {
    event.preventDefault()
    isGoing.value = true
    return
  }
  if (event.ctrlKey || event.metaKey || event.altKey || target.closest('input, textarea, [contenteditable]')) return
  if (event.key === '?') void router.push('/help')
  if (event.key.toLowerCase() === 'n' && !receiver.looksOn) void router.push('/new')
})
</script>

<template>
  <ElConfigProvider :locale="en">
    <a class="skip" href="#main">Skip to the work</a>
    <header class="top">
      <RouterLink class="mark" to="/">
        <svg viewBox="0 0 32 32" width="26" height="26" aria-hidden="true">
          <path d="M3 27h26M12 27V10" fill="none" stroke="currentColor" stroke-width="2.5" stroke-linecap="round" />
          <path d="M12 7.800 25 3.300l1.600 4.600L13.600 12.400z" fill="var(--moss)" />
          <circle cx="12" cy="10" r="2.600" fill="currentColor" />
        </svg>
        Ask Box
      </RouterLink>
      <nav aria-label="Places">
        <RouterLink to="/">Desk</RouterLink>
        <RouterLink to="/lists">Lists</RouterLink>
        <RouterLink to="/write">Letters</RouterLink>
        <RouterLink to="/sites">Sites</RouterLink>
        <RouterLink to="/mail-room">Mail room</RouterLink>
        <RouterLink to="/results">Results</RouterLink>
        <RouterLink to="/settings">Settings</RouterLink>
      </nav>
      <ElButton text class="anywhere" aria-keyshortcuts="Control+K" @click="isGoing = true"
        ><span>Go to …</span> <kbd>Ctrl K</kbd></ElButton
      >
      <RouterLink class="help" to="/help">Help</RouterLink>
      <div
        class="sync"
        :class="{ good: receiver.isLinked, bad: !receiver.isLinked && receiver.sync !== null }"
        role="status"
      >
        <RouterLink to="/settings">{{ state }}</RouterLink>
      </div>
    </header>
    <div v-if="savingProblem" class="unsaved" role="alert">
      <b>Not saved:</b> {{ savingProblem }}. What you wrote stays here while this page is open, and is tried again every
      few seconds.
      <ElButton size="small" @click="saveAgain()">Try now</ElButton>
    </div>
    <DemoBar v-if="isDemo" />
    <LooksOnBar v-if="receiver.looksOn" />
    <PairingOffer />
    <main id="main" tabindex="-1">
      <Contradictions v-if="waiting.conflicts.length + waiting.refused.length > 0" />
      <template v-if="receiver.isLoaded && workspace.isLoaded">
        <PairFirst v-if="receiver.pairing === null && !isDemo && isNothingHere" />
        <template v-else>
          <UnpairedBar v-if="receiver.pairing === null && !isDemo" />
          <RouterView />
        </template>
      </template>
      <ElSkeleton v-else class="page" :rows="6" animated :throttle="150" />
    </main>
    <GoAnywhere v-if="isGoing" @close="isGoing = false" />
    <RehearsalDock v-if="rehearsal.going.length > 0 || rehearsal.round.length > 0 || rehearsal.problem" />
    <Hint v-if="isHinting" />
  </ElConfigProvider>
</template>

<style scoped>
.skip {
  position: absolute;
  left: -9999px;
}
.skip:focus {
  left: var(--gap-3);
  top: var(--gap-3);
  z-index: 10;
  padding: var(--gap-2) var(--gap-3);
  background: var(--sheet);
}
.top {
  display: flex;
  flex-wrap: wrap;
  align-items: stretch;
  gap: 0 var(--gap-5);
  min-height: 52px;
  padding-inline: var(--page-edge);
  border-bottom: 1px solid var(--hairline);
  background: var(--sheet);
}
.mark {
  display: flex;
  align-items: center;
  gap: var(--gap-2);
  color: var(--ink);
  font-size: var(--text-l);
  font-weight: 700;
  text-decoration: none;
  white-space: nowrap;
}
nav {
  display: flex;
  gap: var(--gap-4);
}
nav a {
  display: flex;
  align-items: center;
  padding-inline: var(--gap-1);
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
  color: var(--quiet);
  text-decoration: none;
}
nav a:hover {
  color: var(--ink);
}
nav a.router-link-exact-active,
nav a.router-link-active:not([href='/']) {
  border-bottom-color: var(--moss);
  color: var(--ink);
  font-weight: 600;
}
.anywhere {
  align-self: center;
  margin-inline-start: auto;
  color: var(--quiet);
  font-size: var(--text-s);
  font-weight: 400;
}
.anywhere kbd {
  margin-inline-start: var(--gap-2);
  font-size: 0.75rem;
}
.help {
  align-self: center;
  min-height: 24px;
  color: var(--quiet);
  font-size: var(--text-s);
  line-height: 24px;
  text-decoration: none;
}
.help:hover {
  color: var(--ink);
  text-decoration: underline;
}
.sync {
  display: flex;
  align-items: center;
  gap: var(--gap-2);
  color: var(--quiet);
  font-size: var(--text-s);
}
.sync a {
  /* As high as fingers need: WCAG 2.2, 2.5.8. */
  min-height: 24px;
  line-height: 24px;
  color: inherit;
  text-decoration: none;
}
.sync a:hover {
  text-decoration: underline;
}
.sync::before {
  content: '';
  width: 14px;
  border-top: 2px dashed var(--edge);
}
.sync.good::before {
  border-top: 2px solid var(--moss);
}
.sync.bad {
  color: var(--raspberry);
}
.sync.bad::before {
  border-top-color: var(--raspberry);
}
.unsaved {
  padding: var(--gap-2) var(--page-edge);
  background: var(--raspberry-wash);
  border-bottom: 2px solid var(--raspberry);
}
main:focus {
  outline: none;
}
@media (max-width: 640px) {
  .top {
    gap: 0 var(--gap-3);
  }
  .mark {
    min-height: 44px;
  }
  .anywhere kbd {
    display: none;
  }
  /* All places in one row, as far as they fit. */
  nav {
    order: 1;
    width: 100%;
    flex-wrap: wrap;
    gap: 0;
    justify-content: space-between;
    font-size: clamp(0.75rem, 3.6vw, var(--text-s));
  }
  nav a {
    min-height: 40px;
    padding-inline: 0;
    white-space: nowrap;
  }
}
</style>

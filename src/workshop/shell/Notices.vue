<script setup lang="ts">
import { X } from '@lucide/vue'
import { type Notice, useNotices } from './notices'

const notices = useNotices()

function undo(notice: Notice): void {
  notices.close(notice.id)
  notice.undo?.()
}
</script>

<template>
  <div class="notices" role="log" aria-live="polite">
    <div v-for="notice in notices.notices" :key="notice.id" class="notice" :class="notice.kind">
      <span>{{ notice.text }}</span>
      <button v-if="notice.undo && (notice.canUndo?.() ?? true)" class="undo" type="button" @click="undo(notice)">
        Undo
      </button>
      <button class="close" type="button" aria-label="Close this message" @click="notices.close(notice.id)">
        <X :size="16" />
      </button>
    </div>
  </div>
</template>

<style scoped>
.notices {
  position: fixed;
  inset: auto auto var(--gap-5) var(--gap-5);
  z-index: 3000;
  display: grid;
  gap: var(--gap-2);
  max-width: min(520px, 90vw);
}
.notice {
  display: flex;
  align-items: center;
  gap: var(--gap-3);
  padding: var(--gap-2) var(--gap-2) var(--gap-2) var(--gap-4);
  border-inline-start: 4px solid var(--moss);
  border-radius: var(--corner);
  background: var(--ink);
  color: var(--paper);
  box-shadow: var(--shadow);
}
.notice.problem {
  border-inline-start-color: var(--raspberry);
}
button {
  display: flex;
  min-width: 28px;
  min-height: 28px;
  align-items: center;
  justify-content: center;
  border: 0;
  border-radius: var(--corner);
  background: transparent;
  color: inherit;
  cursor: pointer;
}
button:focus-visible {
  outline-color: var(--paper);
}
.undo {
  padding-inline: var(--gap-2);
  font-weight: 650;
  text-decoration: underline;
  text-underline-offset: 0.2em;
}
.close {
  margin-inline-start: auto;
}
</style>

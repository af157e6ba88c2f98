<script setup lang="ts">
import { RouterLink } from 'vue-router'
import { codeNames, isPastedAgain } from '#core/embed'
import type { Form, Version } from '#core/form'
import { type CodeKind, type Spot, spotKinds } from '#core/spot'
import { lowerFirst, shownPage } from '../controls'
import SpotSignals from './SpotSignals.vue'

/** What stands where on a site: a row a spot, with its line. */
defineProps<{
  rows: readonly { spot: Spot; form: Form; code: CodeKind; version: Version | null }[]
  /** With how each is put there, and on which page. */
  isWhole: boolean
}>()
const placeOf = ({ kind }: Spot) => spotKinds.find((one) => one.kind === kind)?.name ?? kind
</script>

<template>
  <ul class="spots">
    <li v-for="{ spot, form, code, version } in rows" :key="spot.id">
      <span class="place">{{ placeOf(spot) }}</span>
      <RouterLink class="form" :to="{ name: 'form', params: { id: form.id, station: 'spot' } }">{{
        form.name
      }}</RouterLink>
      <SpotSignals v-if="spot.state === 'live'" :spot="spot" />
      <span v-else class="quiet small">{{ spot.state }}</span>
      <p v-if="isWhole" class="quiet small">
        <template v-if="version === null">Nothing is put there yet: the form is not published.</template>
        <template v-else
          >Put there: {{ lowerFirst(codeNames[code]) }}. When its words change:
          {{ isPastedAgain(code) ? 'paste again' : 'shows by itself' }}.
          <template v-if="spot.page !== ''">On {{ shownPage(spot.page) }}.</template></template
        >
      </p>
    </li>
  </ul>
</template>

<style scoped>
.spots {
  display: grid;
  grid-template-columns: 88px minmax(0, 1fr) auto;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: subgrid;
  grid-column: 1 / -1;
  gap: 0 var(--gap-4);
  align-items: center;
  min-height: 34px;
}
li + li {
  border-top: 1px solid var(--hairline);
}
.place {
  color: var(--quiet);
  font-size: var(--text-s);
  white-space: nowrap;
}
.form {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li p {
  grid-column: 2 / -1;
  padding-bottom: var(--gap-1);
}
@media (max-width: 640px) {
  li {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .place {
    grid-column: 1 / -1;
    padding-top: var(--gap-1);
  }
  /* Names of one site's forms differ at their ends. */
  .form {
    padding-bottom: var(--gap-1);
    line-height: 1.3;
    white-space: normal;
  }
  li p {
    grid-column: 1 / -1;
  }
}
</style>

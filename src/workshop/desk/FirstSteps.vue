<script setup lang="ts">
import { stationNames, stations } from '#core/station'
import { ElButton } from 'element-plus'
import { useRouter } from 'vue-router'
import { enterDemo, isDemo } from '../data'
import SignalArm from '../line/SignalArm.vue'
import OpenSavedFile from './OpenSavedFile.vue'

/** The Desk before there is a form: what Ask Box does, drawn as the line that every form will have, and the ways in. */
const router = useRouter()
const will: Record<(typeof stations)[number], string> = {
  spot: 'the place on your site',
  form: 'what you ask for',
  answer: 'what visitors read next',
  mail: 'what you send them',
  list: 'the people who joined',
}
</script>

<template>
  <section class="sheet first" aria-labelledby="first-title">
    <h2 id="first-title">A form on your site, and proof that it works</h2>
    <p>
      Ask Box makes the small form with which visitors leave their address, and puts it on any website. Then it goes the
      whole way for you, from the page to the list, and shows that everything arrives.
    </p>
    <ol class="line" aria-label="The line that every form has">
      <li v-for="station in stations" :key="station">
        <SignalArm signal="empty" :size="40" />
        <b>{{ stationNames[station] }}</b>
        <span class="quiet small">{{ will[station] }}</span>
      </li>
    </ol>
    <p class="quiet small">
      A form’s way has five stops: the page, the form, the answer, the mail, the list. Each arm shows one of them:
      hanging while something is missing, half up when it is ready, upright once it was tried and works.
    </p>
    <div class="row ways">
      <ElButton type="primary" size="large" @click="router.push('/new')">Make the first form</ElButton>
      <ElButton v-if="!isDemo" size="large" @click="enterDemo">Look round in the demo</ElButton>
      <OpenSavedFile />
    </div>
  </section>
</template>

<style scoped>
.first {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
  padding: var(--gap-6) var(--gap-6) var(--gap-5);
}
h2,
p {
  margin: 0;
  max-width: 62ch;
}
h2 {
  font-size: var(--text-xl, 1.5rem);
}
.line {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  margin: 0;
  padding: 0;
  list-style: none;
}
.line li {
  display: grid;
  justify-items: start;
  padding-inline-end: var(--gap-3);
}
.line b {
  width: 100%;
  padding-top: var(--gap-1);
  border-top: 2px solid var(--edge);
}
.ways {
  gap: var(--gap-3);
}
.ways :deep(.el-button) {
  margin: 0;
}
@media (max-width: 640px) {
  .line {
    grid-template-columns: minmax(0, 1fr);
    gap: var(--gap-3);
  }
}
</style>

<script setup lang="ts">
import { ElButton } from 'element-plus'
import { type AnswerCase, answerTo, type FormContent } from '#core/form'
import { answerPage, signOf } from '#core/render'
import { shownPage } from '../../controls'
import SmallPreview from '../../preview/SmallPreview.vue'
import { answerNames, answerWho, pressOn } from './cases'

/** Every answer that visitors can meet, in the order in which they meet them; one of them is in hand. */
const { cases, content } = defineProps<{ cases: readonly AnswerCase[]; content: FormContent }>()
const current = defineModel<AnswerCase>({ required: true })
</script>

<template>
  <ul class="cases" aria-label="Answers that visitors can meet">
    <li v-for="one in cases" :key="one">
      <ElButton text class="case" :aria-pressed="one === current" @click="current = one">
        <span class="tile">
          <SmallPreview
            v-if="answerTo(content, one).show === 'message'"
            :page="
              answerPage(answerTo(content, one), content, null, {
                presses: [pressOn(one, content.language)].filter((press) => press !== null),
                sign: signOf(one),
              })
            "
            :width="560"
          />
          <span v-else class="own"
            >Your own page<span class="quiet">{{
              shownPage(answerTo(content, one).address) || 'not named yet'
            }}</span></span
          >
        </span>
        <span class="name">{{ answerNames[one] }}</span>
        <span class="quiet small">{{ answerWho[one] }}</span>
      </ElButton>
    </li>
  </ul>
</template>

<style scoped>
.cases {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: var(--gap-3);
  margin: 0;
  padding: 0;
  list-style: none;
}
.case {
  width: 100%;
  height: 100%;
  padding: var(--gap-1);
  font-weight: 400;
  white-space: normal;
  align-items: start;
}
.case :deep(> span) {
  display: grid;
  gap: var(--gap-1);
  width: 100%;
  text-align: start;
  line-height: 1.3;
}
.tile {
  display: block;
  height: 96px;
  margin-bottom: var(--gap-1);
  overflow: hidden;
  border: 1px solid var(--hairline);
  border-radius: var(--corner);
}
.case[aria-pressed='true'] .tile {
  outline: 2px solid var(--moss);
  outline-offset: 1px;
}
.case[aria-pressed='true'] .name {
  color: var(--moss);
}
.name {
  font-weight: 600;
}
.own {
  display: grid;
  height: 100%;
  padding: var(--gap-2);
  place-content: center;
  text-align: center;
  font-size: var(--text-s);
  overflow-wrap: anywhere;
}
</style>

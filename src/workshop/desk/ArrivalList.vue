<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { ElButton } from 'element-plus'
import type { Arrival, Verdict } from '#core/journal'
import { queueCommand, useArrivals, useWorkspace } from '../data'
import { shownMoment } from '../controls/shown'
import { newMemberId, useMembers } from '../lists/members'
import { useNotices } from '../shell/notices'

/** The newest sign-ups as they come in. */
const { count } = defineProps<{ count: number }>()

const workspace = useWorkspace()
const store = useArrivals()
const arrivals = computed(() => store.newest?.slice(0, count))
const verdicts: Record<Verdict, string> = {
  joined: 'joined',
  'already-on-list': 'already on the list',
  bot: 'held back as a bot',
}
const members = useMembers()
const notices = useNotices()

/** A person may have met the trap, on a site that shows it or with a browser that fills everything in. */
async function letIn({ list, email, values }: Arrival): Promise<void> {
  if (email === null) return
  const holder = await members.withAddress(list, email.compared)
  if (holder !== null) {
    notices.done(`${email.typed} is in this list already (${holder.status}).`)
    return
  }
  await queueCommand({ kind: 'add-member', list, member: newMemberId(), email: email.typed, values })
  notices.done(`${email.typed} is let in.`)
}
</script>

<template>
  <p v-if="arrivals?.length === 0" class="quiet">None yet. They appear here the moment they arrive.</p>
  <ol v-else aria-live="polite">
    <li v-for="arrival in arrivals" :key="arrival.n">
      <span class="who">{{ arrival.email?.typed ?? 'no readable address' }}</span>
      <span class="when">{{ shownMoment(arrival.at) }}</span>
      <span class="what" :class="arrival.verdict">
        {{ verdicts[arrival.verdict] }} ·
        <RouterLink :to="{ name: 'list', params: { id: arrival.list } }">{{
          workspace.list(arrival.list)?.name ?? 'a list'
        }}</RouterLink>
      </span>
      <ElButton
        v-if="arrival.verdict === 'bot' && arrival.email !== null"
        link
        :aria-label="`Let ${arrival.email.typed} in`"
        @click="letIn(arrival)"
        >Let in</ElButton
      >
    </li>
  </ol>
</template>

<style scoped>
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 var(--gap-2);
  padding: var(--gap-2) 0;
  border-top: 1px solid var(--hairline);
  line-height: 1.3;
}
.who {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.when,
.what {
  color: var(--quiet);
  font-size: var(--text-s);
}
.el-button {
  justify-self: end;
  font-size: var(--text-s);
}
.what.bot {
  font-style: italic;
}
.what a {
  color: inherit;
}
</style>

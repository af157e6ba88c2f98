<script setup lang="ts">
import Changes from '../../controls/Changes.vue'
import { Pencil, Trash2 } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { useMemberChanges } from '../member-changes'
import type { ShownMember } from '../../people'

/** What can be done with one person of a table. */
defineProps<{ member: ShownMember }>()
defineEmits<{ edit: [] }>()
const changes = useMemberChanges()
</script>

<template>
  <span class="act">
    <Changes>
      <ElButton
        text
        :disabled="member.isPending || undefined"
        :aria-label="`Change ${member.email.typed}`"
        @click="$emit('edit')"
        ><Pencil :size="16"
      /></ElButton>
      <ElButton
        v-if="member.removal"
        text
        :aria-label="`Take back the removal of ${member.email.typed}`"
        @click="changes.takeBack(member)"
        >Take back</ElButton
      >
      <ElButton
        v-else-if="member.status === 'removed'"
        text
        :disabled="member.isPending || undefined"
        :aria-label="`Put back ${member.email.typed}`"
        @click="changes.putBack(member)"
        >Put back</ElButton
      >
      <ElButton
        v-else
        text
        :disabled="member.isPending || undefined"
        :aria-label="`Remove ${member.email.typed} from the list`"
        @click="changes.remove(member)"
      >
        <Trash2 :size="16" />
      </ElButton>
    </Changes>
  </span>
</template>

<style scoped>
.act {
  display: flex;
}
.act .el-button {
  margin: 0;
}
</style>

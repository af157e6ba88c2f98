<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { List } from '#core/list'
import { useWorkspace } from '../data'
import { sentBy } from './sent-by'

/** The forms that feed a list, and what it sends by itself. */
const { list } = defineProps<{ list: List }>()
const workspace = useWorkspace()
const forms = computed(() => workspace.forms.filter((one) => one.list === list.id && !one.isArchived))
const mail = computed(() => sentBy(workspace.mail(list.id)?.published ?? null))
</script>

<template>
  <div class="feeds">
    <p class="small">
      <template v-if="forms.length > 0"
        >Fed by
        <template v-for="(form, at) in forms" :key="form.id"
          ><template v-if="at > 0"> · </template
          ><RouterLink :to="{ name: 'form', params: { id: form.id } }">{{ form.name }}</RouterLink></template
        >
      </template>
      <span v-else class="quiet">No form feeds it yet.</span>
    </p>
    <p class="quiet small">{{ mail }}</p>
  </div>
</template>

<style scoped>
.feeds {
  display: grid;
  gap: var(--gap-1);
}
</style>

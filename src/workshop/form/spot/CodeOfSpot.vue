<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { type SpotId } from '#core/ids'
import { spotName } from '#core/spot'
import { useWorkspace } from '../../data'

/** The way to the code of the spot that was meant. */
const { spot } = defineProps<{ spot: string }>()
const workspace = useWorkspace()
const meant = computed(() => workspace.spot(spot as SpotId))
</script>

<template>
  <RouterLink
    v-if="meant"
    :to="{ name: 'form', params: { id: meant.form, station: 'spot' }, hash: `#spot-${meant.id}` }"
    class="small way"
    >The code of “{{ spotName(meant, workspace.sites) }}”</RouterLink
  >
</template>

<style scoped>
.way {
  font-weight: 600;
}
</style>

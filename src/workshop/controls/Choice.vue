<script setup lang="ts" generic="Value extends string">
/**
 * A few options to choose one of, all in sight. Plain radio buttons, so keys and screen readers know them. Give a
 * `label`, what is chosen here, wherever no fieldset around it says so.
 */
const value = defineModel<Value>({ required: true })
defineProps<{ name: string; label?: string; options: { value: Value; label: string }[] }>()
</script>

<template>
  <div class="choice" :role="label === undefined ? undefined : 'radiogroup'" :aria-label="label">
    <label v-for="option in options" :key="option.value" :class="{ chosen: option.value === value }">
      <input v-model="value" type="radio" :name="name" :value="option.value" />
      {{ option.label }}
    </label>
  </div>
</template>

<style scoped>
.choice {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2);
}
label {
  display: flex;
  align-items: center;
  gap: var(--gap-2);
  min-height: 34px;
  padding: 4px 12px 4px 10px;
  border: 1px solid var(--edge);
  border-radius: var(--corner);
  background: var(--sheet);
  cursor: pointer;
}
label:hover {
  border-color: var(--ink);
}
.chosen {
  border-color: var(--moss);
  background: var(--moss-wash);
}
label:focus-within {
  outline: 2px solid var(--moss);
  outline-offset: 2px;
}
input {
  margin: 0;
  accent-color: var(--moss);
}
input:focus-visible {
  outline: none;
}
</style>

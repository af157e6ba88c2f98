<script setup lang="ts">
import { type FormContext, formContextKey } from 'element-plus'
import { provide, reactive } from 'vue'
import { useLooksOn } from './looks-on'

/**
 * Around controls that change something: they are greyed for whoever looks on. One that can be disabled for a reason of its own
 * says `:disabled="reason || undefined"`: a plain `false` would stand above this.
 */
provide(formContextKey, reactive({ disabled: useLooksOn() }) as unknown as FormContext)
</script>

<template><slot /></template>

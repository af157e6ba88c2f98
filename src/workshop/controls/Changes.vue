<script setup lang="ts">
import { type FormContext, formContextKey } from 'element-plus'
import { provide, reactive } from 'vue'
import { useLooksOn } from './looks-on'

// What a form item says of itself to the form around it, when it comes and goes.
const unheard = { addField() {}, removeField() {}, emit() {} }
/**
 * Around controls that change something: they are greyed for whoever looks on. One that can be disabled for a reason of its own
 * says `:disabled="reason || undefined"`: a plain `false` would stand above this.
 */
provide(formContextKey, reactive({ disabled: useLooksOn(), ...unheard }) as unknown as FormContext)
</script>

<template><slot /></template>

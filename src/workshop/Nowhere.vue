<script setup lang="ts">
import { RouterLink } from 'vue-router'
import { useTitle } from './title'

useTitle(() => 'Nothing here')
</script>

<template>
  <div class="page">
    <h1>Nothing is at this address</h1>
    <p>It may have been deleted, or the address is incomplete. <RouterLink to="/">Go to the Desk</RouterLink></p>
  </div>
</template>

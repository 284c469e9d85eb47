<script setup lang="ts">
import StatePanel from './StatePanel.vue'
</script>

<template>
  <StatePanel state="empty" title="There is no such page">
    Go to the <RouterLink class="link" to="/register">register</RouterLink>.
  </StatePanel>
</template>

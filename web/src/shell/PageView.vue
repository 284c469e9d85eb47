<script setup lang="ts">
import { useRoute } from 'vue-router'

/**
 * The page of the address. A page about one thing is made anew for another: what is still on its way
 * from the one shows nothing on the other's page, and does nothing there.
 */
const route = useRoute()
</script>

<template>
  <RouterView v-slot="{ Component }">
    <component :is="Component" :key="route.meta.one ? route.path : undefined" />
  </RouterView>
</template>

<script setup lang="ts">
import AuditNav from './AuditNav.vue'

/** The frame of the station's parts besides the wall: a head, the parts, and the work. */
defineProps<{ title: string }>()
</script>

<template>
  <div class="flex h-full flex-col">
    <div
      class="flex min-h-11 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-5 py-1.5"
    >
      <h1 class="text-[15px] font-bold">{{ title }}</h1>
      <slot name="head" />
      <AuditNav class="ml-auto" />
      <slot name="acts" />
    </div>
    <slot name="filter" />
    <div class="min-h-0 flex-1 overflow-auto" tabindex="0" role="region" :aria-label="title">
      <slot />
    </div>
    <slot name="foot" />
  </div>
</template>

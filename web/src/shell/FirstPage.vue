<script setup lang="ts">
import { useRouter } from 'vue-router'

/** The first page after sign-in: what needs eyes now. */
useRouter().replace('/lookout')
</script>

<template><span /></template>

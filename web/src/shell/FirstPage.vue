<script setup lang="ts">
import { useRouter } from 'vue-router'
import { useSession } from '@/api/session'
import { stationsFor } from './stations'

/** The first page after sign-in: what needs eyes now. */
const session = useSession()
useRouter().replace(
  session.who?.limited ? '/account' : (stationsFor(session.who?.role ?? '')[0]?.path ?? '/help'),
)
</script>

<template><span /></template>

<script setup lang="ts">
import { t } from '@/wording'
import StatePanel from './StatePanel.vue'
</script>

<template>
  <StatePanel state="empty" :title="t('shell.thereIsNoSuchPage')">
    {{ t('shell.goToThe') }}
    <RouterLink class="link" to="/register">{{ t('shell.register2') }}</RouterLink>.
  </StatePanel>
</template>

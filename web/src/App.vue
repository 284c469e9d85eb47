<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { useSession } from '@/api/session'
import AppFrame from '@/shell/AppFrame.vue'
import SignIn from '@/shell/SignIn.vue'
import StatePanel from '@/shell/StatePanel.vue'

const session = useSession()
const route = useRoute()
const failure = ref<Error | null>(null)

async function load() {
  failure.value = null
  try {
    await session.load()
  } catch (e) {
    failure.value = e as Error
  }
}
onMounted(load)
</script>

<template>
  <StatePanel v-if="failure" state="failed" :problem="failure" @retry="load" />
  <StatePanel v-else-if="!session.asked" state="loading" />
  <RouterView v-else-if="route.path === '/welcome'" />
  <SignIn v-else-if="!session.who" />
  <template v-else>
    <AppFrame />
    <!-- the page stays under it, with everything that was typed -->
    <div v-if="session.ended" class="fixed inset-0 z-50 overflow-auto bg-paper">
      <SignIn again />
    </div>
  </template>
</template>

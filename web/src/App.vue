<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useSession } from '@/api/session'
import AppFrame from '@/shell/AppFrame.vue'
import SignIn from '@/shell/SignIn.vue'
import StatePanel from '@/shell/StatePanel.vue'

const session = useSession()
const route = useRoute()
const failure = ref<Error | null>(null)
/** The frame is drawn out of sight while somebody types a password. */
const isAhead = ref(false)
watch(
  () => !!session.who,
  () => (isAhead.value = false),
)

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
  <template v-else>
    <SignIn v-if="!session.who" @typing="isAhead = true" />
    <div v-if="session.who || isAhead" :hidden="!session.who" class="h-full">
      <AppFrame />
    </div>
    <!-- the page stays under it, with everything that was typed -->
    <div v-if="session.ended" class="fixed inset-0 z-50 overflow-auto bg-paper">
      <SignIn again />
    </div>
  </template>
</template>

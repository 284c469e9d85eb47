<script setup lang="ts">
import { useQueryCache } from '@pinia/colada'
import { onMounted, ref } from 'vue'
import { useSession } from '@/api/session'
import ProblemNote from './ProblemNote.vue'
import WardenMark from './WardenMark.vue'

defineProps<{ again?: boolean }>()

const session = useSession()
const cache = useQueryCache()
const email = ref('')
const password = ref('')
const problem = ref<Error | null>(null)
const busy = ref(false)
const first = ref<HTMLInputElement | null>(null)
onMounted(() => first.value?.focus())

async function submit() {
  busy.value = true
  problem.value = null
  try {
    await session.signIn(email.value, password.value)
    await cache.invalidateQueries()
  } catch (e) {
    problem.value = e as Error
    password.value = ''
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <main class="mx-auto flex min-h-full max-w-sm flex-col justify-center px-6 py-10">
    <div class="flex items-center gap-3">
      <WardenMark class="h-8 w-8" />
      <h1 class="text-2xl font-bold">Upright Warden</h1>
    </div>
    <p class="mt-2 text-soft">
      {{
        again
          ? 'Your session has ended. Sign in, and go on where you were.'
          : 'Set the rules of your organisation’s meetings, and see which meetings keep them.'
      }}
    </p>
    <form class="mt-6 flex flex-col gap-3" @submit.prevent="submit">
      <label class="flex flex-col gap-1">
        Address
        <input
          ref="first"
          v-model="email"
          class="field py-1.5"
          type="email"
          name="email"
          autocomplete="username"
          required
        />
      </label>
      <label class="flex flex-col gap-1">
        Password
        <input
          v-model="password"
          class="field py-1.5"
          type="password"
          name="password"
          autocomplete="current-password"
          required
        />
      </label>
      <ProblemNote :problem="problem" />
      <button class="button button-main mt-2 self-start" :disabled="busy">
        {{ busy ? 'Signing in…' : 'Sign in' }}
      </button>
    </form>
  </main>
</template>

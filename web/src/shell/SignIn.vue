<script setup lang="ts">
import { useQueryCache } from '@pinia/colada'
import { nextTick, onMounted, ref } from 'vue'
import { Problem } from '@/api/client'
import { useSession } from '@/api/session'
import ProblemNote from './ProblemNote.vue'
import WardenMark from './WardenMark.vue'

defineProps<{ again?: boolean }>()

const session = useSession()
const cache = useQueryCache()
const email = ref('')
const password = ref('')
const code = ref('')
/** The password was right, and the account has a second factor. */
const wantsCode = ref(false)
const codeField = ref<HTMLInputElement | null>(null)
/** How a sign-in at the provider ended, where it did not end well. */
const fromProvider = new URLSearchParams(location.search).get('provider')
const problem = ref<Error | null>(null)
const busy = ref(false)
const first = ref<HTMLInputElement | null>(null)
onMounted(() => first.value?.focus())

async function submit() {
  busy.value = true
  problem.value = null
  try {
    await session.signIn(email.value, password.value, code.value.trim() || undefined)
    await cache.invalidateQueries()
  } catch (e) {
    const asked = e instanceof Problem ? e.code : ''
    if (asked === 'second-factor-needed') {
      wantsCode.value = true
      await nextTick()
      codeField.value?.focus()
    } else {
      problem.value = e as Error
      code.value = ''
      // a wrong code says nothing against the password
      if (asked !== 'wrong-code') {
        password.value = ''
        wantsCode.value = false
      }
    }
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
      <label v-if="wantsCode" class="flex flex-col gap-1">
        Code
        <input
          ref="codeField"
          v-model="code"
          class="field value py-1.5"
          name="code"
          inputmode="numeric"
          autocomplete="one-time-code"
          required
        />
        <span class="text-[12.5px] text-soft">
          The six digits that your authenticator shows, or one of your recovery codes.
        </span>
      </label>
      <ProblemNote :problem="problem" />
      <p v-if="fromProvider && !problem" role="alert" class="border-l-4 border-rust px-3 py-1">
        {{
          fromProvider === 'unknown'
            ? 'Your organisation knows you, but there is no account for you here. Ask a warden.'
            : 'Signing in at your organisation did not work. Try again.'
        }}
      </p>
      <button class="button button-main mt-2 self-start" :disabled="busy">
        {{ busy ? 'Signing in…' : 'Sign in' }}
      </button>
    </form>
    <a v-if="session.hasProvider" class="link mt-4" href="/api/provider/house"
      >Sign in with your organisation</a
    >
  </main>
</template>

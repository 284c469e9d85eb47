<script setup lang="ts">
import { t } from '@/wording'
import { onMounted, ref } from 'vue'
import { api, take } from '@/api/client'
import type { Welcome } from '@/api/schema'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import WardenMark from '@/shell/WardenMark.vue'

/** Where a link leads that lets somebody set their password, once. Its token is behind the #. */
const token = new URLSearchParams(location.hash.slice(1)).get('token') ?? ''
const whose = ref<Welcome | null>(null)
const password = ref('')
const again = ref('')
const { busy, problem, attempt } = useAct()
const done = ref(false)

onMounted(() =>
  attempt(async () => {
    await take(api.GET('/api/session')) // brings the cookie that the next call must answer with
    whose.value = await take(api.POST('/api/welcome/look', { body: { token: token || '-' } }))
  }),
)

async function save() {
  if (password.value !== again.value) {
    problem.value = new Error(t('account.theTwoAreNotTheSameType'))
    again.value = ''
    return
  }
  await attempt(async () => {
    await take(api.POST('/api/welcome', { body: { token, password: password.value } }))
    done.value = true
  })
}
</script>

<template>
  <main class="mx-auto flex min-h-full max-w-sm flex-col justify-center px-6 py-10">
    <div class="flex items-center gap-3">
      <WardenMark class="h-8 w-8" />
      <h1 class="text-2xl font-bold">{{ t('account.uprightWarden') }}</h1>
    </div>
    <template v-if="done">
      <p class="mt-4" role="status">{{ t('account.yourPasswordIsSetSignInWith') }}</p>
      <a class="button button-main mt-4 self-start" href="/">{{ t('account.signIn') }}</a>
    </template>
    <form v-else-if="whose" class="mt-4 flex flex-col gap-3" @submit.prevent="save">
      <p>
        {{ t('account.aPasswordFor') }} <strong>{{ whose.name }}</strong>,
        <span class="value">{{ whose.email }}</span>
      </p>
      <!-- for password managers: whose password it is -->
      <input class="hidden" type="text" autocomplete="username" :value="whose.email" readonly />
      <label class="flex flex-col gap-1">
        {{ t('account.password') }}
        <input
          v-model="password"
          class="field py-1.5"
          type="password"
          name="new-password"
          autocomplete="new-password"
          minlength="12"
          required
        />
        <span class="text-[12.5px] text-soft">
          {{ t('account.twelveCharactersAtLeastFourWordsThat') }}
        </span>
      </label>
      <label class="flex flex-col gap-1">
        {{ t('account.theSameAgain') }}
        <input
          v-model="again"
          class="field py-1.5"
          type="password"
          name="again"
          autocomplete="new-password"
          required
        />
      </label>
      <ProblemNote :problem="problem" />
      <button class="button button-main mt-2 self-start" :disabled="busy">
        {{ busy ? t('account.settingIt') : t('account.setThePassword') }}
      </button>
    </form>
    <ProblemNote v-else class="mt-4" :problem="problem" />
  </main>
</template>

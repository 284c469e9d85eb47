<script setup lang="ts">
import { t } from '@/wording'
import { speak } from '@/wording/language'
import { useQueryCache } from '@pinia/colada'
import { nextTick, onMounted, ref } from 'vue'
import { Problem } from '@/api/client'
import type { Session } from '@/api/schema'
import { useSession } from '@/api/session'
import { lookoutQuery } from '@/stations/lookout/query'
import { makeFormats } from './times'
import LanguageField from './LanguageField.vue'
import ProblemNote from './ProblemNote.vue'
import WardenMark from './WardenMark.vue'

const props = defineProps<{ again?: boolean }>()

const emit = defineEmits<{ typing: [] }>()

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
onMounted(() => {
  first.value?.focus()
  if (props.again) return
  // nobody is shown what somebody else was
  cache.getEntries().forEach((entry) => cache.remove(entry))
  // what most see next is here by the time the password is typed
  setTimeout(() => ahead().catch(() => undefined), 300)
})

async function ahead() {
  emit('typing')
  makeFormats()
  // what cannot be fetched now is missed, and said, by the page that wants it
  await Promise.all([
    document.fonts.load('13px Iosevka'),
    import('@/stations/lookout/LookoutStation.vue'),
  ])
}

/** The first page's answer is on its way while the page is drawn. */
function prepare(who: Session) {
  const isFirst = !props.again && ['/', '/lookout'].includes(location.pathname)
  if (!isFirst || who.role === 'host') return
  // the page says it where that goes wrong
  cache.refresh(cache.ensure(lookoutQuery)).catch(() => undefined)
}
async function submit() {
  busy.value = true
  problem.value = null
  try {
    await session.signIn(email.value, password.value, code.value.trim() || undefined, prepare)
    if (props.again) await cache.invalidateQueries()
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
      <h1 class="text-2xl font-bold">{{ t('shell.uprightWarden') }}</h1>
    </div>
    <p class="mt-2 text-soft">
      {{
        again
          ? t('shell.yourSessionHasEndedSignInAnd')
          : t('shell.setTheRulesOfYourOrganisationsMeetings')
      }}
    </p>
    <form class="mt-6 flex flex-col gap-3" @submit.prevent="submit">
      <label class="flex flex-col gap-1">
        {{ t('shell.address') }}
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
        {{ t('shell.password') }}
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
        {{ t('shell.code') }}
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
          {{ t('shell.theSixDigitsThatYourAuthenticatorShows') }}
        </span>
      </label>
      <ProblemNote :problem="problem" />
      <p v-if="fromProvider && !problem" role="alert" class="border-l-4 border-rust px-3 py-1">
        {{
          fromProvider === 'unknown'
            ? t('shell.yourOrganisationKnowsYouButThereIs')
            : t('shell.signingInAtYourOrganisationDidNot')
        }}
      </p>
      <button class="button button-main mt-2 self-start" :disabled="busy">
        {{ busy ? t('shell.signingIn') : t('shell.signIn') }}
      </button>
    </form>
    <a v-if="session.hasProvider" class="link mt-4" href="/api/provider/house">{{
      t('shell.signInWithYourOrganisation')
    }}</a>
    <p v-if="!again" class="mt-8"><LanguageField @choose="speak" /></p>
  </main>
</template>

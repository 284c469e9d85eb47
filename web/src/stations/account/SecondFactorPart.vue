<script setup lang="ts">
import { nextTick, ref } from 'vue'
import { api, take } from '@/api/client'
import type { Offer, OwnAccount } from '@/api/schema'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { shortTime } from '@/shell/times'
import QrCode from './QrCode.vue'

/** Setting up a second factor, its recovery codes, and doing without it again. */
const props = defineProps<{ account: OwnAccount }>()
const emit = defineEmits<{ changed: [] }>()
const password = ref('')
const code = ref('')
const offer = ref<Offer | null>(null)
const codes = ref<string[] | null>(null)
const { busy, problem, attempt } = useAct()
const codeField = ref<HTMLInputElement | null>(null)

async function tried(work: () => Promise<void>) {
  await attempt(async () => {
    await work()
  })
}

const body = () => ({ body: { current: password.value } })

const begin = () =>
  tried(async () => {
    offer.value = await take(api.POST('/api/account/second-factor', body()))
    password.value = ''
    await nextTick()
    codeField.value?.focus()
  })

const confirm = () =>
  tried(async () => {
    const made = await take(api.PUT('/api/account/second-factor', { body: { code: code.value } }))
    codes.value = made.recoveryTokens
    offer.value = null
    code.value = ''
    emit('changed')
  })

const newCodes = () =>
  tried(async () => {
    codes.value = (await take(api.POST('/api/account/recovery-codes', body()))).recoveryTokens
    password.value = ''
    emit('changed')
  })

const drop = () =>
  tried(async () => {
    await take(
      api.POST('/api/account/second-factor/end', {
        body: { current: password.value, code: code.value },
      }),
    )
    password.value = ''
    code.value = ''
    codes.value = null
    emit('changed')
  })

const copy = () => navigator.clipboard.writeText((codes.value ?? []).join('\n'))
const isLow = () => props.account.recoveryCodesLeft < 4
</script>

<template>
  <div v-if="codes" class="mb-4 border border-line bg-sheet p-3">
    <p>
      Keep these <strong>recovery codes</strong> where you find them without your device. Each opens
      your account once. They are not shown again.
    </p>
    <ul class="value my-2 grid grid-cols-2 gap-x-6 gap-y-0.5 text-[15px]">
      <li v-for="c in codes" :key="c">{{ c }}</li>
    </ul>
    <button class="button" @click="copy">Copy them</button>
    <button class="link ml-3" @click="codes = null">I have them</button>
  </div>

  <template v-if="account.secondFactorSince">
    <p>
      On since {{ shortTime(account.secondFactorSince) }}.
      <span :class="isLow() ? 'text-rust' : 'text-soft'">
        {{ account.recoveryCodesLeft }} recovery codes are left.
      </span>
    </p>
    <form class="mt-2 flex flex-wrap items-end gap-2" @submit.prevent="newCodes">
      <label class="flex flex-col gap-1">
        Your password
        <input
          v-model="password"
          class="field"
          type="password"
          autocomplete="current-password"
          required
        />
      </label>
      <button class="button" :disabled="busy">New recovery codes</button>
      <template v-if="!account.secondFactorNeeded">
        <label class="flex flex-col gap-1">
          A code it shows, to turn it off
          <input
            v-model="code"
            class="field value w-40"
            autocomplete="one-time-code"
            maxlength="40"
          />
        </label>
        <button type="button" class="button" :disabled="busy || !password || !code" @click="drop">
          Turn it off
        </button>
      </template>
    </form>
  </template>

  <form v-else-if="offer" class="flex gap-4" @submit.prevent="confirm">
    <QrCode :text="offer.address" label="The secret, for an authenticator's camera" />
    <div class="flex flex-col gap-2">
      <p>Point your authenticator at it, or type this in:</p>
      <p class="value break-all">{{ offer.secret.replace(/(.{4})/g, '$1 ').trim() }}</p>
      <label class="flex flex-col gap-1">
        The code it shows now
        <input
          ref="codeField"
          v-model="code"
          class="field value w-32"
          inputmode="numeric"
          autocomplete="one-time-code"
          required
        />
      </label>
      <button class="button button-main self-start" :disabled="busy">Turn it on</button>
    </div>
  </form>

  <form v-else class="flex flex-wrap items-end gap-2" @submit.prevent="begin">
    <p class="w-full text-soft">
      Besides your password, a code from a device of yours. Whoever has the one and not the other
      stays out.
    </p>
    <label class="flex flex-col gap-1">
      Your password
      <input
        v-model="password"
        class="field"
        type="password"
        autocomplete="current-password"
        required
      />
    </label>
    <button class="button" :disabled="busy">Set it up</button>
  </form>
  <ProblemNote class="mt-3" :problem="problem" />
</template>

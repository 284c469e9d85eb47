<script setup lang="ts">
import { t } from '@/wording'
import { nextTick, ref } from 'vue'
import { api, take } from '@/api/client'
import type { Offer, OwnAccount } from '@/api/schema'
import { useAct } from '@/shell/act'
import CopyButton from '@/shell/CopyButton.vue'
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

const isLow = () => props.account.recoveryCodesLeft < 4
</script>

<template>
  <div v-if="codes" class="mb-4 border border-line bg-sheet p-3">
    <p>
      {{ t('account.keepThese') }} <strong>{{ t('account.recoveryCodes') }}</strong>
      {{ t('account.whereYouFindThemWithoutYourDevice') }}
    </p>
    <ul class="value my-2 grid grid-cols-2 gap-x-6 gap-y-0.5 text-[15px]">
      <li v-for="c in codes" :key="c">{{ c }}</li>
    </ul>
    <CopyButton class="button" :text="codes.join('\n')">{{ t('account.copyThem') }}</CopyButton>
    <button class="link ml-3" @click="codes = null">{{ t('account.iHaveThem') }}</button>
  </div>

  <template v-if="account.secondFactorSince">
    <p>
      {{
        t('account.onSinceSecondFactorSince', {
          secondFactorSince: shortTime(account.secondFactorSince),
        })
      }}
      <span :class="isLow() ? 'text-rust' : 'text-soft'">
        {{
          t('account.recoveryCodesLeftRecoveryCodesAreLeft', {
            recoveryCodesLeft: account.recoveryCodesLeft,
          })
        }}
      </span>
    </p>
    <form class="mt-2 flex flex-wrap items-end gap-2" @submit.prevent="newCodes">
      <label class="flex flex-col gap-1">
        {{ t('account.yourPassword') }}
        <input
          v-model="password"
          class="field"
          type="password"
          autocomplete="current-password"
          required
        />
      </label>
      <button class="button" :disabled="busy">{{ t('account.newRecoveryCodes') }}</button>
      <template v-if="!account.secondFactorNeeded">
        <label class="flex flex-col gap-1">
          {{ t('account.aCodeItShowsToTurnIt') }}
          <input
            v-model="code"
            class="field value w-40"
            autocomplete="one-time-code"
            maxlength="40"
          />
        </label>
        <button type="button" class="button" :disabled="busy || !password || !code" @click="drop">
          {{ t('account.turnItOff') }}
        </button>
      </template>
    </form>
  </template>

  <form v-else-if="offer" class="flex gap-4" @submit.prevent="confirm">
    <QrCode :text="offer.address" :label="t('account.theSecretForAnAuthenticatorsCamera')" />
    <div class="flex flex-col gap-2">
      <p>{{ t('account.pointYourAuthenticatorAtItOrType') }}</p>
      <p class="value break-all">{{ offer.secret.replace(/(.{4})/g, '$1 ').trim() }}</p>
      <label class="flex flex-col gap-1">
        {{ t('account.theCodeItShowsNow') }}
        <input
          ref="codeField"
          v-model="code"
          class="field value w-32"
          inputmode="numeric"
          autocomplete="one-time-code"
          required
        />
      </label>
      <button class="button button-main self-start" :disabled="busy">
        {{ t('account.turnItOn') }}
      </button>
    </div>
  </form>

  <form v-else class="flex flex-wrap items-end gap-2" @submit.prevent="begin">
    <p class="w-full text-soft">
      {{ t('account.besidesYourPasswordACodeFromA') }}
    </p>
    <label class="flex flex-col gap-1">
      {{ t('account.yourPassword') }}
      <input
        v-model="password"
        class="field"
        type="password"
        autocomplete="current-password"
        required
      />
    </label>
    <button class="button" :disabled="busy">{{ t('account.setItUp') }}</button>
  </form>
  <ProblemNote class="mt-3" :problem="problem" />
</template>

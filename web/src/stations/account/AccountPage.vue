<script setup lang="ts">
import { t } from '@/wording'
import { speak } from '@/wording/language'
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import { useOrganisation } from '@/api/catalogue'
import { roleName, useSession } from '@/api/session'
import DeputiesPart from '@/stations/house/DeputiesPart.vue'
import LanguageField from '@/shell/LanguageField.vue'
import { useAct, useRowAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import SecondFactorPart from './SecondFactorPart.vue'

/** One's own account: password, second factor, and where one is signed in. */
const session = useSession()
const { unitName } = useOrganisation()
const { data, error, refetch } = useQuery({
  key: ['account'],
  query: () => take(api.GET('/api/account')),
})
const current = ref('')
const wanted = ref('')
const said = ref('')
const { busy, problem, attempt } = useAct()
const { attempt: toRow } = useRowAct(problem)

const changePassword = () =>
  attempt(async () => {
    said.value = ''
    await take(
      api.PUT('/api/account/password', {
        body: { current: current.value, password: wanted.value },
      }),
    )
    said.value = t('account.thePasswordIsChangedEverywhereElseYou')
    current.value = wanted.value = ''
    await refetch()
  })

async function end(id: string) {
  await toRow(id, () =>
    take(api.DELETE('/api/account/sessions/{id}', { params: { path: { id } } })),
  )
  await refetch()
}

/** Kept for the account first: where that does not work, the page stays as it is. */
const choose = (language: 'en' | 'de') =>
  attempt(async () => {
    await take(api.PUT('/api/account/language', { body: { language } }))
    speak(language)
  })

async function factorChanged() {
  await session.load()
  await refetch()
}

/** The browser and system out of what a browser says it is, as far as one can tell. */
function agentWords(agent: string) {
  const browser = /(Firefox|Edg|Chrome|Safari)\/[\d.]+/.exec(agent)?.[1]?.replace('Edg', 'Edge')
  const system = /(Windows|Macintosh|Android|iPhone|iPad|Linux)/.exec(agent)?.[1]
  return [browser, system].filter(Boolean).join(', ') || agent.slice(0, 40) || t('account.notSaid')
}
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <div v-else class="mx-auto grid max-w-5xl grid-cols-2 gap-x-10 gap-y-6 px-6 py-5">
    <header class="col-span-2">
      <h1 class="text-lg font-bold">{{ data.name }}</h1>
      <p class="text-soft">
        <span class="value">{{ data.email }}</span> · {{ roleName(data.role)
        }}<template v-if="data.unit">
          {{ t('account.ofUnit', { unit: unitName(data.unit) || data.unit }) }}</template
        >
      </p>
      <p
        v-if="session.who?.limited"
        role="alert"
        class="mt-3 border-l-4 border-rust bg-rust-wash px-3 py-2"
      >
        {{ t('account.yourRoleNeedsASecondFactorSet') }}
      </p>
    </header>

    <section>
      <h2 class="head mb-2 text-base">{{ t('account.secondFactor') }}</h2>
      <SecondFactorPart :account="data" @changed="factorChanged" />
    </section>

    <section>
      <h2 class="head mb-2 text-base">{{ t('account.password') }}</h2>
      <p v-if="!data.hasPassword" class="text-soft">
        {{ t('account.youSignInWithYourOrganisationThere') }}
      </p>
      <form v-else class="flex max-w-sm flex-col gap-2" @submit.prevent="changePassword">
        <p v-if="data.passwordSince" class="text-soft">
          {{ t('account.setPasswordSince', { passwordSince: shortTime(data.passwordSince) }) }}
        </p>
        <input class="hidden" type="text" autocomplete="username" :value="data.email" readonly />
        <label class="flex flex-col gap-1">
          {{ t('account.theOneYouHave') }}
          <input
            v-model="current"
            class="field"
            type="password"
            autocomplete="current-password"
            required
          />
        </label>
        <label class="flex flex-col gap-1">
          {{ t('account.aNewOne') }}
          <input
            v-model="wanted"
            class="field"
            type="password"
            autocomplete="new-password"
            minlength="12"
            required
          />
        </label>
        <ProblemNote :problem="problem" />
        <p v-if="said" role="status" class="text-kelp">{{ said }}</p>
        <button class="button mt-1 self-start" :disabled="busy">
          {{ t('account.changeThePassword') }}
        </button>
      </form>
    </section>

    <section>
      <h2 class="head mb-2 text-base">{{ t('account.language') }}</h2>
      <p class="mb-2 text-soft">{{ t('account.languageSays') }}</p>
      <LanguageField :busy="busy" @choose="choose" />
    </section>

    <section class="col-span-2">
      <h2 class="head mb-2 text-base">{{ t('account.whereYouAreSignedIn') }}</h2>
      <table class="grid-lines w-full">
        <thead>
          <tr>
            <th scope="col">{{ t('account.from') }}</th>
            <th scope="col">{{ t('account.browser') }}</th>
            <th scope="col">{{ t('account.since') }}</th>
            <th scope="col">{{ t('account.lastSeen') }}</th>
            <th scope="col">
              <span class="sr-only">{{ t('account.acts') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in data.sessions" :key="s.id">
            <td class="value">{{ s.place }}</td>
            <td :title="s.agent">{{ agentWords(s.agent) }}</td>
            <td class="value" :title="fullTime(s.since)">{{ shortTime(s.since) }}</td>
            <td class="value" :title="fullTime(s.lastSeen)">{{ shortTime(s.lastSeen) }}</td>
            <td class="text-right">
              <span v-if="s.thisOne" class="text-soft">{{ t('account.here') }}</span>
              <button v-else class="link" @click="end(s.id)">
                {{ t('account.signOutThere') }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <DeputiesPart v-if="session.isUnitWarden" class="col-span-2" />
  </div>
</template>

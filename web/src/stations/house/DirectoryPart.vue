<script setup lang="ts">
import { t } from '@/wording'
import { counted } from '@/shell/counted'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { Issued } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import CopyButton from '@/shell/CopyButton.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime } from '@/shell/times'

/** The directory elsewhere that keeps people and lists up to date here: how to link it, how it is. */
const session = useSession()
const { data, error, refetch } = useQuery({
  key: ['directory-link'],
  query: () => take(api.GET('/api/directory-link')),
})
const { data: tokens, refetch: lookAgain } = useQuery({
  key: ['tokens'],
  query: () => take(api.GET('/api/tokens')),
})
const now = Date.now()
const good = computed(() =>
  (tokens.value ?? []).filter(
    (token) =>
      token.role === 'directory' && !token.endedAt && new Date(token.expiresAt).getTime() > now,
  ),
)
const issued = ref<Issued | null>(null)
const address = computed(() => window.location.origin + (data.value?.path ?? ''))
const { busy, problem, attempt } = useAct()
async function issue() {
  if (busy.value) return
  await attempt(async () => {
    issued.value = await take(
      api.POST('/api/tokens', {
        body: { purpose: 'The directory', role: 'directory', minutes: 365 * 24 * 60 },
      }),
    )
    await lookAgain()
  })
}
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <div v-else class="max-w-3xl">
    <h1 class="head">{{ t('house.theDirectoryOfTheOrganisation') }}</h1>
    <p class="mt-1">
      {{ t('house.aDirectoryThatSpeaksSCIM20') }}
    </p>
    <dl class="mt-4 grid grid-cols-[9rem_minmax(0,1fr)] gap-y-2 phone:grid-cols-1">
      <dt class="text-soft">{{ t('house.state') }}</dt>
      <dd>
        <template v-if="data.lastChange">
          {{
            t('house.lastChangedSomethingLastChangePersons', {
              lastChange: fullTime(data.lastChange),
              persons: counted(data.users, 'person'),
              lists: counted(data.groups, 'list'),
            })
          }}
        </template>
        <template v-else>{{ t('house.noDirectoryHasChangedAnythingYet') }}</template>
      </dd>
      <dt class="text-soft">{{ t('house.address') }}</dt>
      <dd>
        <span class="value break-all">{{ address }}</span>
        <CopyButton class="link ml-3" :text="address">{{ t('house.copyIt') }}</CopyButton>
      </dd>
      <dt class="text-soft">{{ t('house.token') }}</dt>
      <dd>
        <template v-if="good.length">
          <span v-for="token in good" :key="token.id" class="block">
            {{
              t('house.purposeUntilExpiresAt', {
                purpose: token.purpose,
                expiresAt: fullTime(token.expiresAt),
              })
            }}
            <span class="text-soft">
              {{
                token.lastUsed
                  ? t('house.usedLastLastUsed', { lastUsed: fullTime(token.lastUsed) })
                  : t('house.neverUsed')
              }}
            </span>
          </span>
          <RouterLink class="link" to="/house/tokens">{{ t('house.allTokens') }}</RouterLink>
        </template>
        <span v-else class="text-soft">{{ t('house.thereIsNoneYet') }}</span>
        <button
          v-if="session.isWarden"
          class="button mt-1 block"
          :class="good.length ? '' : 'button-main'"
          :disabled="busy"
          @click="issue"
        >
          {{ t('house.issueATokenForAYear') }}
        </button>
      </dd>
    </dl>
    <div v-if="issued" role="status" class="mt-4 border border-line bg-sheet px-4 py-3">
      <p>
        {{ t('house.giveThisToTheDirectoryWithThe') }}
      </p>
      <p class="value my-2 break-all">{{ issued.token }}</p>
      <CopyButton class="button" :text="issued.token">{{ t('house.copyIt') }}</CopyButton>
      <button class="link ml-3" @click="issued = null">{{ t('house.iHaveIt') }}</button>
    </div>
    <ProblemNote class="mt-3" :problem="problem" />
    <template v-if="data.circles.length">
      <h2 class="head mt-5 text-rust">{{ t('house.groupsThatHoldEachOther') }}</h2>
      <p>{{ t('house.eachReachesEverybodyInTheCircleThat') }}</p>
      <ul>
        <li v-for="c in data.circles" :key="c.join()" class="py-0.5">{{ c.join(' → ') }}</li>
      </ul>
    </template>
  </div>
</template>

<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useLive } from '@/api/live'
import { roleName, useSession } from '@/api/session'
import AlertStrip from './AlertStrip.vue'
import CommandField from './CommandField.vue'
import KeysDialog from './KeysDialog.vue'
import LeaveDialog from './LeaveDialog.vue'
import PageView from './PageView.vue'
import { isTyping } from './keys'
import { useRoleKept } from './role'
import { stationsFor } from './stations'
import { theme, toggleTheme } from './theme'
import { day, shortTime } from './times'
import { leaveByKey, mayLeave } from './unsaved'
import WardenMark from './WardenMark.vue'

const session = useSession()
useLive(() => !!session.who)
const roleChange = useRoleKept()
const router = useRouter()
const route = useRoute()
const { organisation } = useOrganisation(() => !!session.who)
const { data: edition } = useQuery({
  key: ['rulebook', 'in-force'],
  query: () => take(api.GET('/api/rulebook')),
  enabled: () => !!session.who,
})
const command = ref<InstanceType<typeof CommandField> | null>(null)
const showKeys = ref(false)

async function signOut() {
  if (await mayLeave()) await session.signOut()
}
function onKey(event: KeyboardEvent) {
  if (!session.who || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return
  const stations = stationsFor(session.who?.role ?? '')
  if (event.key === '/') {
    event.preventDefault()
    command.value?.focus()
  } else if (event.key === '?') {
    showKeys.value = true
  } else if (/^[1-9]$/.test(event.key)) {
    const station = stations[Number(event.key) - 1]
    if (station) void leaveByKey(router, station.path)
  }
}
onMounted(() => window.addEventListener('keydown', onKey))
onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
</script>

<template>
  <div class="flex h-full flex-col">
    <a
      href="#work"
      class="button absolute left-2 top-2 z-20 -translate-y-16 focus:translate-y-0"
      @click.prevent="($el.querySelector('#work') as HTMLElement)?.focus()"
      >{{ t('shell.toTheWork') }}</a
    >
    <header
      class="flex min-h-11 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-5 phone:gap-x-3 phone:px-3 phone:py-1.5"
    >
      <RouterLink to="/" class="flex items-center gap-2 text-[15px] font-bold">
        <WardenMark class="h-5 w-5" /> {{ t('shell.uprightWarden') }}
      </RouterLink>
      <span class="truncate text-soft phone:hidden">{{ organisation?.name }}</span>
      <span v-if="edition" class="value truncate border-l border-line pl-4 text-soft narrow:hidden">
        {{
          edition.number
            ? t('shell.editionNumberSinceEffectiveAt', {
                number: edition.number,
                effectiveAt: day(edition.effectiveAt),
              })
            : t('shell.noEditionYet')
        }}<template v-if="edition.toCome">
          {{
            t('shell.numberFromEffectiveAt', {
              number: edition.toCome.number,
              effectiveAt: day(edition.toCome.effectiveAt),
            })
          }}</template
        >
      </span>
      <CommandField
        ref="command"
        class="ml-auto w-80 phone:order-last phone:w-full"
        @keys="showKeys = true"
      />
      <RouterLink
        to="/account"
        class="value max-w-64 truncate hover:underline phone:ml-auto phone:max-w-20"
        :title="t('shell.yourAccountEmail', { email: session.who?.email ?? '' })"
      >
        {{ session.who?.email?.split('.example')[0] }}
        <span class="text-soft"
          >· {{ roleName(session.who?.role ?? '')
          }}<template v-if="session.who?.deputyUntil">{{
            t('shell.forATimeUntilDeputyUntil', { deputyUntil: shortTime(session.who.deputyUntil) })
          }}</template></span
        >
      </RouterLink>
      <button class="link" @click="toggleTheme">
        {{ theme === 'dark' ? t('shell.light') : t('shell.dark')
        }}<span class="hidden-label"> {{ t('shell.theme') }}</span>
      </button>
      <button class="link" @click="signOut">{{ t('shell.signOut') }}</button>
    </header>
    <nav
      class="flex min-h-[38px] shrink-0 flex-wrap items-stretch gap-x-8 border-b border-ink px-5 narrow:gap-x-5 phone:px-3"
      :aria-label="t('shell.stations')"
    >
      <RouterLink
        v-for="(station, i) in stationsFor(session.who?.role ?? '')"
        :key="station.path"
        :to="station.path"
        class="flex items-center border-b-[3px] border-transparent pt-[3px] text-soft hover:text-ink phone:min-h-9"
        :class="route.path.startsWith(station.path) ? 'station-here' : ''"
        :aria-current="route.path.startsWith(station.path) ? 'page' : undefined"
        :title="t('shell.nameKeyI', { name: station.name, i: i + 1 })"
        >{{ station.name }}</RouterLink
      >
      <RouterLink
        to="/help"
        class="ml-auto flex items-center border-b-[3px] border-transparent pt-[3px] text-soft hover:text-ink"
        active-class="station-here"
        >{{ t('shell.help') }}</RouterLink
      >
    </nav>
    <p
      role="status"
      class="flex shrink-0 gap-3"
      :class="roleChange ? 'border-b border-line bg-sand-wash px-5 py-1' : ''"
    >
      <template v-if="roleChange"
        >{{ roleChange }}
        <button class="link ml-auto" @click="roleChange = ''">
          {{ t('shell.close') }}
        </button></template
      >
    </p>
    <AlertStrip />
    <main id="work" tabindex="-1" class="min-h-0 flex-1 overflow-auto outline-none">
      <h1 v-if="route.meta.bare" class="hidden-label">{{ route.meta.title }}</h1>
      <PageView v-if="session.who" />
    </main>
    <LeaveDialog />
    <KeysDialog :open="showKeys" @close="showKeys = false" />
  </div>
</template>

<style scoped>
.station-here {
  color: var(--ink);
  font-weight: 700;
  border-bottom-color: var(--ink);
}
</style>

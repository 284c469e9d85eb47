<script setup lang="ts">
import { locale, t } from '@/wording'
import { term } from '@/shell/terms'
import type { AttendanceRow } from '@/api/schema'
import { came, wayWords } from './floor'

/** Who was in, since when, how long and as what. */
defineProps<{ rows: AttendanceRow[] }>()
const clock = (iso?: string | null) =>
  iso
    ? new Date(iso).toLocaleTimeString(locale, { hour: '2-digit', minute: '2-digit' })
    : t('floor.stillIn')
</script>

<template>
  <div>
    <p v-if="!rows.length" class="px-5 py-3 text-soft">{{ t('floor.nobodyHasBeenInYet') }}</p>
    <table v-else class="grid-lines stack w-full table-fixed">
      <colgroup>
        <col />
        <col class="w-52" />
        <col class="w-24" />
        <col class="w-16" />
        <col class="w-16" />
        <col class="w-14" />
        <col class="w-36" />
      </colgroup>
      <thead>
        <tr>
          <th scope="col" class="!pl-5">{{ t('floor.name') }}</th>
          <th scope="col">{{ t('floor.whoTheyAre') }}</th>
          <th scope="col">{{ t('floor.role') }}</th>
          <th scope="col">{{ t('floor.joined') }}</th>
          <th scope="col">{{ t('floor.left') }}</th>
          <th scope="col" class="text-right">{{ t('floor.min') }}</th>
          <th scope="col">{{ t('floor.cameIn') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.who">
          <td class="truncate !pl-5" :title="r.address ?? undefined">
            {{ r.name }}
            <span v-if="r.removed" class="text-rust">{{ t('floor.removed') }}</span>
          </td>
          <td class="truncate" :class="['none', 'forwarded'].includes(r.tie) ? 'text-rust' : ''">
            {{ came(r) }}
          </td>
          <td class="value">{{ term(r.role) }}</td>
          <td class="value">{{ clock(r.joined) }}</td>
          <td class="value">{{ clock(r.left) }}</td>
          <td class="value text-right">{{ r.minutes }}</td>
          <td class="truncate">
            {{ wayWords(r.way)
            }}<template v-if="r.times > 1">{{
              t('floor.timesTimes', { times: r.times })
            }}</template>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

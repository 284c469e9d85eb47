<script setup lang="ts">
import type { AttendanceRow } from '@/api/schema'
import { came, wayWords } from './floor'

/** Who was in, since when, how long and as what. */
defineProps<{ rows: AttendanceRow[] }>()
const clock = (iso?: string | null) =>
  iso
    ? new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
    : 'still in'
</script>

<template>
  <div>
    <p v-if="!rows.length" class="px-5 py-3 text-soft">Nobody has been in yet.</p>
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
          <th scope="col" class="!pl-5">Name</th>
          <th scope="col">Who they are</th>
          <th scope="col">Role</th>
          <th scope="col">Joined</th>
          <th scope="col">Left</th>
          <th scope="col" class="text-right">Min</th>
          <th scope="col">Came in</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.who">
          <td class="truncate !pl-5" :title="r.address ?? undefined">
            {{ r.name }}
            <span v-if="r.removed" class="text-rust">removed</span>
          </td>
          <td class="truncate" :class="['none', 'forwarded'].includes(r.tie) ? 'text-rust' : ''">
            {{ came(r) }}
          </td>
          <td class="value">{{ r.role }}</td>
          <td class="value">{{ clock(r.joined) }}</td>
          <td class="value">{{ clock(r.left) }}</td>
          <td class="value text-right">{{ r.minutes }}</td>
          <td class="truncate">
            {{ wayWords(r.way) }}<template v-if="r.times > 1">, {{ r.times }} times</template>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

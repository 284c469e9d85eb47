import { t } from '@/wording'
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'

/** A column of the register: what it is called, and what it sorts by. */
export interface Column {
  id: string
  name: string
  sort?: string
  width: string
}

export const allColumns: Column[] = [
  { id: 'title', name: t('register.meeting'), sort: 'title', width: 'minmax(12rem,2.6fr)' },
  { id: 'kind', name: t('register.kind'), sort: 'kind', width: 'minmax(5rem,1fr)' },
  { id: 'unit', name: t('register.unit'), sort: 'unit', width: 'minmax(6rem,1fr)' },
  { id: 'host', name: t('register.host'), sort: 'host', width: 'minmax(7rem,1.2fr)' },
  { id: 'next', name: t('register.next'), sort: 'next', width: '8.5rem' },
  { id: 'recurs', name: t('register.recurs'), width: 'minmax(6rem,1fr)' },
  { id: 'room', name: t('register.room'), width: '7rem' },
  { id: 'service', name: t('register.heldBy'), width: 'minmax(6rem,1fr)' },
  { id: 'invited', name: t('register.invited'), sort: 'invited', width: '4.5rem' },
  { id: 'findings', name: t('register.findings'), sort: 'findings', width: '6rem' },
  { id: 'exposure', name: t('register.exposure'), sort: 'exposure', width: '12.75rem' },
  { id: 'changed', name: t('register.changed'), sort: 'changed', width: '8.5rem' },
]
const usual = ['title', 'kind', 'host', 'next', 'recurs', 'invited', 'findings', 'exposure']

/** The columns somebody chose, kept in this browser. The title is always there. */
export function useColumns() {
  const chosen = useLocalStorage<string[]>('warden-register-columns', usual)
  const columns = computed(() =>
    allColumns.filter((c) => c.id === 'title' || chosen.value.includes(c.id)),
  )
  function toggle(id: string) {
    chosen.value = chosen.value.includes(id)
      ? chosen.value.filter((c) => c !== id)
      : [...chosen.value, id]
  }
  return { columns, chosen, toggle }
}

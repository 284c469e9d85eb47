<script setup lang="ts">
import { t } from '@/wording'
import { ref, useId, watch } from 'vue'
import { allZones, zoneMeant } from '@/stations/scheduling/zones'

/** A zone, picked by its name or its city; what is none is refused here and changes nothing. */
const props = defineProps<{
  id: string
  value: string
  mayBeEmpty?: boolean
  placeholder?: string
}>()
const emit = defineEmits<{ change: [zone: string] }>()

const list = useId()
const text = ref(props.value)
const wrong = ref('')
watch(
  () => props.value,
  (value) => {
    text.value = value
    wrong.value = ''
  },
)
function take() {
  const typed = text.value.trim()
  const zone = !typed && props.mayBeEmpty ? '' : zoneMeant(typed)
  wrong.value =
    zone === null
      ? t('shell.typedIsNoZoneChooseOneSuch', { typed, props: props.value || t('shell.notSet') })
      : ''
  if (zone === null) return
  text.value = zone
  if (zone !== props.value) emit('change', zone)
}
</script>

<template>
  <div>
    <input
      :id="id"
      v-model="text"
      class="field w-56 max-w-full"
      :class="wrong ? 'border-rust' : ''"
      :list="list"
      :placeholder="placeholder"
      :aria-invalid="!!wrong || undefined"
      :aria-describedby="wrong ? `${id}-wrong` : undefined"
      autocomplete="off"
      @change="take"
    />
    <datalist :id="list"><option v-for="z in allZones" :key="z" :value="z" /></datalist>
    <p v-if="wrong" :id="`${id}-wrong`" class="text-[12.5px] text-rust" role="alert">{{ wrong }}</p>
  </div>
</template>

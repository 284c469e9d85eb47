<script setup lang="ts">
import { t } from '@/wording'
import { ref } from 'vue'
import ModalSheet from './ModalSheet.vue'
import { isKept, leaving } from './unsaved'

/** Asks before something that is not saved is left. */
const stay = ref<HTMLElement | null>(null)
</script>

<template>
  <ModalSheet
    :open="leaving !== null"
    :title="t('shell.leaveWithoutSaving')"
    :first="stay"
    @close="leaving?.(false)"
  >
    <p>
      {{ isKept ? t('shell.whatYouTypedIsNotSavedIt') : t('shell.somethingOnThisPageIsNotSaved') }}
    </p>
    <div class="mt-4 flex gap-3">
      <button ref="stay" type="button" class="button button-main" @click="leaving?.(false)">
        {{ t('shell.stayHere') }}
      </button>
      <button type="button" class="button" @click="leaving?.(true)">{{ t('shell.leave') }}</button>
    </div>
  </ModalSheet>
</template>

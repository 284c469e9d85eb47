<script setup lang="ts">
import { t } from '@/wording'
import { useCatalogue } from '@/api/catalogue'
import GateMark from '@/marks/GateMark.vue'
import TallyMark from '@/marks/TallyMark.vue'
import WaterLine from '@/marks/WaterLine.vue'
import StatePanel from '@/shell/StatePanel.vue'

/** What the core declares: marks, checks, controls. */
defineProps<{ topic: string }>()
const { catalogue, error } = useCatalogue()
</script>

<template>
  <template v-if="topic === 'marks'">
    <h1>{{ t('help.marks') }}</h1>
    <h2>{{ t('help.howFreelySomebodyComesIn') }}</h2>
    <p v-for="l in catalogue?.levels ?? []" :key="l.id"><GateMark :level="l.id" word /></p>
    <h2>{{ t('help.howBadAFindingIs') }}</h2>
    <p v-for="s in [1, 2, 3, 4, 5]" :key="s"><TallyMark :severity="s" word /></p>
    <h2>{{ t('help.exposure') }}</h2>
    <p v-for="s in [4, 18, 37, 72]" :key="s"><WaterLine :score="s" word /></p>
    <p>
      {{ t('help.exposureIsMadeOfWhatUninvitedPeople') }}
    </p>
  </template>
  <template v-else-if="topic === 'checks'">
    <h1>{{ t('help.checks') }}</h1>
    <StatePanel v-if="!catalogue" :state="error ? 'failed' : 'loading'" :problem="error" />
    <section v-for="c in catalogue?.checks ?? []" :id="c.id" :key="c.id">
      <h2>{{ c.title }}</h2>
      <p>
        <strong>{{ c.summary }}</strong>
      </p>
      <p>{{ c.why }} {{ c.mend }}</p>
      <p class="flex items-center gap-2 text-soft">
        {{ t('help.severity') }}
        <TallyMark v-if="c.baseSeverity" :severity="c.baseSeverity" word />
        <span v-else>{{ t('help.theImportanceOfTheRuleOrGuarantee') }}</span>
      </p>
    </section>
  </template>
  <template v-else>
    <h1>{{ t('help.controls') }}</h1>
    <StatePanel v-if="!catalogue" :state="error ? 'failed' : 'loading'" :problem="error" />
    <section v-for="f in catalogue?.families ?? []" :key="f.id">
      <h2>{{ f.title }}</h2>
      <table class="grid-lines stack">
        <tbody>
          <tr
            v-for="c in catalogue?.controls.filter((c) => c.family === f.id)"
            :id="c.id"
            :key="c.id"
          >
            <td class="w-44 align-top">
              <strong>{{ c.title }}</strong><br /><span class="text-soft"
                >{{ t('help.inFiles') }} <span class="value">{{ c.id }}</span></span
              >
            </td>
            <td class="align-top">{{ c.effect }}. {{ c.risk }}</td>
            <td class="value w-72 align-top text-soft">{{ c.allowed.replace(/^one of /, '') }}</td>
          </tr>
        </tbody>
      </table>
    </section>
  </template>
</template>

<script setup lang="ts">
// Deviations and what was taken back: nothing is silently allowed or silently lost.
import { askJob } from '../../data/folded'
import { version } from '../../data/sync'
import { useLatest } from '../../data/useLatest'
import SideSheet from '../../parts/SideSheet.vue'
import { moment, say } from '../../words/words'
import { useArea } from './useArea'

const emit = defineEmits<{ close: [] }>()
const { look, job, area, nameOf } = useArea()
const deviations = useLatest(
  () => version.value,
  async () => (await askJob(job, 'logbook.deviations', { area })).deviations,
)
</script>

<template>
  <SideSheet :title="say('record.deviations')" @close="emit('close')">
    <p v-if="!look.deviation_count">{{ say('deviation.none') }}</p>
    <ul>
      <li v-for="(d, i) in deviations ?? []" :key="i" class="row">
        <span class="grow">
          {{ say(d.key, d.args ?? {}) }}
          <span class="small">{{ d.at ? moment(d.at) : '' }} {{ nameOf(d.by) }}</span>
        </span>
      </li>
      <li v-for="w in look.withdrawn" :key="w.entry" class="row">
        <span class="grow">
          {{ say('record.withdrawn', { kind: w.kind, reason: w.reason }) }}
          <span class="small">{{ moment(w.at) }} {{ nameOf(w.by) }}</span>
        </span>
      </li>
    </ul>
  </SideSheet>
</template>

<script setup lang="ts">
// Deviations and what was taken back: nothing is silently allowed or silently lost.
import SideSheet from '../../parts/SideSheet.vue'
import { moment, say } from '../../words/words'
import { useArea } from './useArea'

const emit = defineEmits<{ close: [] }>()
const { look, nameOf } = useArea()
</script>

<template>
  <SideSheet :title="say('record.deviations')" @close="emit('close')">
    <p v-if="!look.deviations.length">{{ say('deviation.none') }}</p>
    <ul>
      <li v-for="(d, i) in look.deviations" :key="i" class="row">
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

<script setup lang="ts">
// What was set aside for everyone, and why: it is read by nothing here.
import type { SetAside } from '../data/local'
import { moment, say } from '../words/words'

defineProps<{ aside: SetAside[] }>()
</script>

<template>
  <section v-if="aside.length" class="lines">
    <h2 class="sub">{{ say('out.title') }}</h2>
    <p v-for="one in aside" :key="one.seq" class="said">
      {{ say(one.seq ? 'out.entry' : 'out.job', { seq: one.seq, why: one.why }) }}
      <span class="small">{{ moment(one.at) }}</span>
    </p>
  </section>
</template>

<style scoped>
.lines {
  display: grid;
  gap: 8px;
  padding-block: 12px;
}
</style>

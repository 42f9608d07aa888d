<script setup lang="ts">
// In what two revisions of a system differ, in words.
import type { Schemas } from '../core/core'
import { say } from '../words/words'

defineProps<{ changes: readonly Schemas['SystemChange'][] }>()
function saysOf({ key, args = {} }: Schemas['SystemChange']): string {
  if (key !== 'way') return say(`system.change.${key}`, args)
  const { school, from, to } = args as Record<string, string>
  const way = (name?: string) => (name ? say(`school.${school}.${name}`) : '–')
  return say('system.change.way', { school: say(`school.${school}`), from: way(from), to: way(to) })
}
</script>

<template>
  <section>
    <h2 class="sub">{{ say('system.changed') }}</h2>
    <ul>
      <li v-for="(change, i) in changes" :key="i">{{ saysOf(change) }}</li>
    </ul>
  </section>
</template>

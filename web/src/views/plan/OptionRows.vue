<script setup lang="ts">
// What the system leaves open: one choice each, before the plan is accepted or on the site.
import type { Schemas } from '../../core/core'
import OneOf from '../../parts/OneOf.vue'
import { optionName, say } from '../../words/words'

defineProps<{ options: readonly Schemas['SystemOption'][]; chosen: Record<string, string> }>()
const emit = defineEmits<{ choose: [option: string, choice: string] }>()
const named = (choice: string) => {
  const name = optionName(choice)
  return name === choice ? choice.replaceAll('_', ' ') : name
}
</script>

<template>
  <section v-if="options.length" class="open">
    <h2 class="sub">{{ say('plan.options') }}</h2>
    <OneOf
      v-for="each in options"
      :key="each.id"
      v-slot="{ option }"
      class="wrapped"
      titled
      look="outline narrow"
      :options="each.choices"
      :picked="chosen[each.id]"
      :label="each.decided === 'site' ? say('plan.options.site', { line: each.line }) : each.line"
      @pick="(choice: string) => emit('choose', each.id, choice)"
    >
      {{ named(option) }}
    </OneOf>
  </section>
</template>

<style scoped>
.open {
  display: grid;
  gap: 8px;
}
</style>

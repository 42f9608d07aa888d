<script setup lang="ts">
// What cannot all be kept of the system here, named before anything is laid, with both ways out.
import type { Schemas } from '../../core/core'
import OneOf from '../../parts/OneOf.vue'
import { say } from '../../words/words'

const props = defineProps<{ clashes: readonly Schemas['SystemClash'][]; out: string }>()
const emit = defineEmits<{ out: [way: string] }>()
const steps = (clash: Schemas['SystemClash'], way: string) =>
  (clash.ways.find((each) => each.id === way)?.order.stages ?? []).map((stage) => stage.title).join(' › ')
const taken = () => props.out && say(`clash.way.${props.out}`)
</script>

<template>
  <section v-if="clashes.length || out" class="clashes">
    <h2 class="sub">{{ say('clash.title') }}</h2>
    <div v-for="clash in clashes" :key="clash.key" class="said">
      <p>{{ say(`clash.${clash.key}`, clash.args) }}</p>
      <OneOf
        v-slot="{ option }"
        look="row"
        :options="clash.ways.map((each) => each.id)"
        :picked="out"
        :label="say('clash.ways')"
        @pick="(way: string) => emit('out', way)"
      >
        <span class="grow">
          <strong>{{ say(`clash.way.${option}`) }}</strong>
          <span class="small order">{{ steps(clash, option) }}</span>
        </span>
      </OneOf>
    </div>
    <p v-if="out" class="said beside-key">
      <span class="grow">{{ say('clash.taken', { way: taken() }) }}</span>
      <button class="outline narrow" @click="emit('out', '')">{{ say('clash.back') }}</button>
    </p>
  </section>
</template>

<style scoped>
.clashes {
  display: grid;
  gap: 8px;
}
.order {
  display: block;
}
</style>

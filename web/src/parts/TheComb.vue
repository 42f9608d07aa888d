<script setup lang="ts">
// The comb is the control: tap the last wet tooth. Teeth end where they would in the film.
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { frame } from '../theme/useFrame'
import { fixed, say } from '../words/words'

const props = defineProps<{ teeth: number[]; picked: number | null; target: number }>()
const emit = defineEmits<{ pick: [index: number] }>()

const comb = ref<HTMLElement>()
const longest = computed(() => Math.max(...props.teeth))
/** px of the gap under a tooth: the higher its number, the shorter the tooth. */
const gap = (tooth: number) => 6 + (tooth / longest.value) * 34
/** It opens at the tooth that is asked. */
function open(): void {
  const at = props.teeth.findIndex((tooth) => tooth >= props.target)
  const tooth = comb.value?.querySelector<HTMLElement>(`[data-tooth="${at < 0 ? props.teeth.length - 1 : at}"]`)
  if (tooth) comb.value!.scrollLeft = tooth.offsetLeft + tooth.offsetWidth / 2 - comb.value!.clientWidth / 2
}
onMounted(open)
watch(frame, () => void nextTick(open))
/** -1: none wet */
const options = computed(() => [-1, ...props.teeth.keys()])

function walk(event: KeyboardEvent, index: number): void {
  const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
  if (!step || event.altKey) return
  event.preventDefault()
  const to = Math.min(props.teeth.length - 1, Math.max(-1, index + step))
  emit('pick', to)
  void nextTick(() => comb.value?.querySelector<HTMLElement>(`[data-tooth="${to}"]`)?.focus())
}
const label = (index: number) =>
  index < 0
    ? say('read.none_wet')
    : `${fixed(props.teeth[index]!, 1)} mm${index === props.teeth.length - 1 ? `, ${say('read.all_wet')}` : ''}`
</script>

<template>
  <div ref="comb" class="comb" data-sideways role="radiogroup" :aria-label="say('read.last_wet')">
    <button
      v-for="index in options"
      :key="index"
      class="tooth"
      role="radio"
      :aria-checked="picked === index"
      :aria-label="label(index)"
      :data-tooth="index"
      :class="{ wet: picked !== null && index >= 0 && index <= picked, last: picked === index, none: index < 0 }"
      :tabindex="picked === index || (picked === null && index === 0) ? 0 : -1"
      :style="index < 0 ? undefined : { '--gap': `${gap(teeth[index]!)}px` }"
      @click="emit('pick', index)"
      @keydown="walk($event, index)"
    >
      <strong>{{ index < 0 ? '0' : fixed(teeth[index]!, 1) }}</strong>
      <span v-if="picked === index">{{
        index < 0 ? say('read.none_wet') : index === teeth.length - 1 ? say('read.all_wet') : say('read.last_wet')
      }}</span>
      <span v-else-if="index < 0">{{ say('read.none_wet') }}</span>
    </button>
  </div>
</template>

<style scoped>
.comb {
  position: relative;
  display: flex;
  gap: 2px;
  height: 132px;
  padding: 10px 10px 0;
  border: 2.4px solid var(--ink);
  border-bottom-width: 6px;
  background:
    linear-gradient(0deg, var(--water3) 0 30px, transparent 30px),
    linear-gradient(180deg, var(--metal) 0 10px, transparent 10px), var(--sheet);
  overflow-x: auto;
}
:root.low .comb {
  height: 120px;
}
.tooth {
  position: relative;
  flex: 1 0 56px;
  min-width: 56px;
  height: calc(100% - var(--gap, 40px));
  display: grid;
  justify-items: center;
  align-content: start;
  padding-top: 12px;
  background: var(--metal);
  border: 1.8px solid var(--ink);
  border-top: 0;
  line-height: 1.1;
}
.tooth strong {
  font-size: 27px;
}
.tooth span {
  font-size: 15px;
  font-weight: 650;
  text-align: center;
}
.tooth.none {
  height: calc(100% - 40px);
  background: var(--sheet);
}
.tooth.wet::after {
  content: '';
  position: absolute;
  inset: auto 0 0;
  height: max(6px, calc(30px - var(--gap)));
  background: var(--water7);
}
.tooth.last {
  background: var(--lime);
  color: var(--lime-ink);
  border-width: 2.5px;
}
.tooth:focus-visible {
  outline-offset: -6px;
}
</style>

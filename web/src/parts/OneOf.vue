<script setup lang="ts" generic="T extends string | number | boolean">
// One of several, as rows or as buttons beside each other: one tab stop, arrows go round, Enter or Space picks (an
// answer may lead on at once, so going past one must not give it). How each is worded is the slot's.
import { ref } from 'vue'

const props = defineProps<{
  options: readonly T[]
  picked: T | undefined
  label: string
  /** Shown above the answers too. */
  titled?: boolean
  look: 'row' | 'outline' | 'outline narrow' | 'plain'
  of?: 'radio' | 'tab'
}>()
const emit = defineEmits<{ pick: [option: T] }>()

const at = ref(-1)
const stop = () => (at.value < 0 ? Math.max(0, props.options.indexOf(props.picked as T)) : at.value)

function walk(event: KeyboardEvent, i: number): void {
  const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  const n = (i + by + props.options.length) % props.options.length
  const group = (event.currentTarget as HTMLElement).parentElement!
  at.value = n
  group.querySelectorAll<HTMLElement>('[role="radio"], [role="tab"]')[n]?.focus()
}
</script>

<template>
  <div :role="of === 'tab' ? 'tablist' : 'radiogroup'" :aria-label="label" @focusout="at = -1">
    <p v-if="titled" class="small">{{ label }}</p>
    <button
      v-for="(option, i) in options"
      :key="String(option)"
      type="button"
      :class="look"
      :role="of ?? 'radio'"
      :aria-checked="of === 'tab' ? undefined : option === picked"
      :aria-selected="of === 'tab' ? option === picked : undefined"
      :tabindex="i === stop() ? 0 : -1"
      @click="emit('pick', option)"
      @keydown="walk($event, i)"
    >
      <slot :option="option" />
    </button>
  </div>
</template>

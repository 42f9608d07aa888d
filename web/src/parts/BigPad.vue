<script setup lang="ts">
// One number at a time: large enough to read at arm's length, keys for gloves. Digits typed
// on a keyboard, or by a measuring device that types like one, land in the same field.
import { nextTick, onMounted, ref, watch } from 'vue'
import { say } from '../words/words'

const props = defineProps<{
  modelValue: string
  label: string
  unit: string
  id: string
  wrong?: boolean
  plain?: boolean
  /** keys for feet and inches besides */
  feet?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [text: string]; enter: [] }>()

const field = ref<HTMLInputElement>()
const keys = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '.', '0']
const feetKeys = ["'", '"', '/', ' ']
/** The first key pressed after a question came up writes over what stood there. */
let fresh = true

function focus(): void {
  if (matchMedia('(pointer: fine)').matches) field.value?.focus()
  field.value?.select()
}
watch(
  () => props.id,
  () => {
    fresh = true
    void nextTick(focus)
  },
)
onMounted(focus)

function press(key: string): void {
  emit('update:modelValue', (fresh ? '' : props.modelValue) + key)
  fresh = false
}
function back(): void {
  emit('update:modelValue', props.modelValue.slice(0, -1))
  fresh = false
}
function typed(event: Event): void {
  fresh = false
  emit('update:modelValue', (event.target as HTMLInputElement).value)
}
</script>

<template>
  <div class="pad">
    <label class="number" :class="{ wrong }">
      <span v-if="$slots.default" class="of"><slot /></span>
      <input
        ref="field"
        :value="modelValue"
        :aria-label="label"
        inputmode="none"
        autocomplete="off"
        spellcheck="false"
        maxlength="60"
        :class="{ long: modelValue.length > 6 }"
        @input="typed"
        @keydown.enter.prevent="emit('enter')"
      />
      <span class="unit">{{ unit }}</span>
    </label>
    <div v-if="!plain" class="keys" :class="{ feet }">
      <button v-for="key in feet ? feetKeys : []" :key="key" type="button" @click="press(key)">
        {{ key === ' ' ? say('survey.blank') : key }}
      </button>
      <button v-for="key in keys" :key="key" type="button" @click="press(key)">{{ key }}</button>
      <button type="button" :aria-label="say('survey.back')" @click="back">
        <svg viewBox="0 0 56 36" width="52" height="34" aria-hidden="true">
          <path d="M16 3h37v30H16L3 18zM26 11l14 14M40 11L26 25" fill="none" stroke="currentColor" stroke-width="2.6" />
        </svg>
      </button>
    </div>
  </div>
</template>

<style scoped>
.pad {
  contain: layout paint style;
}
.number {
  display: flex;
  align-items: baseline;
  gap: 8px;
  border-bottom: 3px solid var(--ink);
}
.number.wrong {
  border-bottom: 6px solid var(--amber7);
}
input {
  flex: 1;
  min-width: 0;
  padding: 0;
  border: 0;
  background: none;
  text-align: end;
  font-size: 96px;
  font-weight: 700;
  letter-spacing: -0.03em;
  line-height: 1.05;
}
input.long {
  font-size: 44px;
  line-height: 2.2;
}
.of {
  flex: 0 1 45%;
  align-self: center;
  line-height: 1.2;
}
.unit {
  font-size: 40px;
  color: var(--ink2);
}
.keys {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
}
.keys.feet button:nth-child(-n + 4) {
  height: calc(56px / var(--letters, 1));
  font-size: 24px;
}
.keys.feet {
  grid-template-columns: repeat(12, 1fr);
}
.keys.feet button {
  grid-column: span 4;
}
.keys.feet button:nth-child(-n + 4) {
  grid-column: span 3;
}
.keys button {
  height: calc(66px / var(--letters, 1));
  display: grid;
  place-items: center;
  font-size: 36px;
  font-weight: 600;
  border-bottom: 1.5px solid var(--line);
  border-inline-end: 1.5px solid var(--line);
}
.keys:not(.feet) button:nth-child(3n),
.keys.feet button:nth-child(3n + 4) {
  border-inline-end: 0;
}
.keys button:active {
  background: var(--sunk);
}
:root.lying input {
  font-size: calc(64px / var(--letters, 1));
}
:root.lying .keys button {
  height: calc((66px - (var(--letters, 1) - 1) * 40px) / var(--letters, 1));
}
:root.narrow input {
  font-size: 60px;
}
:root.narrow .keys button {
  height: calc(64px / var(--letters, 1));
}
:root.phone input {
  font-size: 44px;
}
:root.phone .keys button {
  height: calc(56px / var(--letters, 1));
}
:root.upright .pad {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
  align-items: start;
  gap: 24px;
}
</style>

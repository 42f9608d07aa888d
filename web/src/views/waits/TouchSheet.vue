<script setup lang="ts">
// The touch test: the clock alone releases nothing; a person confirms each state.
import { computed, ref } from 'vue'
import { toggled } from '../../data/toggled'
import CheckRow from '../../parts/CheckRow.vue'
import SideSheet from '../../parts/SideSheet.vue'
import { say, sayName } from '../../words/words'
import { useArea, type Step } from '../area/useArea'

const props = defineProps<{ step: Step }>()
const emit = defineEmits<{ close: [] }>()
const { record } = useArea()
const states = computed(() => props.step.after?.find((link) => link.states?.length)?.states ?? [])
const found = ref<string[]>([])

function toggle(state: string): void {
  found.value = toggled(found.value, state)
}

async function keep(): Promise<void> {
  const all = found.value.length === states.value.length
  const body = { step: props.step.id, found: states.value.filter((state) => found.value.includes(state)) }
  if (await record('touched', body, { key: all ? 'touch.kept' : 'touch.kept.not' })) emit('close')
}
</script>

<template>
  <SideSheet :title="say('touch.title')" @close="emit('close')">
    <p>{{ say('touch.line') }}</p>
    <ul>
      <li v-for="state in states" :key="state">
        <CheckRow :label="sayName('touch', state)" :checked="found.includes(state)" @toggle="toggle(state)" />
      </li>
    </ul>
    <p v-if="found.length < states.length" class="small">{{ say('touch.not_yet') }}</p>
    <template #action>
      <button class="outline" @click="emit('close')">{{ say('cancel') }}</button>
      <button class="outline" @click="keep">
        {{ found.length < states.length ? say('touch.keep.not') : say('touch.keep') }}
      </button>
    </template>
  </SideSheet>
</template>

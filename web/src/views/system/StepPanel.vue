<script setup lang="ts">
// One step of the order: what it waits for, moved, left out, or another one put before it.
import { computed, ref } from 'vue'
import PersonChoice from '../../parts/PersonChoice.vue'
import { say } from '../../words/words'
import type { Job } from '../../data/book'
import type { Act, Step } from './useEditor'

const props = defineProps<{ step: Step; steps: readonly Step[]; people: Job['people'] }>()
const emit = defineEmits<{ act: [act: Act] }>()

const reason = ref('')
const person = ref('')
const title = ref('')
const at = computed(() => props.steps.findIndex((each) => each.id === props.step.id))
const edit = (does: string, more: object) =>
  emit('act', {
    does: 'order',
    edit: { does, step: props.step.id, reason: reason.value.trim(), person: person.value, ...more },
  })
const move = (by: 1 | -1) => edit('move', { before: props.steps[by > 0 ? at.value + 2 : at.value - 1]?.id ?? '' })
function add(): void {
  const id = `own_${Date.now().toString(36)}`
  const line = title.value.trim()
  emit('act', {
    does: 'order',
    edit: {
      does: 'add',
      step: id,
      before: props.step.id,
      add: { id, title: line, does: 'check', asks: [{ id: 'done', line }] },
    },
  })
  title.value = ''
}
</script>

<template>
  <section class="panel">
    <p v-if="step.why" class="small">{{ step.why }}</p>
    <p v-if="step.mends" class="small">{{ say('system.mends') }}</p>
    <div class="wrapped">
      <button class="outline narrow" :disabled="at === 0" @click="move(-1)">{{ say('editor.earlier') }}</button>
      <button class="outline narrow" :disabled="at === steps.length - 1" @click="move(1)">
        {{ say('editor.later') }}
      </button>
      <button class="outline narrow" @click="edit('drop', {})">{{ say('editor.drop') }}</button>
    </div>
    <p class="small">{{ say('editor.guard') }}</p>
    <v-text-field v-model="reason" :label="say('override.reason')" maxlength="200" autocomplete="off" />
    <PersonChoice v-model="person" :people="people" :label="say('override.person')" />
    <v-text-field v-model="title" :label="say('editor.step')" maxlength="80" autocomplete="off" />
    <button class="outline" :disabled="!title.trim()" @click="add">
      {{ say('editor.add', { title: step.title }) }}
    </button>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 14px;
}
</style>

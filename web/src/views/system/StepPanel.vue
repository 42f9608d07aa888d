<script setup lang="ts">
// One step of the order: what it waits for, moved, left out, or another one put before it.
import { computed, ref } from 'vue'
import { call } from '../../core/core'
import { sayRefusal } from '../../data/refusal'
import OneOf from '../../parts/OneOf.vue'
import PersonChoice from '../../parts/PersonChoice.vue'
import { say } from '../../words/words'
import type { Job } from '../../data/book'
import type { Act, Step } from './useEditor'

const props = defineProps<{ step: Step; steps: readonly Step[]; people: Job['people'] }>()
const emit = defineEmits<{ act: [act: Act]; error: [text: string] }>()

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
/** Steps before it that it may wait for, and the hours. */
const earlier = computed(() => props.steps.slice(0, Math.max(0, at.value)))
const waits = ref<Record<string, string>>({})
const linking = ref(false)
const linked = computed(() => (props.step.after ?? []).filter((each) => each.step))
async function hours(field: string): Promise<object | undefined> {
  const typed = waits.value[field]?.trim()
  if (!typed) return undefined
  const { value } = await call('units.number', { field, kind: 'number', typed, least: 0, most: 8760 })
  return { value, unit: 'h', says: `${typed} h`, reason: waits.value.why?.trim() ?? '' }
}
async function link(): Promise<void> {
  try {
    const [least, latest] = [await hours('least'), await hours('latest')]
    edit('link', { link: { step: waits.value.step ?? '', ...(least && { least }), ...(latest && { latest }) } })
    waits.value = {}
    linking.value = false
  } catch (refused) {
    emit('error', sayRefusal(refused))
  }
}
const titleOf = (id?: string) => props.steps.find((each) => each.id === id)?.title ?? id
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
    <section class="waits">
      <h2 class="sub">{{ say('editor.waits') }}</h2>
      <p v-if="!linked.length" class="small">{{ say('editor.waits.none') }}</p>
      <div v-for="each in linked" :key="each.step" class="both">
        <span class="grow">{{ titleOf(each.step) }}</span>
        <button class="outline narrow" @click="edit('unlink', { link: { step: each.step } })">
          {{ say('editor.unlink') }}
        </button>
      </div>
      <button v-if="!linking" class="outline" @click="linking = true">{{ say('editor.link') }}</button>
      <template v-else>
        <OneOf
          v-slot="{ option }"
          titled
          look="row"
          :options="earlier.map((each) => each.id)"
          :picked="waits.step"
          :label="say('editor.link.after')"
          @pick="(id: string) => (waits.step = id)"
        >
          {{ titleOf(option) }}
        </OneOf>
        <v-text-field
          v-for="field in ['least', 'latest']"
          :key="field"
          v-model="waits[field]"
          :label="say(`editor.link.${field}`)"
          inputmode="decimal"
          maxlength="20"
          autocomplete="off"
        />
        <v-text-field v-model="waits.why" :label="say('editor.reason')" maxlength="200" autocomplete="off" />
        <button class="outline" @click="link">{{ say('editor.link.set') }}</button>
      </template>
    </section>
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
.panel,
.waits {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
}
.both {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>

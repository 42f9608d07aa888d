<script setup lang="ts">
// Going on against what stops: with a reason and a name, and both stay visible.
import { onBeforeUnmount, ref } from 'vue'
import { keptText } from '../data/keptText'
import type { Crew } from '../data/book'
import PersonChoice from './PersonChoice.vue'
import SideSheet from './SideSheet.vue'
import { say } from '../words/words'

const props = defineProps<{ title: string; sub: string; line: string; keep: string; people: Crew['people'] }>()
const emit = defineEmits<{ close: []; keep: [given: { reason: string; person: string }] }>()
const reason = keptText(`${props.title}.${props.sub}`)
const person = ref('')
const error = ref('')
// Whoever took it closes this sheet; one that is closed unkept says the same when it is opened again.
let given = false
onBeforeUnmount(() => {
  if (given) reason.value = ''
})

function give(): void {
  error.value = ''
  if (!reason.value.trim()) error.value = `${say('override.reason')}: ${say('fault.text.missing')}`
  else if (!person.value) error.value = `${say('override.person')} ${say('fault.choice.missing')}`
  else {
    given = true
    emit('keep', { reason: reason.value.trim(), person: person.value })
  }
}
</script>

<template>
  <SideSheet :title="title" @close="emit('close')">
    <h2 class="sub">{{ sub }}</h2>
    <slot />
    <p>{{ line }}</p>
    <v-text-field v-model="reason" :label="say('override.reason')" maxlength="500" autocomplete="off" />
    <PersonChoice v-model="person" :people="people" :label="say('override.person')" />
    <p v-if="error" class="said" role="alert">{{ error }}</p>
    <template #action>
      <button class="outline" @click="emit('close')">{{ say('cancel') }}</button>
      <button class="outline" @click="give">{{ keep }}</button>
    </template>
  </SideSheet>
</template>

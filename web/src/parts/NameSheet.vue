<script setup lang="ts">
// Asks for a name, on a sheet of its own: a new job, a new wet area.
import { ref } from 'vue'
import { keptText } from '../data/keptText'
import { sayRefusal } from '../data/refusal'
import { say } from '../words/words'
import MitreButton from './MitreButton.vue'
import SideSheet from './SideSheet.vue'

// take: keeps what is named so; what it refuses is said here, and the name stays.
const props = defineProps<{ title: string; label: string; action: string; take: (name: string) => Promise<void> }>()
const emit = defineEmits<{ close: [] }>()
const name = keptText(props.title)
const error = ref('')
let taking = false

async function done(): Promise<void> {
  if (taking) return // a second tap
  taking = true
  error.value = ''
  try {
    if (name.value.trim()) {
      await props.take(name.value.trim())
      name.value = ''
    } else error.value = `${props.label}: ${say('fault.text.missing')}`
  } catch (refused) {
    error.value = sayRefusal(refused, '. ')
  } finally {
    taking = false
  }
}
</script>

<template>
  <SideSheet :title="title" @close="emit('close')">
    <form id="name-sheet" @submit.prevent="done">
      <v-text-field v-model="name" :label="label" :error="!!error" autocomplete="off" autofocus />
      <p v-if="error" class="said" role="alert">{{ error }}</p>
    </form>
    <slot />
    <template #action>
      <span />
      <MitreButton form="name-sheet" :label="action" />
    </template>
  </SideSheet>
</template>

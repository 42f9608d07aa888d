<script setup lang="ts">
// Asks for a name, on a sheet of its own: a new job, a new wet area.
import { ref } from 'vue'
import { say } from '../words/words'
import MitreButton from './MitreButton.vue'
import SideSheet from './SideSheet.vue'

defineProps<{ title: string; label: string; action: string }>()
const emit = defineEmits<{ close: []; name: [name: string] }>()
const name = ref('')
const missing = ref(false)

function done(): void {
  missing.value = name.value.trim() === ''
  if (!missing.value) emit('name', name.value.trim())
}
</script>

<template>
  <SideSheet :title="title" @close="emit('close')">
    <form id="name-sheet" @submit.prevent="done">
      <label class="field" :class="{ wrong: missing }">
        <span>{{ label }}</span>
        <input v-model="name" maxlength="80" autocomplete="off" autofocus />
      </label>
      <p v-if="missing" class="said" role="alert">{{ label }}: {{ say('fault.text.missing') }}</p>
    </form>
    <slot />
    <template #action>
      <span />
      <MitreButton form="name-sheet" :label="action" />
    </template>
  </SideSheet>
</template>

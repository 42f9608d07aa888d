<script setup lang="ts">
// Going on without a hold or a wait: with a name and a reason, and it stays visible.
import { ref } from 'vue'
import PersonChoice from '../../parts/PersonChoice.vue'
import SideSheet from '../../parts/SideSheet.vue'
import { say } from '../../words/words'
import { useArea } from './useArea'

const props = defineProps<{ step: string; title: string }>()
const emit = defineEmits<{ close: [] }>()
const { look, record } = useArea()
const reason = ref('')
const person = ref('')
const error = ref('')

async function keep(): Promise<void> {
  error.value = ''
  if (!reason.value.trim()) error.value = `${say('override.reason')}: ${say('fault.text.missing')}`
  else if (!person.value) error.value = `${say('override.person')} ${say('fault.choice.missing')}`
  if (error.value) return
  const kept = await record(
    'overridden',
    { step: props.step, person: person.value, reason: reason.value.trim() },
    { key: 'override.kept' },
  )
  if (kept) emit('close')
}
</script>

<template>
  <SideSheet :title="say('override.title')" @close="emit('close')">
    <h2 class="sub">{{ title }}</h2>
    <p>{{ say('override.line') }}</p>
    <label class="field">
      <span>{{ say('override.reason') }}</span>
      <input v-model="reason" maxlength="500" autocomplete="off" />
    </label>
    <PersonChoice v-model="person" :people="look.job.people" :label="say('override.person')" />
    <p v-if="error" class="said" role="alert">{{ error }}</p>
    <template #action>
      <button class="outline" @click="emit('close')">{{ say('cancel') }}</button>
      <button class="outline" @click="keep">{{ say('override.keep') }}</button>
    </template>
  </SideSheet>
</template>

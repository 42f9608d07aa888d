<script setup lang="ts">
// A window that has shut: the sheet's remedy, and what was done of it.
import { ref } from 'vue'
import { keptText } from '../../data/keptText'
import SideSheet from '../../parts/SideSheet.vue'
import { say } from '../../words/words'
import { useArea, type Step } from '../area/useArea'

const props = defineProps<{ step: Step }>()
const emit = defineEmits<{ close: [] }>()
const { record } = useArea()
const remedy = props.step.after?.find((link) => link.otherwise)?.otherwise ?? ''
const did = keptText(`did.${props.step.id}`, remedy)
const error = ref('')

async function keep(): Promise<void> {
  if (!did.value.trim()) error.value = `${say('field.did')}: ${say('fault.text.missing')}`
  else if (await record('remedied', { step: props.step.id, did: did.value.trim() }, { key: 'remedy.kept' })) {
    did.value = ''
    emit('close')
  }
}
</script>

<template>
  <SideSheet :title="say('remedy.title')" @close="emit('close')">
    <p>{{ say('remedy.line', { remedy }) }}</p>
    <v-text-field v-model="did" :label="say('field.did')" maxlength="500" autocomplete="off" />
    <p v-if="error" class="said" role="alert">{{ error }}</p>
    <template #action>
      <button class="outline" @click="emit('close')">{{ say('cancel') }}</button>
      <button class="outline" @click="keep">{{ say('remedy.keep') }}</button>
    </template>
  </SideSheet>
</template>

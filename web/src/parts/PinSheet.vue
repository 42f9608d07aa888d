<script setup lang="ts">
// Four digits of who answers for a hold or a signature: set at first, typed twice, then asked.
import { onMounted, ref } from 'vue'
import { checkPin, knowsPin, type AskingPin } from '../data/pin'
import { say, sayFault } from '../words/words'
import MitreButton from './MitreButton.vue'
import SideSheet from './SideSheet.vue'

const props = defineProps<{ asking: AskingPin }>()
const known = ref(true)
const digits = ref('')
const again = ref('')
const error = ref('')
const busy = ref(false)
onMounted(async () => (known.value = await knowsPin(props.asking.person)))

async function done(): Promise<void> {
  if (busy.value) return
  if (!known.value && digits.value !== again.value) {
    error.value = say('pin.twice')
    return
  }
  busy.value = true
  const wrong = await checkPin(props.asking.person, digits.value, !known.value)
  busy.value = false
  error.value = wrong.map(sayFault).join('. ')
  // They were set on another device: here they are asked. Or they were taken away: others are chosen.
  if (wrong.some((fault) => fault.key === 'pin.wrong')) known.value = true
  if (wrong.some((fault) => fault.key === 'pin.not_set')) known.value = false
  if (!wrong.length) props.asking.answer(true)
  else digits.value = again.value = ''
}
</script>

<template>
  <SideSheet :title="say('pin.title', { name: asking.name || say('pin.somebody') })" @close="asking.answer(false)">
    <form id="pin" class="pin" @submit.prevent="done">
      <p>{{ say(known ? 'pin.line' : 'pin.first') }}</p>
      <v-text-field
        v-model="digits"
        :label="say('pin.digits')"
        type="password"
        inputmode="numeric"
        maxlength="4"
        autocomplete="off"
        autofocus
      />
      <v-text-field
        v-if="!known"
        v-model="again"
        :label="say('pin.again')"
        type="password"
        inputmode="numeric"
        maxlength="4"
        autocomplete="off"
      />
      <p v-if="error" class="said" role="alert">{{ error }}</p>
      <p class="small">{{ say('pin.claims') }}</p>
    </form>
    <template #action>
      <button class="outline" type="button" @click="asking.answer(false)">{{ say('cancel') }}</button>
      <MitreButton form="pin" :label="say('pin.go')" :disabled="busy" />
    </template>
  </SideSheet>
</template>

<style scoped>
.pin {
  display: grid;
  gap: 14px;
}
.pin :deep(input) {
  font-size: 34px;
  letter-spacing: 0.4em;
}
</style>

<script setup lang="ts">
// By what the whole is shown to be tight; none of it only with its reason.
import { ref } from 'vue'
import OneOf from '../../parts/OneOf.vue'
import { say } from '../../words/words'
import type { Act } from './useEditor'

const PROOFS = ['water', 'spray', 'bays', 'film', 'look', 'none'] as const
defineProps<{ picked: string }>()
const emit = defineEmits<{ act: [act: Act] }>()
const none = ref(false)
const reason = ref('')
function pick(kind: string): void {
  none.value = kind === 'none'
  if (!none.value) emit('act', { does: 'proof', kind })
}
</script>

<template>
  <OneOf
    v-slot="{ option }"
    look="row"
    :options="PROOFS"
    :picked="(none ? 'none' : picked) as (typeof PROOFS)[number]"
    :label="say('school.proof')"
    @pick="pick"
  >
    <strong>{{ say(`school.proof.${option}`) }}</strong>
  </OneOf>
  <template v-if="none">
    <v-text-field v-model="reason" :label="say('override.reason')" maxlength="200" autocomplete="off" />
    <button class="outline" :disabled="!reason.trim()" @click="emit('act', { does: 'proof', kind: 'none', reason })">
      {{ say('editor.set') }}
    </button>
  </template>
</template>

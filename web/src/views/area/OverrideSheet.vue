<script setup lang="ts">
// Going on without a hold or a wait: with a name and a reason, and it stays visible.
import { ref } from 'vue'
import { useBook } from '../../data/book'
import SideSheet from '../../parts/SideSheet.vue'
import { say } from '../../words/words'
import { useArea } from './useArea'

const props = defineProps<{ step: string; title: string }>()
const emit = defineEmits<{ close: [] }>()
const { look, record } = useArea()
const book = useBook()
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
    <div role="radiogroup" :aria-label="say('override.person')">
      <p class="small">{{ say('override.person') }}</p>
      <button
        v-for="each in look.job.people"
        :key="each.id"
        class="row"
        role="radio"
        :aria-checked="person === each.id"
        :class="{ chosen: person === each.id }"
        @click="person = each.id"
      >
        <span class="grow">{{ book.names[each.id] || each.role }}</span>
      </button>
    </div>
    <p v-if="error" class="said" role="alert">{{ error }}</p>
    <template #action>
      <button class="outline" @click="emit('close')">{{ say('cancel') }}</button>
      <button class="outline" @click="keep">{{ say('override.keep') }}</button>
    </template>
  </SideSheet>
</template>

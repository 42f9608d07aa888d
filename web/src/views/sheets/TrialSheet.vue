<script setup lang="ts">
// A trial patch: what the product takes on this job's own base, where the sheet does not say or is
// not believed. Mass used over area becomes the job's own rate.
import { computed } from 'vue'
import { call, type Schemas } from '../../core/core'
import { useBook, type Job } from '../../data/book'
import { useAsking } from '../../data/useAsking'
import { useDraft } from '../../data/useDraft'
import MitreButton from '../../parts/MitreButton.vue'
import NumberFields from '../../parts/NumberFields.vue'
import SideSheet from '../../parts/SideSheet.vue'
import { fieldName, say, sayFault, unitName } from '../../words/words'
import FilmPanel from './FilmPanel.vue'

const props = defineProps<{ job: Job; sheet: Schemas['SheetSheet'] }>()
const emit = defineEmits<{ close: [] }>()
const book = useBook()
const draft = useDraft(
  () => `trial.${props.job.id}.${props.sheet.id}`,
  () => ({}),
)
const asks = useAsking(draft, () => call('trial.ask', { sheet: props.sheet, typed: { ...draft.typed.value } }))
const fields = computed(() =>
  asks.questions.value.map((q) => ({ id: q.id, label: `${fieldName(q.id)}, ${unitName(q.unit ?? '')}` })),
)
const faults = computed(() => asks.questions.value.filter((q) => q.state === 'wrong').map((q) => sayFault(q.fault!)))

async function keep(): Promise<void> {
  const body = asks.asked.value?.body
  if (!body) return
  const by = await book.who(props.job)
  if (!by) return
  await book.record({ kind: 'trial.made', jobId: props.job.id, by, body, say: { key: 'trial.kept' } })
  await draft.drop()
  emit('close')
}
</script>

<template>
  <SideSheet :title="say('trial.title')" @close="emit('close')">
    <p>{{ say('trial.line', { name: sheet.name }) }}</p>
    <NumberFields :fields="fields" :typed="draft.typed.value" @type="draft.type" @enter="keep" />
    <p v-for="fault in faults" :key="fault" class="said" role="alert">{{ fault }}</p>
    <FilmPanel v-if="asks.asked.value" :film="asks.asked.value.film" />
    <template #action>
      <span />
      <MitreButton :label="say('trial.keep')" :disabled="!asks.asked.value?.body" @click="keep" />
    </template>
  </SideSheet>
</template>

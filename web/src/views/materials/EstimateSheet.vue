<script setup lang="ts">
// An estimate for the client: hours, material, allowance, under one's own letterhead. Nothing of it
// goes into the record.
import { computed, ref } from 'vue'
import { askJob } from '../../data/folded'
import { type Job } from '../../data/book'
import { now as theTime } from '../../data/clock'
import { saveFile } from '../../data/files'
import { useAsking } from '../../data/useAsking'
import { useDraft, without } from '../../data/useDraft'
import FormFields from '../../parts/FormFields.vue'
import MitreButton from '../../parts/MitreButton.vue'
import SideSheet from '../../parts/SideSheet.vue'
import { money, quantity, say } from '../../words/words'

const props = defineProps<{ job: Job; area: string }>()
const emit = defineEmits<{ close: [] }>()
const error = ref('')
const draft = useDraft(
  () => `estimate.${props.job.id}.${props.area}`,
  () => ({}),
)
const asks = useAsking(draft, async () => {
  const typed = without(draft.typed.value, 'letterhead', 'client')
  return askJob(props.job.id, 'estimate.ask', { area: props.area, now: theTime().toISOString(), typed })
})
const out = computed(() => asks.asked.value)
const questions = computed(() => asks.questions.value)

async function paper(): Promise<void> {
  error.value = ''
  const { letterhead = '', client = '', ...typed } = draft.typed.value
  const answer = await fetch(`/api/jobs/${props.job.id}/estimate.pdf`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ area: props.area, typed, letterhead: letterhead.split('\n'), client }),
  }).catch(() => null)
  if (!answer?.ok) {
    error.value = say(answer ? 'estimate.not_sent' : 'estimate.no_signal')
    return
  }
  saveFile(`${say('estimate.file')} ${props.job.name}.pdf`, 'application/pdf', await answer.blob())
}
</script>

<template>
  <SideSheet :title="say('estimate.title')" @close="emit('close')">
    <p class="small">{{ say('estimate.is') }}</p>
    <v-textarea
      :label="say('estimate.letterhead')"
      rows="3"
      maxlength="400"
      :model-value="draft.typed.value.letterhead ?? ''"
      @update:model-value="draft.type('letterhead', $event)"
    />
    <v-text-field
      :label="say('estimate.client')"
      maxlength="80"
      :model-value="draft.typed.value.client ?? ''"
      @update:model-value="draft.type('client', $event)"
    />
    <FormFields :questions="questions" :typed="draft.typed.value" @type="draft.type" />
    <dl v-if="out" class="sums">
      <template v-for="h in out.hours" :key="h.work">
        <dt>{{ say(`work.${h.work}`) }}, {{ quantity(h.hours, 'h') }}</dt>
        <dd>{{ money(h.cost_cents) }}</dd>
      </template>
      <dt>{{ say('ask.estimate.material') }}</dt>
      <dd>{{ money(out.material_cents ?? 0) }}</dd>
      <dt>{{ say('ask.estimate.markup') }}</dt>
      <dd>{{ money(out.markup_cents) }}</dd>
      <dt>{{ say('ask.estimate.allowance') }}</dt>
      <dd>{{ money(out.allowance_cents) }}</dd>
      <dt>{{ say('ask.estimate.tax') }}</dt>
      <dd>{{ money(out.tax_cents) }}</dd>
      <dt>
        <strong>{{ say('estimate.total') }}</strong>
      </dt>
      <dd>
        <strong>{{ money(out.total_cents) }}</strong>
      </dd>
    </dl>
    <p v-if="out" class="small">{{ say('paper.estimate.waste', { percent: out.waste_percent }) }}</p>
    <p v-if="error" class="said" role="alert">{{ error }}</p>
    <template #action>
      <span />
      <MitreButton :label="say('estimate.pdf')" :disabled="!!out?.left" @click="paper" />
    </template>
  </SideSheet>
</template>

<style scoped>
.sums {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px 16px;
}
dd {
  text-align: end;
}
</style>

<script setup lang="ts">
// What lies there of a product: packs alike on one line; an opened one with its day, how it was shut,
// and the day it was looked at again.
import { computed } from 'vue'
import { call, type Schemas } from '../../core/core'
import { useBook, type Job } from '../../data/book'
import { useAsking } from '../../data/useAsking'
import { useDraft } from '../../data/useDraft'
import FormFields from '../../parts/FormFields.vue'
import MitreButton from '../../parts/MitreButton.vue'
import SideSheet from '../../parts/SideSheet.vue'
import { say } from '../../words/words'

const props = defineProps<{ job: Job; sheet: Schemas['SheetSheet']; part: string }>()
const emit = defineEmits<{ close: [] }>()
const book = useBook()

/** The last count, to go on from. */
function start(): Record<string, string> {
  const last = props.job.counted.find((c) => c.sheet === props.sheet.id && (c.part ?? '') === props.part)
  const typed: Record<string, string> = { stock: (last?.packs ?? []).map((_, i) => String(i + 1)).join(' ') }
  last?.packs.forEach((pack, i) => {
    for (const field of ['amount', 'count', 'opened', 'closing', 'checked', 'expires'] as const)
      if (pack[field]) typed[`stock.${i + 1}.${field}`] = String(pack[field])
  })
  return typed
}
const draft = useDraft(() => `stock.${props.job.id}.${props.sheet.id}.${props.part}`, start)
const asks = useAsking(draft, () =>
  call('stock.ask', { sheet: props.sheet, part: props.part, typed: { ...draft.typed.value } }),
)
const rows = computed(() => {
  const numbers = (draft.typed.value.stock ?? '').split(' ').filter(Boolean)
  return numbers.map((n) => ({ n, questions: asks.questions.value.filter((q) => q.id.startsWith(`stock.${n}.`)) }))
})
const next = computed(() => Number(asks.questions.value.find((q) => q.id === 'stock')?.args?.next ?? 1))

const add = () => draft.type('stock', `${draft.typed.value.stock ?? ''} ${next.value}`.trim())
const away = (n: string) =>
  draft.type(
    'stock',
    rows.value
      .map((r) => r.n)
      .filter((m) => m !== n)
      .join(' '),
  )

async function keep(): Promise<void> {
  const body = asks.asked.value?.body
  if (!body) return
  const by = await book.who(props.job)
  if (!by) return
  await book.record({ kind: 'stock.counted', jobId: props.job.id, by, body, say: { key: 'stock.kept' } })
  await draft.drop()
  emit('close')
}
</script>

<template>
  <SideSheet :title="say('stock.title')" @close="emit('close')">
    <p>{{ [sheet.name, part].filter(Boolean).join(', ') }}</p>
    <p class="small">{{ say('stock.line') }}</p>
    <section v-for="row in rows" :key="row.n" class="packs">
      <FormFields :questions="row.questions" :typed="draft.typed.value" @type="draft.type" />
      <button class="outline narrow" @click="away(row.n)">{{ say('stock.away') }}</button>
    </section>
    <p v-if="!rows.length" class="said">{{ say('stock.nothing') }}</p>
    <button class="outline narrow" @click="add">{{ say('ask.stock.add') }}</button>
    <template #action>
      <span />
      <MitreButton :label="say('stock.keep')" :disabled="!asks.asked.value?.body" @click="keep" />
    </template>
  </SideSheet>
</template>

<style scoped>
.packs {
  display: grid;
  gap: 10px;
  padding-bottom: 16px;
  border-bottom: 1.5px solid var(--line);
  justify-items: start;
}
</style>

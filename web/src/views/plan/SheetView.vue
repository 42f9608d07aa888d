<script setup lang="ts">
// The pack's own sheet, a figure at a time, with the sample as the form to fill.
import { computed, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { call, type Schemas } from '../../core/core'
import { useBook, type Job } from '../../data/book'
import { newId } from '../../data/ids'
import { useAsking } from '../../data/useAsking'
import { useDraft } from '../../data/useDraft'
import AppFrame from '../../parts/AppFrame.vue'
import BigPad from '../../parts/BigPad.vue'
import MitreButton from '../../parts/MitreButton.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import TheLedge from '../../parts/TheLedge.vue'
import { fieldName, quantity, say, sayFault, unitName } from '../../words/words'

const props = defineProps<{ job: string; sample: string; area: string }>()
const book = useBook()
const router = useRouter()

const draft = useDraft(
  () => `sheet.${props.job}.${props.sample}`,
  () => ({ id: newId() }),
)
const opened = shallowRef<Job | null>(null)
const { asked, asking, error, questions, question, type, enter, answer, ask } = useAsking(draft, () => {
  const { id = '', ...typed } = draft.typed.value
  return call('sheet.ask', { sample: props.sample, id, typed })
})
void book.job(props.job, new Date()).then((got) => (opened.value = got))

const sampleSays = computed(
  () => opened.value?.sheets.find((s) => s.id === props.sample)?.numbers[asking.value]?.says ?? '',
)

async function keep(): Promise<void> {
  const sheet = asked.value?.sheet
  if (!sheet || !opened.value) return
  const by = await book.who(opened.value)
  if (!by) return
  await book.record({ kind: 'sheet.added', jobId: props.job, by, body: { sheet }, say: { key: 'sheet.kept' } })
  await draft.drop()
  await router.replace(`/job/${props.job}/area/${props.area}/plan`)
}

const valueOf = (q: Schemas['AskQuestion']) =>
  q.typed === '-'
    ? say('sheet.not_stated')
    : q.kind === 'text'
      ? q.typed
      : q.state === 'answered'
        ? quantity(q.value, q.unit ?? '')
        : q.typed || '?'
</script>

<template>
  <AppFrame>
    <template #spine><PlainSpine /></template>
    <template #title
      ><h1>{{ say('sheet.title') }}</h1></template
    >
    <template #line>{{ opened?.name }}</template>
    <div class="split">
      <div class="scroll list">
        <p>{{ say('sheet.line') }}</p>
        <ul>
          <li v-for="q in questions" :key="q.id">
            <button class="row" :aria-current="q.id === asking" @click="ask(q.id)">
              <span class="grow">{{ fieldName(q.id) }}</span>
              <strong>{{ valueOf(q) }}</strong>
            </button>
            <p v-if="q.state === 'wrong' && q.id !== asking" class="said">{{ sayFault(q.fault!) }}</p>
          </li>
        </ul>
      </div>
      <div v-if="question" class="ask">
        <h2>{{ fieldName(question.id) }}</h2>
        <p v-if="sampleSays" class="small">{{ say('sheet.says', { says: sampleSays }) }}</p>
        <BigPad
          :id="question.id"
          :model-value="draft.typed.value[question.id] ?? ''"
          :label="fieldName(question.id)"
          :unit="unitName(question.unit ?? '')"
          :plain="question.kind === 'text'"
          :wrong="!!error"
          @update:model-value="type"
          @enter="enter"
        />
        <button v-if="question.kind === 'stated'" class="outline" @click="answer('-')">
          {{ say('sheet.not_stated') }}
        </button>
      </div>
    </div>
    <template #ledge>
      <TheLedge :error="error">
        <template #facts>{{ say('survey.left', { n: asked?.left ?? 0 }) }}</template>
        <template #outline>
          <button class="outline" @click="router.back()">{{ say('cancel') }}</button>
        </template>
        <template #mitre>
          <MitreButton v-if="asked?.sheet" :label="say('sheet.save')" @click="keep" />
          <MitreButton v-else :label="say('survey.enter')" @click="enter" />
        </template>
      </TheLedge>
    </template>
  </AppFrame>
</template>

<style scoped>
.split {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 420px;
}
.list {
  padding: 8px 24px;
}
.ask {
  margin: 10px 0;
  padding: 0 24px;
  border-inline-start: 2.4px solid var(--ink);
  display: grid;
  gap: 14px;
  grid-template-columns: minmax(0, 1fr);
  align-content: start;
}
@media (max-width: 759px) {
  .split {
    display: flex;
    flex-direction: column-reverse;
    height: auto;
  }
  .ask {
    border: 0;
  }
}
</style>

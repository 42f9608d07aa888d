<script setup lang="ts">
// A signature: person, role, drawn line, and what was seen when it was given.
import { computed, ref } from 'vue'
import type { Schemas } from '../../core/core'
import { askJob } from '../../data/folded'
import { sayRefusal } from '../../data/refusal'
import { prove } from '../../data/deviceKey'
import MitreButton from '../../parts/MitreButton.vue'
import PersonChoice from '../../parts/PersonChoice.vue'
import SignField from '../../parts/SignField.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import { moment, say } from '../../words/words'
import BlockLine from '../area/BlockLine.vue'
import OverrideLine from '../area/OverrideLine.vue'
import StepFrame from '../area/StepFrame.vue'
import { useArea, type Step } from '../area/useArea'
import TestChart from './TestChart.vue'

const props = defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const { look, job, area, minute, record, goOn, nameOf } = useArea()

const signed = computed(() => look.value.signatures.filter((each) => each.step === props.step.id).at(-1))
const open = computed(() => ['shut', 'stale', 'not_known'].includes(props.step.hold))
/** The stage with the test shows what is signed. */
const test = computed(() => (props.stage.steps.some((s) => s.does === 'test') ? look.value.test : null))
const last = computed(() => look.value.stages.at(-1)?.id === props.stage.id)
const person = ref('')
const role = computed(() => look.value.job.people.find((p) => p.id === person.value)?.role ?? '')
const line = ref<[number, number][][]>([])
const error = ref('')
const paper = `/api/jobs/${job}/areas/${area}/dossier.pdf`

async function sign(): Promise<void> {
  error.value = ''
  try {
    const by = { step: props.step.id, person: person.value }
    const { seen, signs } = await askJob(job, 'logbook.seen', { area, ...by })
    const body = { ...by, role: role.value || '-', line: line.value, seen, ...(await prove(signs)) }
    const kept = await record('signed', body, { key: 'sign.kept', args: { title: props.step.title } })
    if (kept && !last.value) goOn()
  } catch (refused) {
    error.value = sayRefusal(refused)
  }
}
</script>

<template>
  <StepFrame :step="step" :stage="stage" :line="say('sign.line')" :error="error">
    <template #drawing>
      <TestChart v-if="test" :test="test" :now="minute" />
      <NetDrawing
        v-else-if="look.geometry"
        :name="look.name"
        :input="{ job, area, layers: ['coat'], coat: look.coats.at(-1)?.step ?? '' }"
        :taps="['surface']"
      />
    </template>
    <h2>{{ step.title }}</h2>
    <p>{{ step.why }}</p>
    <BlockLine v-if="step.block && open" :step="step" />
    <p v-else-if="step.no_sign && open" class="said">{{ say(step.no_sign) }}</p>
    <template v-if="signed">
      <p :class="{ said: step.hold === 'stale' }">
        {{
          say(nameOf(signed.person) === signed.role ? 'sign.signed.role' : 'sign.signed', {
            who: nameOf(signed.person),
            role: signed.role,
          })
        }}
        <span class="small">{{ moment(signed.at) }}</span>
      </p>
      <p v-if="step.hold === 'stale'" class="said">{{ say('next.stale') }}</p>
      <p class="small mono seen">{{ signed.seen }}</p>
    </template>
    <template v-if="open && !step.block && !step.no_sign">
      <PersonChoice v-model="person" :people="look.job.people" :label="say('sign.who')" roles />
      <SignField v-model="line" />
    </template>
    <div v-if="last || test" class="paper">
      <h2 class="sub">{{ say('paper.title') }}</h2>
      <p class="small">{{ say('paper.line') }}</p>
      <a class="outline narrow" :href="paper" target="_blank" rel="noopener">{{ say('paper.open') }}</a>
    </div>
    <OverrideLine v-if="open && !step.block" :step="step" />
    <template #mitre>
      <MitreButton
        v-if="open && !step.block && !step.no_sign"
        :label="say('sign.act')"
        :line="step.title"
        @click="sign"
      />
    </template>
  </StepFrame>
</template>

<style scoped>
.seen {
  overflow-wrap: anywhere;
}
.paper {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding-top: 10px;
  border-top: 1.5px solid var(--line);
}
</style>

<script setup lang="ts">
// A spray test of standing faces: minutes, water, and what both sides showed.
import { computed, ref } from 'vue'
import type { Schemas } from '../../core/core'
import { call } from '../../core/core'
import { sayRefusal } from '../../data/refusal'
import { toggled } from '../../data/toggled'
import { useDraft } from '../../data/useDraft'
import NetDrawing from '../../drawing/NetDrawing.vue'
import CheckRow from '../../parts/CheckRow.vue'
import MitreButton from '../../parts/MitreButton.vue'
import NumberFields from '../../parts/NumberFields.vue'
import OneOf from '../../parts/OneOf.vue'
import { moment, say } from '../../words/words'
import BlockLine from '../area/BlockLine.vue'
import StepFrame from '../area/StepFrame.vue'
import { isShut, useArea, type Step } from '../area/useArea'

const props = defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const { look, job, area, record, goOn, nameOf } = useArea()
const draft = useDraft(
  () => `spray.${area}`,
  () => ({}),
)
const typed = computed(() => draft.typed.value)
const chosen = ref<string[]>([])
const error = ref('')
const fields = (['minutes', 'flow'] as const).map((id) => ({ id, label: say(`spray.${id}`) }))
const runs = computed(() => look.value.sprays.filter((run) => run.step === props.step.id).toReversed())
const seen = computed(() => typed.value.front === 'faulty' || ['damp', 'wet'].includes(typed.value.behind ?? ''))

async function keep(): Promise<void> {
  error.value = ''
  const number = async (field: string, most: number) =>
    (await call('units.number', { field, kind: 'number', typed: typed.value[field] ?? '', least: 0, most })).value
  try {
    const body = {
      step: props.step.id,
      surfaces: [...chosen.value],
      minutes: await number('minutes', 1440),
      L_per_min_m: await number('flow', 1000),
      front: typed.value.front ?? '',
      behind: typed.value.behind ?? '',
      where: typed.value.where ?? '',
    }
    if (!(await record('sprayed', body, { key: 'spray.kept' }))) return
    await draft.drop()
    chosen.value = []
    if (!props.step.to_spray.length) goOn()
  } catch (refused) {
    error.value = sayRefusal(refused)
  }
}
</script>

<template>
  <StepFrame :step="step" :stage="stage" :line="step.title" :error="error">
    <template #drawing>
      <NetDrawing
        v-if="look.geometry"
        :name="look.name"
        :taps="['surface']"
        :input="{ job, area, layers: [], selected: chosen }"
        @pick="(id) => step.to_spray.includes(id) && (chosen = toggled(chosen, id))"
      />
    </template>
    <h2>{{ step.title }}</h2>
    <p>{{ step.why }}</p>
    <BlockLine :step="step" />
    <template v-if="step.state !== 'done'">
      <div v-if="step.to_spray.length > 1" class="beside-key">
        <span class="grow small">{{ say('spray.where') }}</span>
        <button class="outline narrow" @click="chosen = [...step.to_spray]">{{ say('coat.all') }}</button>
      </div>
      <ul>
        <li v-for="id in step.to_spray" :key="id">
          <CheckRow
            :label="say('drawing.surface', { surface: id })"
            :checked="chosen.includes(id)"
            @toggle="chosen = toggled(chosen, id)"
          />
        </li>
      </ul>
      <template v-if="chosen.length">
        <NumberFields :fields="fields" :typed="typed" @type="draft.type" @enter="keep" />
        <OneOf
          v-for="(options, id) in { front: ['sound', 'faulty'], behind: ['dry', 'damp', 'wet', 'not_seen'] }"
          :key="id"
          v-slot="{ option }"
          class="wrapped"
          titled
          look="outline narrow"
          :options="options"
          :picked="typed[id]"
          :label="say(`spray.${id}`)"
          @pick="(option: string) => draft.type(id, option)"
        >
          {{ say(`spray.${id}.${option}`) }}
        </OneOf>
        <v-text-field
          v-if="seen"
          :label="say('spray.seen')"
          :model-value="typed.where ?? ''"
          maxlength="200"
          autocomplete="off"
          @update:model-value="draft.type('where', $event)"
        />
      </template>
    </template>
    <ul>
      <li v-for="run in runs" :key="run.entry" class="row">
        <span class="grow">
          <strong>{{ say(`spray.says.${run.says.replace(' ', '_')}`) }}</strong>
          {{ run.surfaces.map((surface) => say('drawing.surface', { surface })).join(', ') }}
          <span class="small">
            {{ say('spray.run', { minutes: run.minutes, flow: run.L_per_min_m }) }} · {{ say(run.why) }} ·
            {{ moment(run.at) }} {{ nameOf(run.by) }}
          </span>
        </span>
      </li>
    </ul>
    <template #mitre>
      <MitreButton
        v-if="step.state !== 'done' && !isShut(step)"
        :label="say('spray.keep')"
        :disabled="!chosen.length"
        @click="keep"
      />
    </template>
  </StepFrame>
</template>

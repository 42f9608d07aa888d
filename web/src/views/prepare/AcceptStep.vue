<script setup lang="ts">
// A hold point: work stops until someone signs, or answers by name for going on.
import { computed } from 'vue'
import type { Schemas } from '../../core/core'
import { keptText } from '../../data/keptText'
import MitreButton from '../../parts/MitreButton.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import PlainDrawing from '../../drawing/PlainDrawing.vue'
import { moment, say } from '../../words/words'
import BlockLine from '../area/BlockLine.vue'
import OverrideLine from '../area/OverrideLine.vue'
import StepFrame from '../area/StepFrame.vue'
import SurfaceFilm from '../coat/SurfaceFilm.vue'
import FindingsList from '../survey/FindingsList.vue'
import WaitPanel from '../waits/WaitPanel.vue'
import { useArea, type Step } from '../area/useArea'

const props = defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const { look, job, area, minute, record, go, goOn, show, nameOf } = useArea()
const note = keptText(`note.${props.step.id}`)

/** The coats this hold looks back on: those that were laid wet on wet together, or one; none where it accepts no film. */
const coats = computed(() => look.value.coats.filter((c) => props.step.accepts.includes(c.step)))
/** The one that falls short is shown first, else the last. */
const coat = computed(() => coats.value.find((c) => !c.enough) ?? coats.value.at(-1))
const layers = computed(() => (!coat.value ? ['bands'] : coat.value.by === 'comb' ? ['coat', 'film'] : ['coat']))
const tide = computed(() => (look.value.tide?.step === props.step.id ? look.value.tide : null))
/** Far enough ahead to see a long cure end. */
const hoursShown = computed(() => {
  const opens = Date.parse(tide.value?.opens ?? '')
  const ahead = Math.ceil((opens - Date.parse(minute.value)) / 3_600_000)
  return Math.min(240, Math.max(48, (ahead || 0) + 12))
})
/** The film that is short was read and is thin; else readings are missing. */
const thin = computed(() => coat.value?.surfaces.find((s) => s.surface === props.step.short)?.film.verdict === 'thin')
const open = computed(() => ['shut', 'stale', 'not_known'].includes(props.step.hold))

async function accept(): Promise<void> {
  const body = { step: props.step.id, ...(note.value.trim() ? { note: note.value.trim() } : {}) }
  if (await record('accepted', body, { key: 'accept.kept', args: { title: props.step.title } })) {
    note.value = ''
    goOn()
  }
}
</script>

<template>
  <StepFrame :step="step" :stage="stage" :line="say('accept.line')">
    <template #drawing>
      <PlainDrawing
        v-if="tide && open"
        :label="say('tide.label', { name: look.name })"
        :input="{ kind: 'tide', tide, now: minute, hours: hoursShown }"
      />
      <NetDrawing
        v-else-if="look.geometry"
        :name="look.name"
        :taps="['surface', 'reading', 'piece']"
        :input="{ job, area, layers, coat: coat?.step ?? '' }"
      />
    </template>
    <h2>{{ step.title }}</h2>
    <p>{{ step.why }}</p>
    <WaitPanel v-if="tide && open && step.block" :step="step" :tide="tide" />
    <BlockLine v-else-if="step.block && open" :step="step" />
    <p v-if="open && step.short" class="said">{{ say('accept.short', { surface: step.short }) }}</p>
    <p v-if="step.hold === 'shut'">{{ say('accept.shut') }}</p>
    <p v-if="step.hold === 'stale' && step.signed" class="said">
      {{ say('accept.stale', { at: step.signed.at, who: nameOf(step.signed.by) }) }}
    </p>
    <p v-if="step.hold === 'released' && step.signed">
      {{ say('accept.released', { at: step.signed.at, who: nameOf(step.signed.by) }) }}
      <span v-if="step.signed.note" class="small">“{{ step.signed.note }}”</span>
    </p>
    <p v-if="step.override" class="said">
      {{
        say('accept.overridden', {
          at: step.override.at,
          who: nameOf(step.override.person ?? ''),
          reason: step.override.note,
        })
      }}
      <span class="small">{{ moment(step.override.at) }}</span>
    </p>
    <SurfaceFilm v-for="each in coats" :key="each.step" :coat="each" />
    <FindingsList v-if="open" :gates="step.gates" />
    <v-text-field v-if="open" v-model="note" :label="say('accept.note')" maxlength="500" autocomplete="off" />
    <OverrideLine v-if="open && !step.block" :step="step" />
    <template #mitre>
      <span id="step-mitre" class="teleport" />
      <MitreButton
        v-if="open && !step.block && !step.short && !step.gates.length"
        :label="say('accept.sign')"
        :line="step.title"
        @click="accept"
      />
      <MitreButton
        v-else-if="open && !step.block && step.gates.length"
        :label="say('accept.to_base')"
        :line="say('accept.to_base.line')"
        @click="go('survey')"
      />
      <MitreButton
        v-else-if="open && !step.block && coat"
        :label="say(thin ? 'accept.lay_more' : 'accept.read_more')"
        :line="say('accept.back.line', { surface: step.short })"
        @click="show(coat.step)"
      />
    </template>
  </StepFrame>
</template>

<style scoped>
.teleport {
  display: contents;
}
</style>

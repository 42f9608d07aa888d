<script setup lang="ts">
// What the core derives and finds: what stops the work with what would lift it, then volumes,
// screed, fill and pressure.
import { computed } from 'vue'
import type { Schemas } from '../../core/core'
import { fieldName, say } from '../../words/words'

const props = defineProps<{
  gates: Schemas['GatesGate'][]
  area?: Schemas['WetareaArea'] | null
  /** What the survey asks now. */
  questions?: readonly Schemas['AskQuestion'][]
}>()
const emit = defineEmits<{ ask: [id: string] }>()
const leads = (gate: Schemas['GatesGate']) => (props.questions ?? []).filter((q) => gate.ask?.includes(q.id))

const wording = (gate: Schemas['GatesGate']) => ({ place: gate.place, ...gate.args })
const sorted = computed(() => [...props.gates].sort((a, b) => Number(b.hold) - Number(a.hold)))
const lines = computed(() => {
  const a = props.area
  if (!a) return []
  const said: string[] = []
  if (a.takeoff.turned_round) said.push(say('survey.turned'))
  if (a.water) said.push(say('survey.water', { volume: a.water.volume_L }))
  const screed = a.falls?.screed
  if (screed)
    said.push(
      say('survey.screed', {
        volume: screed.screed_volume_L,
        weight: a.falls?.weight_kg,
        most: screed.max_thickness_mm,
      }),
    )
  if (a.falls?.height_left_mm != null) said.push(say('survey.left_over', { left: a.falls.height_left_mm }))
  if (a.fill) said.push(say('survey.fill', { volume: a.fill.volume_L, weight: a.fill.weight_kg }))
  if (a.takeoff.threshold_mm) said.push(say('survey.stopped', { mm: a.takeoff.threshold_mm }))
  if (a.takeoff.saddle_points + a.takeoff.folded_by_hand)
    said.push(say('survey.saddles', { n: a.takeoff.saddle_points + a.takeoff.folded_by_hand }))
  const bars = (a.heads ?? []).map((h) => Math.max(h.positive_bar, h.negative_bar))
  if (bars.length) said.push(say('survey.head', { bar: Math.max(...bars) }))
  if (a.termination_mm) said.push(say('survey.termination', { mm: a.termination_mm }))
  return said
})
</script>

<template>
  <div class="findings">
    <div v-for="gate in sorted" :key="gate.key + gate.place" :class="gate.hold ? 'stop' : 'look'">
      <p>
        <strong>{{ say(gate.key, wording(gate)) }}.</strong> {{ say(`${gate.key}.lift`, wording(gate)) }}.
      </p>
      <button v-for="q in leads(gate)" :key="q.id" class="outline narrow" @click="emit('ask', q.id)">
        {{ fieldName(q.id) }}
      </button>
    </div>
    <p v-for="line in lines" :key="line">{{ line }}</p>
    <details v-if="area?.heads?.length">
      <summary>{{ say('survey.heads') }}</summary>
      <p v-for="h in area.heads" :key="h.surface">
        {{ say('survey.head.line', { surface: h.surface, positive: h.positive_bar, negative: h.negative_bar }) }}
      </p>
    </details>
    <details v-if="area?.water">
      <summary>{{ say('survey.levels') }}</summary>
      <p v-for="l in area.water.levels" :key="l.below_water_line_mm">
        {{ say('survey.level', { below: l.below_water_line_mm, volume: l.volume_L }) }}
      </p>
    </details>
  </div>
</template>

<style scoped>
.findings {
  display: grid;
  gap: 8px;
}
.findings:empty {
  display: none;
}
summary {
  padding-block: 15px;
  font-weight: 650;
  cursor: pointer;
}
.stop,
.look {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding-inline-start: 12px;
  border-inline-start: 8px solid var(--plum7);
}
.look {
  border-inline-start: 8px double var(--amber7);
}
</style>

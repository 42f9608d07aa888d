<script setup lang="ts">
// What was laid: surfaces, the mass it took, and from which bucket.
import { computed, onMounted, ref } from 'vue'
import { call } from '../../core/core'
import { sayRefusal } from '../../data/refusal'
import { useDraft } from '../../data/useDraft'
import FirstLine from '../../parts/FirstLine.vue'
import BigPad from '../../parts/BigPad.vue'
import MitreButton from '../../parts/MitreButton.vue'
import { say } from '../../words/words'
import { isShut, useArea, type Coat, type Step } from '../area/useArea'
import OneOf from '../../parts/OneOf.vue'
import AsDone from '../work/AsDone.vue'
import { asDone } from '../work/asDone'

const props = defineProps<{ coat: Coat; step: Step; chosen: string[]; open: string[] }>()
const emit = defineEmits<{ choose: [ids: string[]]; error: [text: string]; laid: [surfaces: string[]] }>()
const { look, area, record } = useArea()
const draft = useDraft(
  () => `lay.${area}`,
  () => ({}),
)
const ready = ref(false)
onMounted(() => (ready.value = true))

const buckets = computed(() =>
  look.value.batches.filter((batch) => batch.step === props.step.id && batch.phase !== 'spoilt'),
)
const from = ref(buckets.value.findLast((batch) => batch.live)?.id ?? '')
const typed = computed(() => draft.typed.value.kg ?? '')

/** More on surfaces that are laid already: into the wet coat, or as a layer on a skinned one. */
const again = computed(() =>
  props.coat.surfaces.filter((surface) => surface.laid && props.chosen.includes(surface.surface)),
)
const topsUp = computed(() => {
  if (!again.value.length || again.value.length < props.chosen.length) return ''
  if (again.value.some((surface) => !surface.top_up)) return ''
  return again.value.some((surface) => surface.top_up?.state === 'skinned') ? 'skinned' : 'wet'
})

async function laid(): Promise<void> {
  if (!props.chosen.length) return emit('error', say('coat.pick'))
  if (again.value.some((surface) => surface.top_up) && !topsUp.value) return emit('error', say('coat.lay.apart'))
  const entered = { ...draft.typed.value }
  try {
    const { value: kg } = await call('units.number', {
      field: 'kg',
      kind: 'number',
      typed: typed.value,
      least: 0.01,
      most: 5000,
    })
    const body = {
      step: props.step.id,
      surfaces: [...props.chosen],
      kg,
      ...(from.value ? { batch: from.value } : {}),
      ...(topsUp.value ? { tops_up: topsUp.value } : {}),
      ...asDone(entered),
    }
    if (!(await record('laid', body, { key: 'coat.kept.laid', args: { kg } }))) return
    await draft.recorded(entered)
    emit('laid', body.surfaces)
  } catch (error) {
    emit('error', sayRefusal(error))
  }
}
</script>

<template>
  <section class="lay">
    <p v-if="topsUp" class="said">{{ say(`coat.lay.on.${topsUp}`) }}</p>
    <BigPad
      id="kg"
      :model-value="typed"
      :label="say('coat.lay.kg')"
      unit="kg"
      @update:model-value="(text) => draft.type('kg', text)"
      @enter="laid"
    >
      {{ chosen.length ? chosen.map((id) => say('drawing.surface', { surface: id })).join(', ') : say('coat.pick') }}
    </BigPad>
    <FirstLine of="lay" :count="coat.used_kg" />
    <OneOf
      v-if="buckets.length"
      v-slot="{ option }"
      class="from"
      titled
      look="outline narrow"
      :options="buckets.map((batch) => batch.id)"
      :picked="from"
      :label="say('coat.lay.from')"
      @pick="(id) => (from = from === id ? '' : id)"
    >
      {{ buckets.find((batch) => batch.id === option)?.number }}
    </OneOf>
    <AsDone :typed="draft.typed.value" @type="draft.type" />
    <Teleport v-if="ready" defer to="#step-mitre">
      <MitreButton
        v-if="buckets.length || !isShut(step)"
        :label="say('coat.laid')"
        :line="say('coat.laid.line', { kg: typed || 0, n: chosen.length })"
        @click="laid"
      />
    </Teleport>
  </section>
</template>

<style scoped>
.lay {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}
:root.slim .lay .said {
  order: 1; /* the keys of the number are in sight first */
}
.from {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
</style>

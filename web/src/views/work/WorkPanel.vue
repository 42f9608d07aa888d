<script setup lang="ts">
// One material of a step: where it goes, how much of it, and what was laid of it.
import { computed, onMounted, ref } from 'vue'
import { call } from '../../core/core'
import { sayRefusal } from '../../data/refusal'
import { toggled } from '../../data/toggled'
import { useDraft } from '../../data/useDraft'
import { useHere } from '../../data/useHere'
import BigPad from '../../parts/BigPad.vue'
import CheckRow from '../../parts/CheckRow.vue'
import MitreButton from '../../parts/MitreButton.vue'
import OneOf from '../../parts/OneOf.vue'
import { place, quantity, say } from '../../words/words'
import { isShut, useArea, type Step } from '../area/useArea'
import BucketSteps from '../coat/BucketSteps.vue'
import MixPanel from '../coat/MixPanel.vue'
import AsDone from './AsDone.vue'
import { asDone } from './asDone'
import { workId, type Work } from './useWorks'

const props = defineProps<{ step: Step; work: Work; name: string; chosen: string[] }>()
const emit = defineEmits<{ choose: [ids: string[]]; error: [text: string]; laid: [] }>()
const { look, area, record } = useArea()
const draft = useDraft(
  () => `work.${area}.${props.step.id}.${workId(props.work)}`,
  () => ({}),
)
const ready = ref(false)
onMounted(() => (ready.value = true))

const open = computed(() => props.work.places.filter((each) => !props.work.laid.includes(each.id)))
const ids = computed(() => open.value.map((each) => each.id))
const weighed = computed(() => props.work.unit === 'kg')
const asked = computed(() =>
  props.work.places.filter((each) => props.chosen.includes(each.id)).reduce((sum, each) => sum + each.need, 0),
)
const buckets = computed(() =>
  look.value.batches.filter((b) => b.step === props.step.id && b.layer === props.work.layer && b.phase !== 'spoilt'),
)
const live = computed(() => buckets.value.find((batch) => batch.live))
type Mode = 'mix' | 'lay'
const mode = useHere<Mode>(`work.mode.${props.step.id}`, props.work.mixed && open.value.length ? 'mix' : 'lay')
const bucketShown = ref(live.value?.id ?? '')
const bucket = computed(() => buckets.value.find((batch) => batch.id === bucketShown.value))
const need = computed(() =>
  props.work.need === null ? say('work.need.unknown') : quantity(props.work.need, props.work.unit),
)

async function laid(): Promise<void> {
  if (!props.chosen.length) return emit('error', say('work.pick'))
  const entered = { ...draft.typed.value }
  try {
    const amount = weighed.value
      ? (await call('units.number', { field: 'kg', kind: 'number', typed: entered.kg ?? '', least: 0.001, most: 5000 }))
          .value
      : 0
    const body = {
      step: props.step.id,
      layer: props.work.id,
      coat: props.work.coat,
      surfaces: [...props.chosen],
      ...(weighed.value ? { kg: amount } : {}),
      ...(live.value ? { batch: live.value.id } : {}),
      ...asDone(entered),
    }
    const args = { name: props.name, n: props.chosen.length }
    if (!(await record('laid', body, { key: 'work.kept', args }))) return
    await draft.recorded(entered)
    emit('choose', [])
    emit('laid')
  } catch (error) {
    emit('error', sayRefusal(error))
  }
}
</script>

<template>
  <section class="work">
    <h2 class="sub">{{ work.name || name }}</h2>
    <p>{{ say('work.need', { need, n: work.laid.length, of: work.places.length }) }}</p>
    <OneOf
      v-if="work.mixed && open.length"
      v-slot="{ option }"
      class="modes"
      of="tab"
      look="outline narrow"
      :options="['mix', 'lay'] as const"
      :picked="bucket ? undefined : mode"
      :label="say('coat.mode')"
      @pick="
        (next) => {
          mode = next
          bucketShown = ''
        }
      "
    >
      {{ say(`coat.mode.${option}`) }}
    </OneOf>
    <BucketSteps
      v-if="bucket"
      :batch="bucket"
      @error="(text) => emit('error', text)"
      @lay="
        () => {
          mode = 'lay'
          bucketShown = ''
        }
      "
      @done="bucketShown = ''"
    />
    <MixPanel
      v-else-if="mode === 'mix' && work.mixed && open.length"
      :step="step"
      :layer="work.layer"
      :number="0"
      :all="work.places.map((each) => each.id)"
      :chosen="chosen"
      :open="ids"
      @choose="(list) => emit('choose', list)"
      @error="(text) => emit('error', text)"
      @begun="(id) => (bucketShown = id)"
    />
    <template v-else>
      <div v-if="open.length > 1" class="beside-key">
        <span class="grow small">{{ say('work.where') }}</span>
        <button class="outline narrow" @click="emit('choose', [...ids])">{{ say('coat.all') }}</button>
        <button v-if="chosen.length" class="outline narrow" @click="emit('choose', [])">{{ say('coat.none') }}</button>
      </div>
      <ul>
        <li v-for="each in work.places" :key="each.id">
          <CheckRow
            :label="`${place(each.id)}${each.size ? `, ${quantity(each.size, each.unit)}` : ''}`"
            :checked="work.laid.includes(each.id) || chosen.includes(each.id)"
            :disabled="work.laid.includes(each.id)"
            @toggle="emit('choose', toggled(chosen, each.id))"
          />
        </li>
      </ul>
      <BigPad
        v-if="weighed && chosen.length"
        id="kg"
        :model-value="draft.typed.value.kg ?? ''"
        :label="say('work.kg', { name })"
        unit="kg"
        @update:model-value="(text) => draft.type('kg', text)"
        @enter="laid"
      >
        {{ asked ? say('work.asked', { kg: asked }) : say('work.need.unknown') }}
      </BigPad>
      <AsDone v-if="chosen.length" :typed="draft.typed.value" @type="draft.type" />
    </template>
    <Teleport v-if="ready && !bucket && (mode === 'lay' || !work.mixed)" defer to="#step-mitre">
      <MitreButton
        v-if="open.length && (live || !isShut(step))"
        :label="say('work.laid', { name })"
        :line="chosen.length ? say('work.laid.line', { n: chosen.length }) : say('work.pick')"
        :disabled="!chosen.length"
        @click="laid"
      />
    </Teleport>
  </section>
</template>

<style scoped>
.work {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}
.modes {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  gap: 8px;
}
</style>

<script setup lang="ts">
// Comb readings: tap a spot on the drawing, then the last wet tooth; or type the numbers.
import { computed, onMounted, ref, watch } from 'vue'
import { call } from '../../core/core'
import { askJob } from '../../data/folded'
import { sayRefusal } from '../../data/refusal'
import { keptText } from '../../data/keptText'
import { useDraft } from '../../data/useDraft'
import FirstLine from '../../parts/FirstLine.vue'
import MitreButton from '../../parts/MitreButton.vue'
import NumberFields from '../../parts/NumberFields.vue'
import TheComb from '../../parts/TheComb.vue'
import { say } from '../../words/words'
import { useArea, type Coat, type Spot, type Step } from '../area/useArea'
import SurfaceFilm from './SurfaceFilm.vue'

const props = defineProps<{ coat: Coat; step: Step; spot: Spot | null; reading: string; pile: string[] }>()
const emit = defineEmits<{
  error: [text: string]
  spot: [spot: Spot | null]
  reading: [id: string]
  topUp: [surface: string]
}>()
const { look, job, area, record } = useArea()

const tooth = ref<number | null>(null)
let picks = 0 // of teeth: one picked while a reading is being kept is the next reading's
const byNumbers = ref(false)
const draft = useDraft(
  () => `read.${area}`,
  () => ({}),
)
const why = keptText('why')
const ready = ref(false)
onMounted(() => (ready.value = true))

const teeth = computed(() => look.value.comb)
const lower = computed(() => (tooth.value === null || tooth.value < 0 ? 0 : teeth.value[tooth.value]!))
const upper = computed(() => (tooth.value === null ? null : (teeth.value[tooth.value + 1] ?? null)))
const count = computed(() => props.coat.readings.length)
const piled = computed(() => props.coat.readings.filter((reading) => props.pile.includes(reading.entry)))
const shown = computed(() => props.coat.readings.find((reading) => reading.entry === props.reading))

watch(
  () => props.spot,
  (spot) => {
    if (spot) void draft.replace({ ...draft.typed.value, along: String(spot.along_mm), up: String(spot.up_mm) })
  },
)

const keepLine = computed(() => {
  if (tooth.value === null) return ''
  if (upper.value === null) return say('read.keep.all', { lower: lower.value })
  return lower.value === 0
    ? say('read.keep.none', { upper: upper.value })
    : say('read.keep.line', { lower: lower.value, upper: upper.value })
})

async function keep(spot: Spot, lastWet: number, nextDry: number | null): Promise<void> {
  const entered = { ...draft.typed.value }
  const from = props.spot
  const mine = picks
  const body = { step: props.step.id, ...spot, last_wet_mm: lastWet, next_dry_mm: nextDry }
  const kept = await record('read', body, {
    key: 'read.kept',
    args: { surface: spot.surface, lower: lastWet, upper: nextDry },
  })
  if (!kept) return
  if (picks === mine) tooth.value = null
  if (props.spot === from) emit('spot', null) // else the next spot is tapped already
  await draft.recorded(entered)
}

function pickTooth(index: number): void {
  picks++
  tooth.value = index
}

async function keepTooth(): Promise<void> {
  if (!props.spot) return emit('error', say('read.place'))
  if (tooth.value !== null) await keep(props.spot, lower.value, upper.value)
}

/** Where the coat is read next: what falls short first. */
const next = computed<Spot | null>(() => {
  const wants = props.coat.surfaces.find((s) => s.laid && s.film.verdict === 'too few' && s.unread.at_mm)
  const at = wants?.unread.at_mm
  return wants && at ? { surface: wants.surface, along_mm: at[0]!, up_mm: at[1]! } : null
})

const fields = [
  { id: 'along', label: say('read.along'), most: 100_000 },
  { id: 'up', label: say('read.up'), most: 100_000 },
  { id: 'last_wet', label: say('read.wet'), most: 50 },
  { id: 'next_dry', label: say('read.dry'), most: 50 },
] as const

async function keepNumbers(): Promise<void> {
  if (!props.spot || !look.value.geometry) return emit('error', say('read.place'))
  try {
    const read: Record<string, number> = {}
    for (const { id, most } of fields) {
      read[id] = (
        await call('units.number', { field: id, kind: 'number', typed: draft.typed.value[id] ?? '', least: 0, most })
      ).value
    }
    const spot = { surface: props.spot.surface, along_mm: read.along!, up_mm: read.up! }
    await askJob(job, 'wetarea.place', { area, ...spot })
    await keep(spot, read.last_wet!, read.next_dry!)
  } catch (error) {
    emit('error', sayRefusal(error))
  }
}

async function takeBack(): Promise<void> {
  if (!shown.value || !why.value.trim()) return emit('error', `${say('read.reason')} ${say('fault.text.missing')}`)
  const kept = await record(
    'read',
    null,
    { key: 'read.withdrawn' },
    { corrects: shown.value.entry, reason: why.value.trim() },
  )
  if (kept) {
    why.value = ''
    emit('reading', '')
  }
}
</script>

<template>
  <section class="read">
    <FirstLine of="read" :count="count" />
    <div v-if="shown" class="one">
      <h2 class="sub">{{ say('read.spot', { surface: shown.surface, along: shown.along_mm, up: shown.up_mm }) }}</h2>
      <p class="big">
        {{
          shown.upper_mm === null
            ? say('read.keep.all', { lower: shown.lower_mm })
            : say('read.keep.line', { lower: shown.lower_mm, upper: shown.upper_mm })
        }}
      </p>
      <v-text-field v-model="why" :label="say('read.reason')" maxlength="500" autocomplete="off" />
      <div class="both">
        <button class="outline narrow" @click="emit('reading', '')">{{ say('close') }}</button>
        <button class="outline narrow" @click="takeBack">{{ say('read.withdraw') }}</button>
      </div>
    </div>
    <section v-else-if="piled.length && !spot">
      <h2 class="sub">{{ say('read.pile', { n: piled.length }) }}</h2>
      <button v-for="each in piled" :key="each.entry" class="row" @click="emit('reading', each.entry)">
        <span class="grow">{{
          say('read.spot', { surface: each.surface, along: each.along_mm, up: each.up_mm })
        }}</span>
        <strong>{{ say('drawing.bracket', { lower: each.lower_mm, upper: each.upper_mm ?? undefined }) }}</strong>
      </button>
    </section>
    <template v-else>
      <button class="outline narrow" @click="byNumbers = !byNumbers">
        {{ byNumbers ? say('read.comb') : say('read.numbers') }}
      </button>
      <button v-if="next && !spot" class="outline narrow" @click="emit('spot', next)">
        {{ say('read.next', next) }}
      </button>
      <p v-if="spot">
        <strong>{{ say('read.spot', { surface: spot.surface, along: spot.along_mm, up: spot.up_mm }) }}</strong>
      </p>
      <NumberFields
        v-if="byNumbers && spot"
        :fields="fields"
        :typed="draft.typed.value"
        @type="draft.type"
        @enter="keepNumbers"
      />
      <SurfaceFilm :coat="coat" may-lay @top-up="(surface) => emit('topUp', surface)" />
    </template>
    <Teleport v-if="ready && !shown" defer to="#step-comb">
      <p class="ask">{{ spot ? say('read.line', { n: count + 1, surface: spot.surface }) : say('read.place') }}</p>
      <TheComb v-if="!byNumbers" :target="coat.target_mm" :teeth="teeth" :picked="tooth" @pick="pickTooth" />
    </Teleport>
    <Teleport v-if="ready && !shown" defer to="#step-mitre">
      <MitreButton v-if="byNumbers" :label="say('read.keep')" :disabled="!spot" @click="keepNumbers" />
      <MitreButton
        v-else
        :label="say('read.keep')"
        :line="keepLine"
        :disabled="!spot || tooth === null"
        @click="keepTooth"
      />
    </Teleport>
  </section>
</template>

<style scoped>
.read,
.one {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
}
.big {
  font-size: 34px;
  font-weight: 720;
}
.both {
  display: flex;
  justify-content: space-between;
}
.ask {
  font-size: 20px;
  font-weight: 700;
  margin-bottom: 6px;
}
</style>

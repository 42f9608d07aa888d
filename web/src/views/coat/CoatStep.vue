<script setup lang="ts">
// A coat: mix for a share of it, lay it, read the film. Buckets that are live are always
// one tap away.
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../core/core'
import { askJob } from '../../data/folded'
import { toggled } from '../../data/toggled'
import { useHere } from '../../data/useHere'
import NetDrawing from '../../drawing/NetDrawing.vue'
import PlainDrawing from '../../drawing/PlainDrawing.vue'
import { countdown, say } from '../../words/words'
import BlockLine from '../area/BlockLine.vue'
import StepFrame from '../area/StepFrame.vue'
import { useArea, type Batch, type Spot, type Step } from '../area/useArea'
import BucketSteps from './BucketSteps.vue'
import FilmCheck from './FilmCheck.vue'
import LayPanel from './LayPanel.vue'
import MixPanel from './MixPanel.vue'
import ReadPanel from './ReadPanel.vue'
import TheBucket from '../../parts/TheBucket.vue'
import StartList from '../waits/StartList.vue'
import WaitPanel from '../waits/WaitPanel.vue'
import OneOf from '../../parts/OneOf.vue'

const props = defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const { look, job, area, now, minute } = useArea()

const coat = computed(() => look.value.coats.find((each) => each.step === props.step.id))
const buckets = computed(() => look.value.batches.filter((batch) => batch.step === props.step.id))
const live = computed(() => look.value.batches.filter((batch) => batch.live))

type Mode = 'wait' | 'mix' | 'lay' | 'read' | 'check'
const tide = computed(() => (look.value.tide?.step === props.step.id ? look.value.tide : null))
/** By what the coat is accepted: the comb is read, everything else checked. */
const last = computed<Mode>(() => (coat.value && coat.value.by !== 'comb' ? 'check' : 'read'))
const modes = computed<Mode[]>(() => [...(tide.value ? (['wait'] as const) : []), 'mix', 'lay', last.value])
function firstMode(): Mode {
  if (tide.value && props.step.block) return 'wait'
  return coat.value?.surfaces.every((s) => s.laid) ? last.value : 'mix'
}
const mode = useHere<Mode>(`mode.${props.step.id}`, firstMode())
/** The bucket at work comes into view first; one that only waits to be emptied leaves the reading in view. */
const atWork = (batch: Batch) => batch.live && (mode.value !== 'read' || batch.phase !== 'ready')
const bucketShown = ref(buckets.value.find(atWork)?.id ?? '')
const bucket = computed(() => look.value.batches.find((batch) => batch.id === bucketShown.value))
/** Live buckets that are not in view. */
const others = computed(() => live.value.filter((batch) => batch.id !== bucketShown.value))

const chosen = ref<string[]>([])
const spot = ref<Spot | null>(null)
const reading = ref('')
/** readings that lie on one place of the drawing, of which one is to be picked */
const pile = ref<string[]>([])
const error = ref('')

const open = computed(
  () => coat.value?.surfaces.filter((surface) => !surface.laid).map((surface) => surface.surface) ?? [],
)

function show(next: Mode): void {
  mode.value = next
  bucketShown.value = ''
  error.value = ''
  spot.value = null
  reading.value = ''
  pile.value = []
}

async function pick(id: string, of: string[]): Promise<void> {
  error.value = ''
  if (id.startsWith('reading.')) {
    reading.value = of.length ? '' : id.slice('reading.'.length)
    pile.value = of
    spot.value = null
  } else if (!spots.value) {
    chosen.value = toggled(chosen.value, id)
  } else {
    // By key there is no point of the drawing: begin where it is to be read next, numbers move it.
    const at = coat.value?.surfaces.find((each) => each.surface === id)?.unread.at_mm
    const place = at ? { along_mm: at[0]!, up_mm: at[1]! } : await askJob(job, 'wetarea.middle', { area, surface: id })
    spot.value = { surface: id, ...place }
    pile.value = []
  }
}

function takeSpot(at: Spot): void {
  if (!spots.value || reading.value) return
  spot.value = at
  pile.value = []
  error.value = ''
}

/** A thin surface: more is laid on it, then it is read again. */
function topUp(surface: string): void {
  show('lay')
  chosen.value = [surface]
}

/** What was chosen meanwhile stays chosen. */
function afterLaid(laid: string[]): void {
  chosen.value = chosen.value.filter((id) => !laid.includes(id))
  if (!open.value.length) mode.value = last.value
}

const timeLeft = (batch: Batch) => {
  const running =
    batch.timers.find((timer) => timer.name === batch.phase) ?? batch.timers.find((timer) => timer.name === 'use_by')
  return running ? countdown(Date.parse(running.due) - now.value.getTime()) : ''
}
const line = computed(() =>
  bucket.value
    ? say('bucket.line', { name: look.value.system?.name, step: props.step.title })
    : coat.value
      ? say('coat.line', { title: props.step.title, kg: coat.value.need_kg, wet: coat.value.target_mm })
      : props.step.title,
)
/** What stands before it is the wait itself, which its panel says. */
const ofWait = computed(() => ['wait', 'late', 'touch', undefined].includes(props.step.block?.kind))
const panels = { mix: MixPanel, lay: LayPanel, read: ReadPanel, check: FilmCheck }
/** Places are tapped, not surfaces. */
const spots = computed(() => mode.value === 'read' || (mode.value === 'check' && coat.value?.by === 'dry_film'))
// The window shut or was confirmed: the work comes into view.
watch(
  () => props.step.block?.kind,
  (kind, before) => {
    if (mode.value === 'wait' && !kind && before) show(firstMode())
  },
)
</script>

<template>
  <StepFrame
    :step="step"
    :stage="stage"
    :line="line"
    :error="error"
    :tall="mode === 'read' && !bucket"
    :asks="mode === 'lay' && !bucket"
    :plain="!!bucket"
  >
    <template #drawing>
      <TheBucket v-if="bucket" :litres="bucket.bucket_L" :parts="bucket.weigh" poured />
      <PlainDrawing
        v-else-if="mode === 'wait' && tide"
        :label="say('tide.label', { name: look.name })"
        :input="{ kind: 'tide', tide, now: minute }"
      />
      <NetDrawing
        v-else-if="look.geometry && coat"
        :name="look.name"
        :spots="spots"
        :taps="mode === 'read' ? ['surface', 'reading'] : ['surface']"
        :input="{
          job,
          area,
          layers: mode === 'read' ? ['coat', 'film'] : ['coat'],
          coat: coat.step,
          selected: mode === 'read' ? [] : chosen,
          ...(spot ? { spot } : {}),
        }"
        @pick="pick"
        @spot="takeSpot"
        @beside="error = say('fault.draw.beside_the_net')"
      />
    </template>
    <template v-if="coat">
      <OneOf
        v-slot="{ option }"
        class="modes"
        of="tab"
        look="outline narrow"
        :options="modes"
        :picked="bucket ? undefined : mode"
        :label="say('coat.mode')"
        @pick="show"
      >
        {{ say(`coat.mode.${option}`) }}
      </OneOf>
      <div v-if="others.length" class="live">
        <button v-for="batch in others" :key="batch.id" class="row" @click="bucketShown = batch.id">
          <span class="grow"
            ><strong>{{ say('coat.live', { n: batch.number }) }}</strong> {{ say(`bucket.phase.${batch.phase}`) }}</span
          >
          <strong class="left">{{ timeLeft(batch) }}</strong>
        </button>
      </div>
      <BlockLine v-if="step.state !== 'done' && (mode !== 'wait' || bucket || !ofWait)" :step="step" />
      <StartList v-if="!bucket && step.state !== 'done'" :step="step" />
    </template>
    <BucketSteps
      v-if="bucket"
      :batch="bucket"
      @error="(text) => (error = text)"
      @lay="show('lay')"
      @done="bucketShown = ''"
    />
    <WaitPanel v-else-if="mode === 'wait' && tide" :step="step" :tide="tide" />
    <component
      :is="panels[mode]"
      v-else-if="coat && mode !== 'wait'"
      :coat="coat"
      :number="coat.number"
      :all="coat.surfaces.map((each) => each.surface)"
      :step="step"
      :chosen="chosen"
      :open="open"
      :spot="spot"
      :reading="reading"
      :pile="pile"
      @choose="(ids: string[]) => (chosen = ids)"
      @error="(text: string) => (error = text)"
      @begun="(id: string) => (bucketShown = id)"
      @spot="(at: Spot | null) => (spot = at)"
      @reading="(id: string) => (reading = id)"
      @laid="afterLaid"
      @top-up="topUp"
    />
    <template #mitre><span id="step-mitre" class="teleport" /></template>
    <template #outline><span id="step-outline" class="teleport" /></template>
    <template v-if="mode === 'read' && !bucket" #facts><p /></template>
    <template #tool><div id="step-comb" /></template>
  </StepFrame>
</template>

<style scoped>
.modes {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  gap: 8px;
}
.teleport {
  display: contents;
}
.left {
  font-size: 23px;
}
</style>

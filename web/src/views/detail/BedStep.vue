<script setup lang="ts">
// Bands, corners and collars: tap a piece on either side to mark it, bed it with one press.
import { computed, ref } from 'vue'
import type { Schemas } from '../../core/core'
import FirstLine from '../../parts/FirstLine.vue'
import MitreButton from '../../parts/MitreButton.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import { fixed, place, say } from '../../words/words'
import StepFrame from '../area/StepFrame.vue'
import WorkPart from '../work/WorkPart.vue'
import { isDone, useWorks, workId } from '../work/useWorks'
import { isShut, useArea, type Step } from '../area/useArea'

type Piece = Schemas['LogbookPieceLook']

const props = defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const { look, record, goOn, job, area } = useArea()

const picked = ref('')
const works = useWorks(() => props.step, 'pieces')
const { work, tab } = works
const error = ref('')
/** By number, as they are bedded: each laps onto those before it. */
const pieces = computed(() => look.value.pieces.filter((piece) => piece.step === props.step.id))
const left = computed(() => pieces.value.filter((piece) => !piece.bedded))
const next = computed<Piece | undefined>(() => left.value.find((piece) => piece.id === picked.value) ?? left.value[0])
const then = computed(() => left.value.find((piece) => piece.id !== next.value?.id))
const mayBed = computed(() => !isShut(props.step))
const longest = computed(() => Math.max(1, ...pieces.value.map((piece) => piece.length_mm ?? 0)))

const nameOf = (piece: Piece) => `${say(`bed.kind.${piece.kind}`)} · ${place(piece.id)}`

async function bed(): Promise<void> {
  const piece = next.value
  if (!piece) return
  const last = left.value.length === 1 && props.step.works.every((each) => each.beds || isDone(each))
  const kept = await record(
    'bedded',
    { step: props.step.id, pieces: [piece.id] },
    { key: 'bed.kept', args: { piece: `${piece.number} ${place(piece.id)}` } },
  )
  picked.value = ''
  if (kept && last) goOn()
  else if (kept && !left.value.length) {
    const open = props.step.works.find((each) => !each.beds && !isDone(each))
    if (open) tab.value = workId(open)
  }
}
function laid(): void {
  works.onwards()
  if (!left.value.length && props.step.works.every((each) => each.beds || isDone(each))) goOn()
}
function pick(id: string): void {
  if (work.value) works.pick(id)
  else picked.value = id
}

const state = (piece: Piece) =>
  piece.bedded ? 'bedded' : piece.id === next.value?.id ? 'next' : piece.cut ? 'cut' : 'open'
</script>

<template>
  <StepFrame :step="step" :stage="stage" :line="say('bed.line', { title: step.title })" :error="error">
    <template #drawing>
      <NetDrawing
        v-if="look.geometry"
        :name="look.name"
        :taps="work ? ['surface'] : ['piece']"
        :input="{ job, area, layers: ['bands', 'numbers'], next_piece: next?.id ?? '' }"
        @pick="pick"
      />
    </template>
    <WorkPart :step="step" :of="works" :starts="left.length > 0" @error="(text) => (error = text)" @laid="laid">
      <FirstLine of="bed" :count="pieces.length - left.length" />
      <ul>
        <li v-for="piece in pieces" :key="piece.id">
          <button
            class="row piece"
            :class="{ chosen: piece.id === next?.id }"
            :disabled="piece.bedded"
            @click="picked = piece.id"
          >
            <strong class="number">{{ piece.number }}</strong>
            <span class="grow">
              {{ nameOf(piece) }}
              <span
                v-if="piece.length_mm"
                class="bar"
                :class="state(piece)"
                :style="{ width: `${(100 * piece.length_mm) / longest}%` }"
              />
            </span>
            <strong v-if="piece.length_mm">{{ fixed(piece.length_mm / 1000, 2) }}</strong>
            <span class="small">{{ say(`bed.state.${state(piece)}`) }}</span>
          </button>
        </li>
      </ul>
    </WorkPart>
    <template v-if="!work" #facts>
      <p v-if="left.length">
        <strong class="count">{{ left.length }}</strong> {{ say('bed.left', { n: '' }).trim() }}
      </p>
      <p v-else>{{ say('bed.all') }}</p>
    </template>
    <template #outline>
      <router-link class="outline" :to="`/job/${job}/cut/${area}`">{{ say('cut.open') }}</router-link>
    </template>
    <template #mitre>
      <span id="step-mitre" class="teleport" />
      <MitreButton
        v-if="!work && next && mayBed"
        :label="say(next.kind === 'band' ? 'bed.next' : 'bed.piece', { n: next.number })"
        :line="then ? say('bed.next.line', { next: place(then.id) }) : place(next.id)"
        @click="bed"
      />
    </template>
  </StepFrame>
</template>

<style scoped>
.teleport {
  display: contents;
}
.piece {
  min-height: 56px;
}
.number {
  width: 26px;
}
.bar {
  display: block;
  height: 12px;
  margin-top: 4px;
  border: 1.5px solid var(--ink);
  background:
    radial-gradient(circle at 3px 3px, var(--edge) 1px, transparent 1.3px) 0 0 / 6px 6px,
    var(--stone3);
}
.bar.cut {
  background: var(--stone3);
}
.bar.bedded {
  background: var(--bedded);
}
.bar.next {
  background: var(--lime);
}
.count {
  font-size: 34px;
  font-weight: 720;
}
</style>

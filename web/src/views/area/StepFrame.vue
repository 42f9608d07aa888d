<script setup lang="ts">
// The frame of one step: drawing left, one thing right, facts and actions below.
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '../../core/core'
import { useBook } from '../../data/book'
import AppFrame from '../../parts/AppFrame.vue'
import BackLink from '../../parts/BackLink.vue'
import TheLedge from '../../parts/TheLedge.vue'
import TheSpine from '../../parts/TheSpine.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import { frame } from '../../theme/useFrame'
import { LONG, say, unitName } from '../../words/words'
import ConflictSheet from './ConflictSheet.vue'
import RecordSheet from './RecordSheet.vue'
import WhySheet from './WhySheet.vue'
import { useArea, type Step } from './useArea'

const props = defineProps<{
  step: Step
  stage: Schemas['LogbookStageLook']
  line: string
  error?: string
  tall?: boolean
  /** a number is asked: on a phone its keys go before the drawing's size */
  asks?: boolean
  plain?: boolean
}>()
const area = useArea()
const book = useBook()
const router = useRouter()
const look = area.look
const showRecord = ref(false)
const showConflict = ref(false)
const showWhy = ref(false)

/** Keys for the office; digits without Alt always belong to the number being asked. */
function key(event: KeyboardEvent): void {
  if (!event.altKey || event.ctrlKey || event.metaKey) return
  const wanted = look.value.stages[event.code.startsWith('Digit') ? (Number(event.code.slice(5)) || 10) - 1 : -1]
  if (wanted) area.go(wanted.id)
  else if (event.code === 'KeyN') void router.push(`/job/${area.job}/now`)
  else if (event.code === 'KeyW') void router.push(`/job/${area.job}/waits`)
  else if (event.code === 'KeyZ' && book.canUndo) void book.undo()
  else return
  event.preventDefault()
}
onMounted(() => window.addEventListener('keydown', key))
onBeforeUnmount(() => window.removeEventListener('keydown', key))

/** How the recipe wants it done. */
const facts = computed(() => {
  const { face, strokes, first } = props.step
  return [
    { name: 'face', says: face ? say(`school.base.${face}`) : '' },
    { name: 'strokes', says: strokes ? say(`school.strokes.${strokes}`) : '' },
    { name: 'first', says: first ?? '' },
  ].filter((fact) => fact.says)
})
const isNext = computed(() => look.value.next.step === props.step.id)
const nextSays = computed(() => say(look.value.next.why, look.value.next.args ?? {}))
const deviations = computed(() => look.value.deviation_count + look.value.withdrawn.length)
</script>

<template>
  <AppFrame :tall="tall" :asks="asks" :crew="look.job">
    <template #spine>
      <TheSpine :stages="look.stages" :shown="stage.id" :job="area.job" @open="area.go" />
    </template>
    <template #mark>
      <router-link :to="`/job/${area.job}`" class="other" :aria-label="look.job.name">
        <NetDrawing
          v-if="look.geometry"
          mini
          :name="look.name"
          :input="{ job: area.job, area: area.area, layers: [] }"
        />
      </router-link>
    </template>
    <template #title>
      <h1 :class="{ long: look.name.length > LONG }">{{ look.name }}</h1>
    </template>
    <template #line><BackLink :to="`/job/${area.job}`" :name="look.job.name" /> · {{ line }}</template>
    <div class="split" :class="{ asks }">
      <section class="left"><slot name="drawing" /></section>
      <section class="right scroll">
        <div class="marks">
          <span v-if="look.sample" class="sample">{{ say('sample') }}</span>
          <button v-if="look.conflicts.length" class="outline narrow warn" @click="showConflict = true">
            {{ say('conflict.title') }}
          </button>
          <button v-if="deviations" class="outline narrow" @click="showRecord = true">
            {{ say('deviation.count', { n: deviations }) }}
          </button>
        </div>
        <div v-if="stage.steps.length > 1 && !plain" class="steps">
          <button
            v-for="each in stage.steps"
            :key="each.id"
            class="each"
            :aria-current="each.id === step.id"
            @click="area.show(each.id)"
          >
            <strong>{{ each.title }}</strong>
            <span class="small">{{
              each.state === 'done'
                ? say('step.done')
                : each.hold
                  ? say(`hold.${each.hold}`)
                  : each.id === look.next.step
                    ? say('step.open')
                    : ''
            }}</span>
          </button>
        </div>
        <p v-for="(d, i) in area.fresh.value" :key="i" class="said" role="status">{{ say(d.key, d.args ?? {}) }}</p>
        <slot />
        <button
          v-if="!plain && step.state !== 'done' && look.planned"
          class="outline narrow because"
          @click="showWhy = true"
        >
          {{ say(step.block ? 'because.shut' : 'because.open') }}
        </button>
        <dl v-if="!plain && facts.length" class="facts">
          <template v-for="fact in facts" :key="fact.name">
            <dt class="small">{{ say(`step.${fact.name}`) }}</dt>
            <dd>{{ fact.says }}</dd>
          </template>
        </dl>
        <section v-if="step.takes?.length && !plain" class="care">
          <h2 class="sub">{{ say('takes.title') }}</h2>
          <p v-for="takes in step.takes" :key="takes.item">
            <strong>{{ takes.title }}.</strong>
            {{
              say(takes.counted ? 'takes.have' : 'takes.uncounted', {
                need: Math.round(takes.need * 100) / 100,
                have: Math.round(takes.have * 100) / 100,
                unit: unitName(takes.unit),
              })
            }}
          </p>
        </section>
        <div v-if="!plain && look.planned" class="links">
          <router-link class="outline narrow" :to="`/job/${area.job}/materials/${area.area}`">{{
            say('materials.title')
          }}</router-link>
          <router-link class="outline narrow" :to="`/job/${area.job}/cut/${area.area}`">{{
            say('cut.open')
          }}</router-link>
        </div>
        <div v-if="!plain && (step.never?.length || step.cautions?.length)" class="care">
          <template v-if="step.never?.length">
            <h2 class="sub">{{ say('never.title') }}</h2>
            <p v-for="never in step.never" :key="never.line">
              <strong>{{ never.line }}.</strong> {{ never.reason }}
            </p>
          </template>
          <template v-if="step.cautions?.length">
            <h2 class="sub">{{ say('care.title') }}</h2>
            <p v-for="caution in step.cautions" :key="caution">{{ say(`caution.${caution}`) }}</p>
            <p class="small">{{ say('care.defer') }}</p>
          </template>
        </div>
      </section>
    </div>
    <WhySheet v-if="showWhy" :step="step.id" @close="showWhy = false" />
    <RecordSheet v-if="showRecord" @close="showRecord = false" />
    <ConflictSheet v-if="showConflict" @close="showConflict = false" />
    <template #ledge>
      <slot name="ledge">
        <TheLedge :error="error" :tall="tall">
          <template #facts>
            <slot name="facts">
              <p v-if="!(asks && frame === 'phone')" class="next" :class="look.next.state">
                <strong>{{ say(`next.state.${look.next.state}`) }}</strong> {{ nextSays }}
              </p>
            </slot>
          </template>
          <template #tool><slot name="tool" /></template>
          <template #outline><slot name="outline" :is-next="isNext" /></template>
          <template #mitre>
            <fieldset class="act" :disabled="area.busy.value"><slot name="mitre" /></fieldset>
          </template>
        </TheLedge>
      </slot>
    </template>
  </AppFrame>
</template>

<style scoped>
.asks .marks,
.asks .steps {
  order: 1;
}
.links {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.because {
  justify-self: start;
}
.facts {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 14px;
}
.other {
  width: 56px;
  height: 56px;
  flex: none;
}
.split {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
}
.left {
  min-height: 0;
  min-width: 0;
  padding: 4px 12px;
}
.right {
  min-height: 0;
  margin: 10px 0;
  padding: 0 24px 12px 20px;
  overflow-x: hidden;
  border-inline-start: 2.4px solid var(--ink);
  display: grid;
  gap: 14px;
  grid-template-columns: minmax(0, 1fr);
  align-content: start;
}
.marks {
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
  align-items: center;
}
.marks:empty {
  display: none;
}
.warn {
  background: var(--amber1);
}
.steps {
  display: flex;
  flex-wrap: wrap; /* two systems in one room have twice the steps */
  border-bottom: 2.4px solid var(--ink);
}
.each {
  flex: 1 1 82px;
  min-width: 0;
  min-height: 60px;
  padding: 4px 6px;
  display: grid;
  align-content: center;
  font-size: 15px;
  line-height: 1.1;
}
.each .small {
  font-size: 15px;
}
.each[aria-current='true'] {
  background: var(--sunk);
  border-bottom: 6px solid var(--ink);
}
.care {
  display: grid;
  gap: 6px;
  padding-top: 10px;
  border-top: 1.5px solid var(--line);
}
.act {
  display: contents;
}
.next {
  line-height: 1.25;
}
.next strong {
  display: block;
  font-size: 23px;
}
:root.lying .split {
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
}
:root.upright .split {
  grid-template: minmax(0, 1fr) minmax(0, 1fr) / minmax(0, 1fr);
}
:root.upright .right {
  margin: 0;
  padding: 10px 24px 16px;
  border-inline: 0;
  border-block-start: 2.4px solid var(--ink);
}
:root.phone .split,
:root.upright.low .split {
  grid-template: minmax(calc(36vh / var(--letters, 1)), 1fr) auto / minmax(0, 1fr);
  height: auto;
  min-height: 100%;
}
:root.phone .left,
:root.upright.low .left {
  display: grid;
  grid-template: minmax(0, 1fr) / minmax(0, 1fr);
}
:root.phone .right,
:root.upright.low .right {
  margin: 0;
  padding: 0 16px 16px;
  border: 0;
  overflow: visible;
}
:root.phone .split.asks,
:root.upright.low .split.asks {
  grid-template-rows: minmax(80px, 1fr) fit-content(calc(100% - 80px));
  height: 100%;
}
:root.upright .split.asks {
  grid-template-rows: minmax(200px, 1fr) fit-content(60%);
}
:root.phone .asks .right,
:root.upright.low .asks .right {
  gap: 8px;
  overflow-y: auto;
}
:root.narrow .other {
  display: none;
}
</style>

<script setup lang="ts">
// The stages as the core lists them, drawn as a joint band: what is done is bedded, the
// stage under way is a slanted block with its count, the rest is bare mesh. A hold is a
// clamp across the band. On a phone the band lies across the top and opens as a sheet.
import { computed, nextTick, ref, watch } from 'vue'
import type { Schemas } from '../core/core'
import { frame, letters } from '../theme/useFrame'
import { say } from '../words/words'
import SideSheet from './SideSheet.vue'
import ThePlaces from './ThePlaces.vue'
import TheMark from './TheMark.vue'

type Stage = Schemas['LogbookStageLook']

const props = defineProps<{ stages: Stage[]; shown: string; job: string }>()
const emit = defineEmits<{ open: [stage: string] }>()

const opened = ref(false)
const band = ref<HTMLElement>()
/** The stage that is shown is in sight, however many there are. */
watch(
  () => [props.shown, frame.value, letters.value],
  async () => {
    await nextTick()
    band.value?.querySelector('.shown')?.scrollIntoView({ block: 'nearest' })
  },
  { immediate: true },
)

function holdsOf(stage: Stage) {
  return stage.steps.filter((step) => step.hold !== '')
}

function countOf(stage: Stage): string {
  if (stage.state === 'done') return say('stage.done')
  if (stage.state !== 'current') return ''
  if (stage.coat) return say('stage.coat', { coat: stage.coat, coats: stage.coats })
  return stage.of > 1 ? say('stage.count', { done: stage.done, of: stage.of }) : ''
}

const current = computed(() => props.stages.find((stage) => stage.id === props.shown))

function pick(stage: string): void {
  opened.value = false
  emit('open', stage)
}
</script>

<template>
  <nav class="spine standing" :aria-label="say('spine.label')">
    <TheMark class="mark" />
    <ol ref="band" class="band">
      <li
        v-for="(stage, i) in stages"
        :key="stage.id"
        class="stage"
        :class="[stage.state, { shown: stage.id === shown }]"
      >
        <button :aria-current="stage.id === shown ? 'step' : undefined" @click="pick(stage.id)">
          <span class="lane">{{ i + 1 }}</span>
          <span class="name">
            <strong>{{ stage.title }}</strong>
            <span class="count">{{ countOf(stage) }}</span>
          </span>
        </button>
        <span v-for="step in holdsOf(stage)" :key="step.id" class="hold" :class="step.hold">
          <span class="jaws" aria-hidden="true" />
          <span class="word">{{ say(`hold.${step.hold}`) }}</span>
        </span>
      </li>
    </ol>
    <ThePlaces :job="job" />
  </nav>
  <button class="across" :aria-label="say('spine.open')" @click="opened = true">
    <span
      v-for="(stage, i) in stages"
      :key="stage.id"
      class="slot"
      :class="[stage.state, { shown: stage.id === shown }]"
    >
      {{ i + 1 }}<strong v-if="stage.id === shown"> {{ current?.title }}</strong>
    </span>
  </button>
  <SideSheet v-if="opened" :title="say('spine.label')" @close="opened = false">
    <ol>
      <li v-for="(stage, i) in stages" :key="stage.id">
        <button class="row" :aria-current="stage.id === shown" @click="pick(stage.id)">
          <strong>{{ i + 1 }}</strong><span class="grow">{{ stage.title }}</span
          ><span class="small">{{ countOf(stage) }}</span>
        </button>
      </li>
    </ol>
    <ThePlaces :job="job" />
  </SideSheet>
</template>

<style scoped>
.spine {
  height: 100%;
  display: flex;
  flex-direction: column;
  padding: 20px 0 14px;
}
.mark {
  padding: 0 14px 18px;
}
.band {
  flex: 1;
  min-height: 0;
  overflow: auto;
  position: relative;
  padding-inline-start: 11px;
  margin-inline-start: 4px;
  scrollbar-width: none;
}
.stage button {
  position: relative;
  display: flex;
  width: 153px;
  min-height: 64px;
  align-items: stretch;
}
.lane {
  width: 42px;
  display: grid;
  place-items: center;
  font-weight: 650;
  border-inline: 1.5px solid var(--edge);
  background:
    linear-gradient(90deg, transparent 11px, var(--stone3) 11px 30px, transparent 30px),
    radial-gradient(circle at 4px 4px, var(--edge) 1.1px, transparent 1.4px) 1px 0 / 7px 7px,
    var(--sheet);
}
.stage:first-child .lane {
  border-top: 1.5px solid var(--edge);
}
.stage:last-child .lane {
  border-bottom: 1.5px solid var(--edge);
}
.name {
  display: grid;
  align-content: center;
  padding-inline-start: 10px;
  line-height: 1.15;
  font-size: 18px;
}
.name strong {
  font-weight: 550;
}
.count {
  font-size: 15px;
  font-weight: 600;
  color: var(--ink2);
}
.done .lane {
  color: var(--on-bedded);
  border-color: var(--bedded);
  background:
    repeating-linear-gradient(0deg, transparent 0 9px, color-mix(in srgb, var(--on-bedded) 22%, transparent) 9px 10px),
    var(--bedded);
}
.current .name strong {
  font-weight: 720;
}
.shown button {
  background: var(--lime-edge);
  clip-path: polygon(0 0, 100% 0, calc(100% - 13px) 100%, 0 100%);
  color: var(--lime-ink);
}
.shown button::before {
  content: '';
  position: absolute;
  inset: 0;
  background: var(--lime);
  clip-path: polygon(
    2.5px 2.5px,
    calc(100% - 3.5px) 2.5px,
    calc(100% - 15px) calc(100% - 2.5px),
    2.5px calc(100% - 2.5px)
  );
}
.shown .lane,
.shown .name {
  position: relative;
  background: none;
  border-color: transparent;
  color: var(--lime-ink);
}
.shown .count {
  color: var(--lime-ink);
}
.shown .name strong {
  font-weight: 720;
}
.stage button:focus-visible {
  outline: none;
}
.stage button:focus-visible .name strong {
  text-decoration: underline;
  text-decoration-thickness: 3px;
}
.hold {
  display: flex;
  align-items: center;
  height: 22px;
  margin-inline-start: -11px;
  gap: 8px;
}
.jaws {
  width: 62px;
  height: 13px;
  background: radial-gradient(circle, var(--ground) 3.6px, var(--ink) 4.2px);
  border-radius: 1px;
}
.released .jaws,
.overridden .jaws {
  background: none;
  border: solid var(--ink);
  border-width: 2.4px 11px;
  border-block-color: transparent;
  border-image: linear-gradient(
      90deg,
      var(--ink) 11px,
      transparent 11px calc(100% - 11px),
      var(--ink) calc(100% - 11px)
    )
    1;
}
.not_known .jaws {
  background: none;
  border: 2.4px dashed var(--ink);
  border-block-start: 0;
}
.overridden .word,
.not_known .word,
.stale .word {
  text-decoration: underline wavy var(--amber7) 2px;
}
.word {
  font-size: 15px;
  font-weight: 650;
}
.across {
  display: none;
}
:root.lying .name {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
}
:root.lying .stage button {
  width: 70px;
}
:root.lying .hold .word {
  display: none;
}
:root.narrow .standing {
  display: none;
}
:root.narrow .across {
  display: flex;
  width: 100%;
  height: 58px;
  align-items: center;
  background:
    radial-gradient(circle at 3px 3px, var(--edge) 1px, transparent 1.3px) 0 6px / 6px 6px,
    var(--ground);
  overflow: hidden;
}
:root.narrow .slot {
  flex: 1 1 auto;
  min-width: 20px;
  height: 36px;
  display: grid;
  grid-auto-flow: column;
  gap: 6px;
  place-content: center;
  background: var(--stone3);
  font-weight: 650;
}
:root.narrow .slot.done {
  background: var(--bedded);
  color: var(--on-bedded);
}
:root.narrow .slot.shown {
  height: 50px;
  padding: 0 18px 0 14px;
  background: var(--lime);
  color: var(--lime-ink);
  border: 2.4px solid var(--lime-edge);
  border-inline-end-width: 6px;
  font-size: 20px;
}
</style>

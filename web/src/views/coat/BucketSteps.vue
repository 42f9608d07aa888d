<script setup lang="ts">
// A live bucket: the running step large enough to read across the room, the pot life to
// scale, and the steps with their clock times. Every time is worked out from entries.
import { computed, onMounted, ref } from 'vue'
import { wakeSound } from '../../data/useAlarm'
import MitreButton from '../../parts/MitreButton.vue'
import { clock, countdown, say } from '../../words/words'
import { useArea, type Batch } from '../area/useArea'

const props = defineProps<{ batch: Batch }>()
const emit = defineEmits<{ error: [text: string]; lay: []; done: [] }>()
const { now, record } = useArea()
const asking = ref(false)
const ready = ref(false)
onMounted(() => (ready.value = true))

const timer = (name: string) => props.batch.timers.find((each) => each.name === name)
const running = computed(() => timer(props.batch.phase) ?? timer('use_by'))
const left = computed(() => (running.value ? countdown(Date.parse(running.value.due) - now.value.getTime()) : '–'))

/** The pot life as a strip: what is past of it, mixing, standing, the last ten minutes. */
const strip = computed(() => {
  const pot = timer('use_by')
  if (!pot) return null
  const from = Date.parse(pot.from)
  const whole = Date.parse(pot.due) - from
  const share = (time: string | number) =>
    Math.min(1, Math.max(0, ((typeof time === 'number' ? time : Date.parse(time)) - from) / whole))
  return {
    now: share(now.value.getTime()),
    mixed: share(timer('mixing')?.due ?? from),
    stood: share(timer('standing')?.due ?? timer('mixing')?.due ?? from),
    last: Math.max(0, 1 - 600_000 / whole),
  }
})

const marks = ['weighed', 'contact', 'mixing', 'standing', 'ready'] as const
const steps = computed(() =>
  marks.map((mark) => ({
    mark,
    at: mark === 'weighed' ? props.batch.weighed_at : props.batch.marks[mark],
    state: props.batch.phase === mark ? 'now' : mark === 'weighed' || props.batch.marks[mark] ? 'done' : 'later',
  })),
)
const line = computed(() => {
  const args = {
    min: props.batch.next_mark === 'standing' ? props.batch.stand_min : props.batch.mix_min,
    at: props.batch.use_by,
  }
  return say(`bucket.${props.batch.next_mark}.line`, args)
})

async function mark(name: string): Promise<void> {
  if (name === 'contact') wakeSound()
  asking.value = false
  const kept = await record(
    'marked',
    { batch: props.batch.id, mark: name },
    { key: 'bucket.kept.mark', args: { n: props.batch.number, phase: say(`bucket.phase.${name}`) } },
  )
  if (kept && name === 'ready') emit('lay')
  if (kept && (name === 'spoilt' || name === 'empty')) emit('done')
}
</script>

<template>
  <section class="steps-of-bucket">
    <p class="head">
      <strong>{{ say('bucket.title', { n: batch.number }) }}: {{ say(`bucket.phase.${batch.phase}`) }}</strong>
      <span class="small">{{ batch.live && running ? say('bucket.left') : '' }}</span>
    </p>
    <p v-if="batch.live && running" class="count" role="timer" :aria-label="say('bucket.left')">{{ left }}</p>
    <p v-if="batch.phase === 'late'" class="said" role="alert">{{ say('bucket.late') }}</p>
    <svg v-if="strip" viewBox="0 0 400 64" class="strip" aria-hidden="true">
      <defs>
        <pattern id="slant" patternUnits="userSpaceOnUse" width="12" height="12" patternTransform="rotate(45)">
          <rect width="12" height="12" fill="var(--amber3)" />
          <rect width="4" height="12" fill="var(--amber7)" />
        </pattern>
      </defs>
      <rect x="2" y="8" width="396" height="36" fill="var(--water7)" />
      <rect x="2" y="8" :width="396 * strip.mixed" height="36" fill="var(--sheet)" />
      <rect
        :x="2 + 396 * strip.mixed"
        y="8"
        :width="396 * Math.max(0, strip.stood - strip.mixed)"
        height="36"
        fill="var(--stone3)"
      />
      <rect :x="2 + 396 * strip.last" y="8" :width="396 * (1 - strip.last)" height="36" fill="url(#slant)" />
      <rect x="2" y="8" width="396" height="36" fill="none" stroke="var(--ink)" stroke-width="2.4" />
      <path :d="`M${2 + 396 * strip.now} 0V60`" stroke="var(--ink)" stroke-width="4" />
    </svg>
    <ol>
      <li v-for="each in steps" :key="each.mark" class="row mark" :class="each.state">
        <svg viewBox="0 0 28 28" width="26" height="26" aria-hidden="true">
          <rect v-if="each.state === 'done'" x="2" y="2" width="24" height="24" fill="var(--water7)" />
          <path v-if="each.state === 'done'" d="M7 14l5 6 9-12" fill="none" stroke="var(--on-water)" stroke-width="3" />
          <circle v-else cx="14" cy="14" r="11" fill="none" stroke="var(--ink)" stroke-width="2.4" />
          <path v-if="each.state === 'now'" d="M14 14V3a11 11 0 0 1 11 11z" fill="var(--ink)" />
        </svg>
        <span class="grow">
          <strong>{{ say(`bucket.phase.${each.mark}`) }}</strong>
          <span v-if="each.state === 'now' && each.mark !== 'weighed'" class="small hint">{{
            say(`bucket.hint.${each.mark}`)
          }}</span>
        </span>
        <span>{{ each.at ? clock(each.at) : '' }}</span>
      </li>
      <li v-if="batch.use_by" class="row mark use">
        <svg viewBox="0 0 28 28" width="26" height="26" aria-hidden="true">
          <path
            d="M6 3h16M6 25h16M8 3c0 8 12 14 12 22M20 3c0 8-12 14-12 22"
            fill="none"
            stroke="var(--ink)"
            stroke-width="2.4"
          />
        </svg>
        <strong class="grow">{{ say('bucket.useby') }}</strong>
        <strong class="by">{{ clock(batch.use_by) }}</strong>
      </li>
    </ol>
    <p v-for="part in batch.parts.filter((each) => each.code)" :key="part.part" class="mono">{{ part.code }}</p>
    <Teleport v-if="ready && batch.live" defer to="#step-outline">
      <template v-if="asking">
        <button class="outline" @click="asking = false">{{ say('bucket.spoilt.no') }}</button>
        <strong>{{ say('bucket.spoilt.ask', { n: batch.number }) }}</strong>
        <button class="outline" @click="mark('spoilt')">{{ say('bucket.spoilt.yes') }}</button>
      </template>
      <button v-else class="outline" @click="asking = true">{{ say('bucket.spoilt') }}</button>
    </Teleport>
    <Teleport
      v-if="ready && batch.live && !asking && batch.next_mark && batch.next_mark !== 'spoilt'"
      defer
      to="#step-mitre"
    >
      <MitreButton :label="say(`bucket.${batch.next_mark}`)" :line="line" @click="mark(batch.next_mark)" />
    </Teleport>
  </section>
</template>

<style scoped>
.steps-of-bucket {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
.head strong {
  font-size: 30px;
}
.count {
  font-size: 126px;
  font-weight: 740;
  letter-spacing: -0.04em;
  line-height: 0.95;
  text-align: end;
}
.strip {
  width: 100%;
}
.mark {
  min-height: 46px;
  padding: 3px 6px;
}
.mark.now {
  background: var(--sunk);
}
.hint {
  padding-inline-start: 8px;
}
.by {
  font-size: 30px;
}
</style>

<script setup lang="ts">
// What this is, what is kept on this device, and the clock: every decision is against it.
import { useEventListener } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useBook, type Crew } from '../data/book'
import { isFull } from '../data/storage'
import { reach } from '../data/sync'
import { useClock } from '../data/useClock'
import { dark, switchTheme } from '../theme/useTheme'
import { clock, day, say } from '../words/words'
import AsideSheet from './AsideSheet.vue'
import KeptSheet from './KeptSheet.vue'
import LegendSheet from './LegendSheet.vue'

const props = defineProps<{ crew?: Crew }>()
const book = useBook()
const now = useClock()
const showAside = ref(false)
const showKept = ref(false)
const showLegend = ref(false)

/** The question mark opens it, but where somebody types. */
useEventListener(window, 'keydown', (event) => {
  const typing = event.target instanceof HTMLElement && event.target.matches('input, textarea, select')
  if (event.key === '?' && !typing && !event.altKey && !event.ctrlKey && !event.metaKey) showLegend.value = true
})

/** Who is at work: what is kept carries that name. */
const worker = computed(() => {
  const id = props.crew ? book.working(props.crew, now.value) : ''
  return id ? book.names[id] || props.crew?.people.find((person) => person.id === id)?.role || '' : ''
})

const kept = computed(() => {
  if (isFull.value) return { first: say('kept.full'), second: say('kept.full.what') }
  const waiting = book.waiting > 0 ? say('kept.waiting', { n: book.waiting }) : ''
  if (reach.value === 'shut') return { first: say('kept.shut'), second: waiting || say('kept.unreached.none') }
  if (reach.value === 'unreached')
    return { first: say('kept.unreached'), second: waiting || say('kept.unreached.none') }
  if (reach.value === 'unknown') return { first: say('kept.unknown'), second: waiting }
  return { first: waiting || say('kept.all'), second: '' }
})
</script>

<template>
  <div class="top">
    <slot name="mark" />
    <div class="what">
      <slot />
      <p class="line small"><slot name="line" /></p>
    </div>
    <router-link v-if="reach === 'shut' && $route.name !== 'pair'" to="/pair" class="outline narrow pair">{{
      say('pair.go')
    }}</router-link>
    <button v-if="book.aside.length" class="aside outline narrow" @click="showAside = true">
      {{ say('kept.aside', { n: book.aside.length }) }}
    </button>
    <button v-if="crew" class="who" @click="book.askWho(crew)">
      <span class="small">{{ say('who.here') }}</span>
      <strong>{{ worker || say('who.nobody') }}</strong>
    </button>
    <button class="help" :aria-label="say('legend.open')" @click="showLegend = true">?</button>
    <button class="theme" :aria-label="dark ? say('theme.light') : say('theme.dark')" @click="switchTheme">
      <svg viewBox="0 0 28 28" width="28" height="28" aria-hidden="true">
        <path v-if="dark" d="M14 4v4M14 20v4M4 14h4M20 14h4M14 9.5a4.5 4.5 0 1 1 0 9 4.5 4.5 0 0 1 0-9z" />
        <path v-else d="M18 5a10 10 0 1 0 5 13A9 9 0 0 1 18 5z" />
      </svg>
      <span>{{ dark ? say('theme.light') : say('theme.dark') }}</span>
    </button>
    <button class="kept" :data-reach="reach" :title="say('only.title')" @click="showKept = true">
      <svg viewBox="0 0 34 42" width="34" height="42" aria-hidden="true">
        <rect x="1.5" y="1.5" width="31" height="39" rx="3" />
        <path v-if="book.waiting || reach === 'unreached' || reach === 'shut'" d="M9 14h16M9 21h16M9 28h16" />
        <path v-else d="M10 21l5 6 9-12" />
      </svg>
      <span class="says" role="status">
        <strong>{{ kept.first }}</strong>
        <span class="small">{{ kept.second }}</span>
      </span>
    </button>
    <p class="clock">
      <time>{{ clock(now) }}</time>
      <span class="small">{{ day(now) }}</span>
    </p>
    <AsideSheet v-if="showAside" @close="showAside = false" />
    <LegendSheet v-if="showLegend" :person="crew ? book.working(crew, now) : ''" @close="showLegend = false" />
    <KeptSheet v-if="showKept" @close="showKept = false" />
  </div>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 20px;
  height: 100%;
}
.what {
  flex: 1;
  min-width: 0;
}
.line {
  margin-top: 2px;
  line-height: 1.2;
}
svg {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
  flex: none;
}
.help {
  width: 56px;
  height: 56px;
  font-size: 28px;
  font-weight: 720;
  text-align: center;
}
.theme {
  display: grid;
  justify-items: center;
  align-content: center;
  width: 56px;
  height: 56px;
  font-size: 15px;
  font-weight: 600;
}
.who {
  display: grid;
  align-content: center;
  max-width: 160px;
  min-width: 56px;
  min-height: 56px;
  line-height: 1.15;
  overflow-wrap: anywhere;
}
.who .small {
  font-size: 15px;
}
.kept {
  display: flex;
  gap: 12px;
  align-items: center;
  min-width: 150px;
  min-height: 56px;
}
.kept .says {
  display: grid;
  line-height: 1.2;
  text-align: start;
}
.clock {
  display: grid;
  justify-items: end;
  line-height: 1;
}
.clock time {
  font-size: 40px;
  font-weight: 720;
  letter-spacing: -0.02em;
}
:root.upright .top {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto auto auto;
  gap: 0 16px;
}
:root.upright .what {
  display: contents;
}
:root.upright .what :deep(h1) {
  grid-area: 1 / 1 / 2 / 5;
}
:root.upright .clock {
  grid-area: 1 / 5;
  justify-self: end;
}
:root.upright .line {
  grid-area: 2 / 1;
}
:root.upright .who {
  grid-area: 2 / 2;
}
:root.upright .help {
  grid-area: 2 / 3;
}
:root.upright .theme {
  grid-area: 2 / 4;
}
:root.upright .kept {
  grid-area: 2 / 5;
}
:root.phone .top {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto auto auto;
  align-items: center;
  gap: 0 12px;
}
:root.phone .what {
  display: contents;
}
:root.phone .what :deep(h1) {
  font-size: 26px;
  grid-column: 1 / 4;
}
:root.phone .clock {
  grid-area: 1 / 4 / 2 / -1;
  justify-self: end;
}
:root.phone .help {
  grid-area: 2 / 4;
}
:root.phone .line {
  grid-area: 3 / 1 / 4 / -1;
}
:root.phone .who {
  grid-area: 2 / 1;
}
:root.phone .kept {
  grid-area: 2 / 3;
  min-width: 56px;
  font-size: 16px;
}
:root.phone .theme {
  grid-area: 2 / 5;
}
:root.slim .who {
  max-width: 100px;
}
:root.slim .kept .says {
  font-size: 15px;
}
:root.slim .top {
  gap: 0 6px;
}
:root.phone .pair,
:root.phone .aside {
  grid-column: 1 / -1;
}
:root.phone .clock time {
  font-size: 26px;
}
:root.phone .clock .small,
:root.phone .kept svg,
:root.phone .theme span,
:root.tight .clock .small,
:root.tight .kept svg,
:root.tight .theme span {
  display: none;
}
:root.tight .top {
  gap: 12px;
}
:root.tight .kept {
  min-width: 56px;
}
:root.tight .clock time {
  font-size: 26px;
}
:root.tight .what :deep(h1) {
  font-size: 26px;
}
</style>

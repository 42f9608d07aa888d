<script setup lang="ts">
// The base and its past: leaks with what became of them, and why the work is done here. The
// drawing takes the places.
import { computed, ref } from 'vue'
import type { Schemas } from '../../core/core'
import { useDraft } from '../../data/useDraft'
import type { Photo } from '../../data/photos'
import MitreButton from '../../parts/MitreButton.vue'
import { moment, place, say } from '../../words/words'
import { useArea } from '../area/useArea'
import PhotoRow from './PhotoRow.vue'

type Spot = Schemas['DrawSpot']

const emit = defineEmits<{ back: [] }>()
const { look, area, record } = useArea()

const spot = ref<Spot | null>(null)
const drawsWay = ref(false)
const with_ = ref<Record<string, string>>({})

const lines = [
  'complaint',
  'history',
  'behind',
  'above',
  'below',
  'enters',
  'shows',
  'failed',
  'blocked',
  'removable',
] as const
const draft = useDraft(
  () => `why.${area}`,
  () => ({ ...look.value.history?.answers }),
)
const why = computed(() => draft.typed.value)
/** What is no text lies in the form too, so that it outlives a page that is closed. */
const listed = <T,>(field: string, kept: T[] | undefined): T[] =>
  field in why.value ? (JSON.parse(why.value[field]!) as T[]) : (kept ?? [])
const way = computed(() => listed<Spot>('way', look.value.history?.path))
const photos = computed(() => listed<Photo>('photos', look.value.history?.photos))
const same = (one: unknown[], other: unknown[] | undefined) => JSON.stringify(one) === JSON.stringify(other ?? [])
const changed = computed(
  () =>
    !same(way.value, look.value.history?.path) ||
    !same(photos.value, look.value.history?.photos) ||
    lines.some((line) => (why.value[line] ?? '').trim() !== (look.value.history?.answers[line] ?? '')),
)

/** A touch on the drawing: the next place of the way, or where a leak is. */
function take(at: Spot): void {
  if (drawsWay.value) {
    void draft.type('way', JSON.stringify([...way.value, at]))
  } else spot.value = at
}

async function leak(state: string): Promise<void> {
  const at = spot.value
  if (at && (await record('leak.found', { ...at, state }, { key: 'base.leak.found' }))) spot.value = null
}
async function plug(entry: string): Promise<void> {
  if (await record('leak.plugged', { leak: entry, with: with_.value[entry] ?? '' }, { key: 'base.leak.kept' }))
    delete with_.value[entry]
}
async function check(entry: string, dry: boolean): Promise<void> {
  await record('leak.checked', { leak: entry, dry }, { key: 'base.leak.kept' })
}

async function keep(): Promise<void> {
  const answers = Object.fromEntries(
    lines.flatMap((line) => ((why.value[line] ?? '').trim() ? [[line, why.value[line]!.trim()]] : [])),
  )
  const body = {
    answers,
    ...(way.value.length ? { path: way.value } : {}),
    ...(photos.value.length ? { photos: photos.value } : {}),
  }
  if (await record('history', body, { key: 'base.why.kept' })) {
    await draft.drop()
    drawsWay.value = false
  }
}

function photo(taken: Photo): void {
  void draft.type('photos', JSON.stringify([...photos.value, taken]))
}

defineExpose({ spot, way, take })
</script>

<template>
  <div class="panel">
    <button class="outline narrow" @click="emit('back')">{{ say('base.back') }}</button>
    <h2>{{ say('base.leaks') }}</h2>
    <p v-if="!look.leaks.length" class="small">{{ say('base.none') }}</p>
    <section v-for="(l, i) in look.leaks" :key="l.entry" class="leak">
      <p>
        <strong>{{ i + 1 }} · {{ place(l.surface) }}</strong>
        {{ say(`base.leak.${l.state}`) }}, {{ moment(l.found.at) }}
      </p>
      <template v-if="!l.plugged">
        <v-text-field v-model="with_[l.entry]" :label="say('base.leak.plug')" maxlength="200" autocomplete="off" />
        <button class="outline narrow" :disabled="!with_[l.entry]?.trim()" @click="plug(l.entry)">
          {{ say('base.leak.plugged') }}
        </button>
      </template>
      <template v-else-if="l.open">
        <p>{{ say('base.leak.plugged') }}: {{ l.plugged.note }}, {{ moment(l.plugged.at) }}</p>
        <div class="both">
          <button class="outline narrow" @click="check(l.entry, true)">{{ say('base.leak.dry') }}</button>
          <button class="outline narrow" @click="check(l.entry, false)">{{ say('base.leak.wet') }}</button>
        </div>
      </template>
      <p v-else>{{ say('base.leak.closed') }}, {{ moment(l.dry?.at ?? '') }}</p>
    </section>
    <div>
      <p class="small">{{ spot ? place(spot.surface) : say('base.leak.where') }}</p>
      <div v-if="spot" class="both">
        <button
          v-for="state in ['running', 'dripping', 'damp']"
          :key="state"
          class="outline narrow"
          @click="leak(state)"
        >
          {{ say(`base.leak.${state}`) }}
        </button>
      </div>
    </div>

    <h2>{{ say('base.why') }}</h2>
    <p class="small">{{ say('base.why.line') }}</p>
    <v-textarea
      v-for="line in lines"
      :key="line"
      :label="say(`why.${line}`)"
      rows="2"
      maxlength="500"
      :model-value="why[line] ?? ''"
      @update:model-value="draft.type(line, $event)"
    />
    <div class="both">
      <button class="outline narrow" :aria-pressed="drawsWay" @click="drawsWay = !drawsWay">
        {{ say('base.way') }}
      </button>
      <button v-if="way.length" class="outline narrow" @click="draft.type('way', '[]')">
        {{ say('base.way.clear') }}
      </button>
    </div>
    <p v-if="drawsWay" class="small">{{ say('base.way.line') }}</p>
    <PhotoRow :photos="photos" @took="photo" />
    <MitreButton :label="say('base.keep')" :disabled="!changed" @click="keep" />
  </div>
</template>

<style scoped>
.panel,
.leak {
  display: grid;
  gap: 12px;
}
.leak {
  padding-bottom: 12px;
  border-bottom: 1.5px solid var(--line);
}
.both {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.both [aria-pressed='true'] {
  background: var(--sunk);
  border-bottom-width: 6px;
}
textarea {
  width: 100%;
}
</style>

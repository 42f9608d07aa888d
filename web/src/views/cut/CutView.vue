<script setup lang="ts">
// What is cut for an area, product by product: rolls to scale on one side, the net on the other. A
// plan is kept, then ticked off piece by piece.
import { computed, ref, shallowRef, watch } from 'vue'
import { call, type Schemas } from '../../core/core'
import { useLatest } from '../../data/useLatest'
import { askJob } from '../../data/folded'
import { useBook } from '../../data/book'
import { now as theTime } from '../../data/clock'
import { fileName, saveFile, svgText } from '../../data/files'
import { version } from '../../data/sync'
import AppFrame from '../../parts/AppFrame.vue'
import MitreButton from '../../parts/MitreButton.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import TheLedge from '../../parts/TheLedge.vue'
import TwoSides from '../../parts/TwoSides.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import PlainDrawing from '../../drawing/PlainDrawing.vue'
import LoadingLine from '../../parts/LoadingLine.vue'
import { place, say, sayFault } from '../../words/words'
import { dayOf } from '../../words/zone'
import CutPiece from './CutPiece.vue'
import CutPlan from './CutPlan.vue'
import { useCutEntries } from './useCutEntries'
import { useCutting } from './useCutting'
import OneOf from '../../parts/OneOf.vue'

type List = Schemas['SiteLayoutOne']
type Work = Schemas['CuttingWork']

const props = defineProps<{ job: string; area: string }>()
const book = useBook()
const chosen = ref('')
const picked = ref('')
const asking = ref(false)
const { found, searching, refused, search, stop } = useCutting()

const asked = useLatest(
  () => [props.job, props.area, version.value],
  async () => ({
    look: await book.look(props.job, props.area, theTime()),
    layout: await askJob(props.job, 'cut.layout', { area: props.area }),
  }),
)
const look = computed(() => asked.value?.look ?? null)
const layout = computed(() => asked.value?.layout ?? null)

const list = computed<List | null>(
  () => layout.value?.lists.find((l) => l.sheet === chosen.value) ?? layout.value?.lists[0] ?? null,
)
/** Planned anew: the plan that was kept is left aside until another one is. */
const anew = ref(false)
const kept = computed(() => (anew.value ? null : (list.value?.cut ?? null)))
watch(
  () => list.value?.cut?.entry,
  () => (anew.value = false),
)
const proposed = shallowRef<Work | null>(null)
const work = computed<Work | null>(() => (kept.value ? { rolls: kept.value.rolls } : proposed.value))

// A product without a plan is searched as soon as it is looked at, and again when what it asks changes.
watch(
  () => (list.value && !kept.value && !list.value.fault ? JSON.stringify(list.value.bands) : ''),
  (bands) => {
    proposed.value = null
    picked.value = ''
    asking.value = false
    if (bands) void search(list.value!.bands)
    else stop()
  },
)
watch(found, async (cut) => {
  const of = list.value
  if (!cut || !of) return
  const marks = of.wants.map(({ id, number }) => ({ id, number }))
  const begun = await call('cut.start', { plan: cut.plan, marks, roll_mm: of.bands.roll_mm })
  if (found.value === cut) proposed.value = begun
})

const pieces = computed(() => (work.value?.rolls ?? []).flatMap((roll) => roll.pieces))
const maySpoil = computed(() => !!kept.value && !!at.value && (at.value.state === 'cut' || picked.value !== ''))
const open = computed(() => pieces.value.filter((p) => p.state === 'to_cut'))
const at = computed(
  () => pieces.value.find((p) => p.id === picked.value && p.state !== 'spoilt') ?? open.value[0] ?? null,
)
const then = computed(() => open.value.find((p) => p.id !== at.value?.id))
const want = computed(() => (at.value ? (list.value?.wants[at.value.run] ?? null) : null))

/** Touched on the roll: that piece. Touched on the net: the first piece of what lies there. */
function pickOnNet(id: string): void {
  const run = list.value?.wants.findIndex((w) => w.id === id) ?? -1
  picked.value = pieces.value.find((p) => p.run === run && p.state !== 'spoilt')?.id ?? ''
}
watch(picked, () => (asking.value = false))

const net = computed(() => {
  if (!look.value?.geometry || !list.value) return null
  const cut = { sheet: list.value.sheet, want: want.value?.id ?? '', anew: anew.value }
  return { job: props.job, area: props.area, layers: [], cut }
})

const entries = useCutEntries(props.job, props.area, () => look.value!.job)
async function keepPlan(): Promise<void> {
  stop()
  await entries.keepPlan(layout.value!.plan, list.value!, found.value!)
}
async function tick(): Promise<void> {
  if (await entries.tick(kept.value!.entry, at.value!)) picked.value = ''
}
async function spoil(): Promise<void> {
  asking.value = false
  await entries.spoil(kept.value!.entry, at.value!)
}

const rolls = ref<InstanceType<typeof PlainDrawing>>()
const nameOf = (ending: string) =>
  fileName(
    [dayOf(theTime()), look.value?.job.name ?? '', layout.value!.name, say('cut.title'), list.value!.name],
    ending,
  )
/** How the table says what is cut: places, kinds and states. */
function words(): Record<string, string> {
  const said: Record<string, string> = { true: say('option.yes'), false: say('option.no'), rest: say('cut.table.rest') }
  for (const state of ['to_cut', 'cut', 'spoilt']) said[state] = say(`cut_state.${state}`)
  for (const { kind, place: at } of list.value!.wants) [said[kind], said[at]] = [say(`cut.kind.${kind}`), place(at)]
  return said
}
async function saveCsv(): Promise<void> {
  const { csv } = await call('cut.table', {
    wants: list.value!.wants,
    width_mm: list.value!.width_mm,
    work: work.value!,
    heads: [...'abcdefghijklm'].map((column) => say(`cut.table.${column}`)),
    words: words(),
  })
  saveFile(nameOf('csv'), 'text/csv', csv)
}
const saveSvg = () =>
  rolls.value?.svg && saveFile(nameOf('svg'), 'image/svg+xml', svgText(rolls.value.svg, list.value!.name))
const card = computed(() => `/api/jobs/${props.job}/areas/${props.area}/cut-card.pdf`)
const print = () => window.print()
</script>

<template>
  <AppFrame :crew="look?.job">
    <template #spine><PlainSpine :job="props.job" /></template>
    <template #title
      ><h1>{{ say('cut.title') }}</h1></template
    >
    <template #line>{{ [layout?.name, list?.name].filter(Boolean).join(' · ') || say('cut.line') }}</template>
    <TwoSides width="400px" phone="list-first">
      <div class="rolls">
        <OneOf
          v-if="layout && layout.lists.length > 1"
          v-slot="{ option }"
          class="products"
          look="outline narrow"
          :options="layout.lists.map((one) => one.sheet)"
          :picked="list?.sheet"
          :label="say('cut.products')"
          @pick="(sheet) => (chosen = sheet)"
        >
          {{ say(`product.${layout.lists.find((one) => one.sheet === option)?.role}`) }}
        </OneOf>
        <span v-if="layout?.sample" class="sample">{{ say('sample') }}</span>
        <LoadingLine v-if="!layout" />
        <p v-else-if="!list" class="said">{{ say('cut.none') }}</p>
        <template v-else>
          <p v-if="list.fault" class="said" role="alert">{{ sayFault(list.fault) }}</p>
          <p v-else-if="refused" class="said" role="alert">{{ refused }}</p>
          <p v-if="!list.laps_clear" class="said">{{ say('cut.laps_over') }}</p>
          <CutPlan
            v-if="!kept && (found || searching)"
            :found="found"
            :searching="searching"
            @stop="stop"
            @search="search(list.bands, found)"
          />
          <PlainDrawing
            v-if="work"
            ref="rolls"
            grow
            :label="say('cut.roll_of') + ' ' + list.name"
            :input="{ kind: 'rolls', work, wants: list.wants, lit: want?.id ?? '', next: at?.id ?? '' }"
            @pick="(id) => (picked = id)"
          />
          <p class="small no-print">{{ say('cut.touch') }}</p>
          <div v-if="work" class="acts">
            <a class="outline narrow" :href="card" target="_blank" rel="noopener">{{ say('cut.card') }}</a>
            <button class="outline narrow" @click="saveCsv">{{ say('cut.csv') }}</button>
            <button class="outline narrow" @click="saveSvg">{{ say('cut.svg') }}</button>
            <button class="outline narrow" @click="print">{{ say('cut.print') }}</button>
            <router-link v-if="maySpoil" class="outline narrow" :to="`/job/${props.job}/area/${props.area}`">{{
              say('cut.to_area')
            }}</router-link>
            <button v-if="kept && !kept.began" class="outline narrow" @click="anew = true">
              {{ say('cut.anew') }}
            </button>
          </div>
          <p v-if="work && book.waiting" class="small">{{ say('cut.card.all_sent') }}</p>
          <div v-if="list.offcuts.length && !kept" class="offcuts">
            <h2 class="sub">{{ say('cut.offcuts') }}</h2>
            <p v-for="offcut in list.offcuts" :key="offcut.id">
              {{ say('cut.offcut', { length: offcut.length_mm }) }}
            </p>
          </div>
        </template>
      </div>
      <template #side>
        <div v-if="net" class="net-box">
          <NetDrawing :name="layout?.name ?? ''" :taps="['piece']" :input="net" @pick="pickOnNet" />
        </div>
        <CutPiece v-if="at && want" :piece="at" :want="want" />
      </template>
    </TwoSides>
    <template #ledge>
      <TheLedge>
        <template #facts>
          <p v-if="asking && at">{{ say('cut.spoil.ask', { label: at.label }) }}</p>
          <p v-else-if="kept && open.length">
            <strong class="count">{{ open.length }}</strong>
            {{ say('cut.left', { n: open.length }) }}
          </p>
          <p v-else-if="kept">{{ say('cut.all') }}</p>
          <p v-else>{{ say('cut.line') }}</p>
        </template>
        <template #outline>
          <button v-if="asking" class="outline" @click="asking = false">{{ say('cut.spoil.no') }}</button>
          <button v-else-if="maySpoil" class="outline" @click="asking = true">
            {{ say('cut.spoil') }}
          </button>
          <router-link v-else class="outline" :to="`/job/${props.job}/area/${props.area}`">{{
            say('cut.to_area')
          }}</router-link>
        </template>
        <template #mitre>
          <MitreButton v-if="asking" :label="say('cut.spoil.yes')" @click="spoil" />
          <MitreButton
            v-else-if="kept && at?.state === 'to_cut'"
            :label="say('cut.next', { label: at.label })"
            :line="then ? say('cut.next.line', { label: then.label, length: then.length_mm }) : say('cut.last.line')"
            @click="tick"
          />
          <MitreButton
            v-else-if="kept && !open.length && kept.rests.length && !kept.kept"
            :label="say('cut.rests')"
            :line="say('cut.rests.line', { n: kept.rests.length })"
            @click="entries.keepRests(kept)"
          />
          <MitreButton
            v-else-if="!kept && proposed"
            :label="say('cut.keep')"
            :line="say('cut.keep.line')"
            @click="keepPlan"
          />
        </template>
      </TheLedge>
    </template>
  </AppFrame>
</template>

<style scoped>
.rolls {
  display: grid;
  gap: 14px;
  align-content: start;
}
.products,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.net-box {
  height: 420px;
}
.sample {
  justify-self: start;
}
.count {
  font-size: 34px;
  font-weight: 720;
}
@media print {
  .acts,
  .products,
  .no-print {
    display: none;
  }
}
</style>

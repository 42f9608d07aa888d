<script setup lang="ts">
// What to buy, as packs on a shelf: full as far as the work takes them. A line touched shows what it
// is for and lights up on the nets of its areas.
import { computed, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '../../core/core'
import { useLatest } from '../../data/useLatest'
import { askJob } from '../../data/folded'
import { useBook } from '../../data/book'
import { now as theTime } from '../../data/clock'
import { useDraft } from '../../data/useDraft'
import { version } from '../../data/sync'
import AppFrame from '../../parts/AppFrame.vue'
import CheckRow from '../../parts/CheckRow.vue'
import ExplainSlip from '../../parts/ExplainSlip.vue'
import MitreButton from '../../parts/MitreButton.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import TheLedge from '../../parts/TheLedge.vue'
import TwoSides from '../../parts/TwoSides.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import PlainDrawing from '../../drawing/PlainDrawing.vue'
import { frame } from '../../theme/useFrame'
import LoadingLine from '../../parts/LoadingLine.vue'
import { money, quantity, say, sayFault } from '../../words/words'
import EstimateSheet from './EstimateSheet.vue'
import StockSheet from './StockSheet.vue'
import OneOf from '../../parts/OneOf.vue'

const props = defineProps<{ job: string; area?: string }>()
const book = useBook()
const router = useRouter()
const touched = ref('')
const counting = ref(false)
const estimating = ref(false)
const explained = shallowRef<Schemas['FigureFigure'] | null>(null)
const ticks = useDraft(
  () => `kit.${props.job}.${props.area ?? ''}`,
  () => ({}),
)

const asked = () => [props.job, props.area, version.value]
const list = useLatest(asked, () =>
  askJob(props.job, 'materials.list', { area: props.area ?? '', now: theTime().toISOString() }),
)
const opened = useLatest(asked, () => book.job(props.job, theTime()))
const library = useLatest(asked, () => book.sheets(props.job)) // many, and asked for by a touch alone
const sheets = computed(() => library.value ?? [])

const lines = computed(() => list.value?.lines ?? [])
const line = computed(() => lines.value.find((l) => l.id === touched.value) ?? null)
const ROW = 96
const NARROW_ROW = 156
const height = computed(() => `${lines.value.length * (frame.value === 'phone' ? NARROW_ROW : ROW)}px`)
const areasOf = computed(() => opened.value?.areas.filter((a) => line.value?.areas.includes(a.id) && a.surveyed) ?? [])
/** Stages that ask for the same things in several areas are said once. */
const kits = computed(() => {
  const byStage = Map.groupBy(list.value?.stages ?? [], (kit) => kit.title)
  return [...byStage].map(([title, same]) => ({
    title,
    things: (['tools', 'gear', 'cleaning'] as const).map((kind) => ({
      kind,
      prefix: { tools: 'tool', gear: 'gear', cleaning: 'cleaning' }[kind],
      names: [...new Set(same.flatMap((kit) => kit[kind]))],
    })),
  }))
})
const query = computed(() => (props.area ? `?area=${props.area}` : ''))
const file = (kind: string) => `/api/jobs/${props.job}/materials.${kind}${query.value}`
const go = (area: string) => router.replace(`/job/${props.job}/materials${area ? `/${area}` : ''}`)
const cost = computed(() => list.value?.cost_cents)
const sheetOf = computed(() => sheets.value.find((s) => s.id === line.value?.sheet) ?? null)
const print = () => window.print()
const tick = (id: string) => ticks.type(id, ticks.typed.value[id] ? '' : 'yes')
</script>

<template>
  <AppFrame :crew="opened ?? undefined">
    <template #spine><PlainSpine :job="props.job" /></template>
    <template #title
      ><h1>{{ say('materials.title') }}</h1></template
    >
    <template #line>{{ opened?.name }}</template>
    <TwoSides width="400px" :phone="line ? 'side-first' : 'list-first'">
      <OneOf
        v-if="opened && opened.areas.length > 1"
        v-slot="{ option }"
        class="areas"
        look="outline narrow"
        :options="['', ...opened.areas.map((a) => a.id)]"
        :picked="props.area ?? ''"
        :label="say('materials.for')"
        @pick="go"
      >
        {{ opened.areas.find((a) => a.id === option)?.name ?? say('materials.all') }}
      </OneOf>
      <span v-if="list?.sample" class="sample">{{ say('sample') }}</span>
      <LoadingLine v-if="!list" />
      <p v-else-if="!lines.length" class="said">{{ say('materials.none') }}</p>
      <div v-if="lines.length" :style="{ height }">
        <PlainDrawing
          :label="say('materials.title')"
          :input="{ kind: 'shelf', lines, lit: touched }"
          @pick="(id) => (touched = touched === id ? '' : id)"
        />
      </div>
      <p v-for="a in list?.unplaced ?? []" :key="a.id" class="small">
        {{ say('materials.unplanned', { name: a.name }) }}
      </p>
      <template #side>
        <template v-if="line">
          <div>
            <h2>
              {{ line.title || say(`product.${line.role}`) }}
            </h2>
            <p class="small">{{ [say(`product.${line.role}`), line.revision].filter(Boolean).join(' · ') }}</p>
            <p v-if="line.outside" class="said">{{ say('with.outside') }} {{ line.reason }}</p>
            <p v-if="line.fault" class="said">{{ sayFault(line.fault) }}</p>
            <p v-if="line.short" class="said">{{ sayFault(line.short) }}</p>
          </div>
          <button v-if="line.need" class="row" @click="explained = line.need">
            <span class="grow">{{ say('materials.need') }}</span>
            <strong>{{ quantity(line.need.value, line.unit) }}</strong>
          </button>
          <p v-if="line.need && line.left < line.need.value" class="fact">
            <span class="grow">{{ say('materials.left') }}</span><strong>{{ quantity(line.left, line.unit) }}</strong>
          </p>
          <p v-for="(there, i) in line.stock" :key="i" class="fact">
            <span class="grow">
              {{
                there.opened
                  ? say('materials.opened', { on: there.opened, closing: there.closing ?? '' })
                  : say('materials.there')
              }}
              <span v-if="there.old" class="old">{{ say('materials.old') }}</span>
            </span>
            <strong>{{ there.count }} × {{ quantity(there.amount, line.unit) }}</strong>
          </p>
          <p v-for="pack in line.packs" :key="pack.says" class="fact">
            <span class="grow">{{ say('materials.buy') }}</span>
            <strong>{{ pack.count }} × {{ pack.says }}</strong>
            <span v-if="pack.price_cents" class="small">{{ money(pack.count * pack.price_cents) }}</span>
          </p>
          <p v-if="line.leftover > 0" class="fact">
            <span class="grow">{{ say('plan.buy.leftover') }}</span><strong>{{
              quantity(line.leftover, line.unit)
            }}</strong>
          </p>
          <p v-if="line.weight_kg" class="fact">
            <span class="grow">{{ say('materials.carry') }}</span><strong>{{ quantity(line.weight_kg, 'kg') }}</strong>
          </p>
          <button v-if="sheetOf" class="outline narrow count" @click="counting = true">{{ say('stock.count') }}</button>
          <div v-for="a in areasOf" :key="a.id" class="net-cell">
            <h3>{{ a.name }}</h3>
            <div class="net-box">
              <NetDrawing
                :name="a.name"
                :input="{ job: props.job, area: a.id, layers: [], lit: line.places }"
                :taps="[]"
              />
            </div>
          </div>
        </template>
        <template v-else-if="list">
          <p class="fact">
            <span class="grow">{{ say('materials.cost') }}</span>
            <strong>{{ cost === null || cost === undefined ? say('materials.cost.unknown') : money(cost) }}</strong>
          </p>
          <p class="fact">
            <span class="grow">{{ say('materials.carry') }}</span><strong>{{ quantity(list.weight_kg, 'kg') }}</strong>
          </p>
          <p class="small">{{ say('materials.touch') }}</p>
          <p v-if="book.waiting" class="said">{{ say('materials.unsent', { n: book.waiting }) }}</p>
          <div class="acts">
            <a class="outline narrow" :href="file('csv')" download>{{ say('materials.csv') }}</a>
            <a class="outline narrow" :href="file('xlsx')" download>{{ say('materials.xlsx') }}</a>
            <a class="outline narrow" :href="file('pdf')" target="_blank" rel="noopener">{{ say('materials.pdf') }}</a>
            <router-link v-if="props.area" :to="`/job/${props.job}/cut/${props.area}`" class="outline narrow">{{
              say('cut.open')
            }}</router-link>
            <router-link :to="`/job/${props.job}/sheets`" class="outline narrow">{{
              say('library.title')
            }}</router-link>
            <button class="outline narrow" @click="print">{{ say('print') }}</button>
          </div>
          <section v-for="kit in kits" :key="kit.title" class="kit">
            <h2 class="sub">{{ kit.title }}</h2>
            <template v-for="part in kit.things" :key="part.kind">
              <p v-if="part.names.length" class="small">{{ say(`kit.${part.kind}`) }}</p>
              <CheckRow
                v-for="name in part.names"
                :key="name"
                :label="say(`${part.prefix}.${name}`)"
                :checked="!!ticks.typed.value[`${kit.title}.${part.prefix}.${name}`]"
                @toggle="tick(`${kit.title}.${part.prefix}.${name}`)"
              />
            </template>
          </section>
          <p class="small">{{ say('kit.defer') }}</p>
        </template>
      </template>
    </TwoSides>
    <StockSheet
      v-if="counting && line && sheetOf && opened"
      :job="opened"
      :sheet="sheetOf"
      :part="line.part ?? ''"
      @close="counting = false"
    />
    <EstimateSheet v-if="estimating && opened" :job="opened" :area="props.area ?? ''" @close="estimating = false" />
    <ExplainSlip v-if="explained" :figure="explained" @close="explained = null" />
    <template #ledge>
      <TheLedge>
        <template #facts>{{ list ? say('materials.facts', { n: lines.length }) : '' }}</template>
        <template #outline>
          <button v-if="line" class="outline" @click="touched = ''">{{ say('materials.back') }}</button>
          <router-link
            v-else
            :to="props.area ? `/job/${props.job}/area/${props.area}` : `/job/${props.job}`"
            class="outline"
            >{{ props.area ? say('materials.to_area') : say('job.up') }}</router-link
          >
        </template>
        <template #mitre>
          <MitreButton :label="say('estimate.title')" :line="say('estimate.line')" @click="estimating = true" />
        </template>
      </TheLedge>
    </template>
  </AppFrame>
</template>

<style scoped>
.areas,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.fact {
  display: flex;
  gap: 12px;
  align-items: baseline;
  padding: 6px 0;
  border-bottom: 1.5px solid var(--line);
}
.fact .grow {
  flex: 1;
}
.fact strong {
  font-size: 19px;
}
.old {
  color: var(--plum7);
}
.count {
  justify-self: start;
}
.net-box {
  height: 240px;
}
.sample {
  justify-self: start;
}
.kit {
  display: grid;
  gap: 2px;
}
@media print {
  .acts,
  .areas {
    display: none;
  }
}
</style>

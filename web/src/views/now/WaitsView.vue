<script setup lang="ts">
// One tide per area for its next step. The switch redraws all of them for a colder or a
// warmer room: does a heater help?
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import AppFrame from '../../parts/AppFrame.vue'
import BackLink from '../../parts/BackLink.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import StateGlyph from '../../parts/StateGlyph.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import PlainDrawing from '../../drawing/PlainDrawing.vue'
import LoadingLine from '../../parts/LoadingLine.vue'
import { moment, say } from '../../words/words'
import { layersOf } from '../jobs/layers'
import { useJob, type AreaLine } from './useJob'
import OneOf from '../../parts/OneOf.vue'

const props = defineProps<{ job: string; area?: string }>()
const router = useRouter()
const off = 3
const warmer = ref(0)
const { job, at, lines } = useJob(() => props.job, warmer)

const order = computed(() => [...(job.value?.board.now ?? []), ...(job.value?.board.waits ?? [])])
const tides = computed(() => lines(order.value).filter((area) => area.tide))
const others = computed(() => lines(order.value).filter((area) => !area.tide))

function rows(area: AreaLine): [string, string][] {
  const t = area.tide!
  const each: [string, string][] = [
    ['wait.row.opens', t.opens],
    ['wait.row.last_safe', t.last_safe_start],
    ['wait.row.shuts', t.shuts],
  ]
  return each.filter(([, time]) => time)
}

function open(area: AreaLine): void {
  void router.replace(`/job/${props.job}/waits/${area.id === props.area ? '' : area.id}`)
}
</script>

<template>
  <AppFrame :crew="job ?? undefined">
    <template #spine
      ><PlainSpine :job="props.job" place="waits" :areas="job?.areas.filter((area) => !area.away) ?? []"
    /></template>
    <template #title
      ><h1>{{ say('waits.title') }}</h1></template
    >
    <template #line>
      <BackLink :to="`/job/${props.job}`" :name="job?.name ?? ''" /> · {{ say('waits.line') }}
    </template>
    <div v-if="job" class="page scroll">
      <p v-if="!tides.length" class="nothing">{{ say('waits.none') }}</p>
      <ul>
        <li v-for="each in tides" :key="each.id" class="wait-row" :class="{ open: each.id === props.area }">
          <button class="head" :aria-expanded="each.id === props.area" @click="open(each)">
            <span class="net"
              ><NetDrawing v-if="each.surveyed" mini :name="each.name" :input="layersOf(props.job, each)"
            /></span>
            <strong class="name">{{ each.name }}</strong>
            <span>{{ each.tide!.title }}</span>
            <span class="state"
              ><StateGlyph :state="each.tide!.state" /><strong>{{
                say(`wait.state.${each.tide!.state}`)
              }}</strong></span
            >
          </button>
          <div class="tide">
            <PlainDrawing
              v-if="each.tide!.known"
              :label="say('tide.label', { name: each.name })"
              :input="{ kind: 'tide', tide: each.tide!, now: at, hours: 48 }"
            />
            <p v-else class="said">{{ say('wait.unknown') }}</p>
          </div>
          <div v-if="each.id === props.area" class="more">
            <p v-for="[key, time] in rows(each)" :key="key">
              <span class="small">{{ say(key) }}</span><strong>{{ moment(time) }}</strong>
            </p>
            <p>
              <span class="small">{{ say('waits.reckoned') }}</span><strong>{{
                say('waits.temp', { temp: each.tide!.temp_C })
              }}</strong>
            </p>
            <router-link :to="`/job/${props.job}/area/${each.id}`" class="outline narrow link">{{
              say('waits.go')
            }}</router-link>
          </div>
        </li>
      </ul>
      <p v-for="each in others" :key="each.id" class="other">
        <router-link :to="`/job/${props.job}/area/${each.id}`" class="up"
          ><strong>{{ each.name }}</strong></router-link
        >
        <span>{{ say(each.next.why, each.next.args ?? {}) }}</span>
      </p>
    </div>
    <LoadingLine v-else />
    <template #ledge>
      <div class="suppose">
        <p class="grow">
          <strong>{{ say('waits.suppose') }}</strong>
          <span class="small">{{ warmer ? say('waits.supposed', { k: Math.abs(warmer) }) : '' }}</span>
        </p>
        <router-link class="outline" :to="`/job/${props.job}/days`">{{ say('days.open') }}</router-link>
        <OneOf
          v-slot="{ option }"
          class="three"
          look="outline"
          :options="[-off, 0, off]"
          :picked="warmer"
          :label="say('waits.suppose')"
          @pick="(k) => (warmer = k)"
        >
          {{ say(`waits.${option < 0 ? 'colder' : option > 0 ? 'warmer' : 'as_now'}`, { k: off }) }}
        </OneOf>
      </div>
    </template>
  </AppFrame>
</template>

<style scoped>
.up {
  color: inherit;
  padding-block: 18px;
}
.page {
  height: 100%;
  padding: 0 24px;
}
.nothing {
  padding: 48px 24px;
  font-size: 27px;
  font-weight: 720;
}
.wait-row {
  display: grid;
  grid-template-columns: 230px minmax(0, 1fr);
  gap: 0 16px;
  border-bottom: 1.5px solid var(--line);
  padding: 6px 0;
}
.head {
  display: grid;
  gap: 2px;
  align-content: center;
  grid-template-columns: 64px minmax(0, 1fr);
  column-gap: 12px;
  line-height: 1.2;
}
.head .net {
  width: 64px;
  height: 64px;
  grid-row: span 2;
}
.head .name {
  font-size: 20px;
  align-self: end;
}
.head .state {
  grid-column: 1 / -1;
  display: flex;
  gap: 10px;
  align-items: center;
  padding-top: 6px;
  font-size: 20px;
}
.tide {
  height: 190px;
}
.open .tide {
  height: 270px;
}
.open .head {
  box-shadow: inset 0 -6px 0 var(--ink);
}
.more {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 8px 32px;
  padding: 10px 0;
}
.more p {
  display: grid;
}
.more p strong {
  font-size: 27px;
}
.link {
  margin-inline-start: auto;
}
.other .up {
  flex: none;
  display: grid;
  align-items: center;
  width: 130px;
  min-height: 56px;
  padding: 0;
}
.other {
  display: flex;
  gap: 12px;
  min-height: 56px;
  align-items: center;
}
.suppose {
  display: flex;
  min-height: 84px;
  align-items: center;
  gap: 16px;
  padding: 5px 24px;
}
.suppose .grow {
  flex: 1;
  display: grid;
}
.three {
  display: flex;
  gap: 8px;
}
:root.phone .page {
  padding: 0 12px;
}
:root.phone .wait-row {
  grid-template-columns: minmax(0, 1fr);
}
:root.phone .suppose {
  display: grid;
  padding: 6px 12px;
}
:root.phone .three :deep(.outline) {
  flex: 1;
  padding: 6px 8px;
  font-size: 17px;
}
</style>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useBook, type Job } from '../../data/book'
import { now as theTime } from '../../data/clock'
import { call } from '../../core/core'
import { newId } from '../../data/ids'
import { sayRefusal } from '../../data/refusal'
import { version } from '../../data/sync'
import AppFrame from '../../parts/AppFrame.vue'
import MitreButton from '../../parts/MitreButton.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import NameSheet from '../../parts/NameSheet.vue'
import PapersSheet from '../../parts/PapersSheet.vue'
import TheLedge from '../../parts/TheLedge.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import { LONG, say } from '../../words/words'
import type { SetAside } from '../../data/local'
import SetAsideLines from '../../parts/SetAsideLines.vue'
import { layersOf } from './layers'
import { found } from '../../data/finding'
import AwayList from './AwayList.vue'
import FindField from './FindField.vue'
import RulesSheet from './RulesSheet.vue'

const props = defineProps<{ job: string }>()
const book = useBook()
const router = useRouter()
const opened = ref<Job | null>(null)
const creating = ref(false)

const aside = ref<SetAside[]>([])

async function load(): Promise<void> {
  aside.value = await book.setAside(props.job)
  opened.value = await book.job(props.job, theTime())
}
watch([() => props.job, version], load, { immediate: true })

const ruling = ref(false)
const writing = ref(false)
const error = ref('')
const from = ref('')
/** What a new area can begin from: patterns that were kept. */
const patterns = computed(() => opened.value?.patterns ?? [])
const rulesInUse = computed(() => opened.value?.rules.name ?? '')

async function create(name: string): Promise<void> {
  const by = await book.who((opened.value ??= await book.job(props.job, theTime())))
  if (!by) return
  const areaId = newId()
  const begun = patterns.value.find((pattern) => pattern.name === from.value)?.begun
  await book.record({
    kind: 'area.opened',
    jobId: props.job,
    areaId,
    by,
    body: { name, ...(begun ? { begun } : {}) },
  })
  await router.push(`/job/${props.job}/area/${areaId}`)
}

/** Begins an area for each room of a list, its measures filled in. */
async function takeRooms(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file || !opened.value) return
  error.value = ''
  try {
    const { rooms } = await call('survey.rooms', { text: await file.text() })
    const by = await book.who(opened.value)
    if (!by) return
    await book.recordAll(
      rooms.map((room) => ({
        kind: 'area.opened',
        jobId: props.job,
        areaId: newId(),
        by,
        body: { name: room.name, begun: { form: room.form, typed: room.typed, check: false } },
      })),
    )
    creating.value = false
  } catch (refused) {
    error.value = sayRefusal(refused, '. ')
  }
}

const find = ref('')
const areas = computed(() => opened.value?.areas.filter((area) => !area.away) ?? [])
const shown = computed(() => areas.value.filter((area) => found(area.name, find.value)))
const away = computed(() => opened.value?.areas.filter((area) => area.away) ?? [])
/** Rows that are put away by a tap instead of opened. */
const clearing = ref(false)

/** Puts an area away or fetches it back; the ledge takes it back for a while. */
async function put(area: string, isAway: boolean): Promise<void> {
  if (!opened.value) return
  const by = await book.who(opened.value)
  if (!by) return
  const name = opened.value.areas.find((each) => each.id === area)?.name ?? opened.value.name
  await book.record({
    kind: 'put_away',
    jobId: props.job,
    by,
    body: { ...(area ? { area } : {}), away: isAway },
    say: { key: isAway ? 'away.kept' : 'away.fetched', args: { name } },
  })
}

const count = computed(() => say('job.line', { n: areas.value.length }))
</script>

<template>
  <AppFrame :crew="opened ?? undefined">
    <template #spine><PlainSpine :job="props.job" /></template>
    <template #title
      ><h1 :class="{ long: (opened?.name.length ?? 0) > LONG }">{{ opened?.name || say('loading') }}</h1></template
    >
    <template #line
      >{{ count }}<template v-if="opened?.demo"> · {{ say('jobs.demo') }}</template></template
    >
    <div class="page scroll">
      <template v-if="opened">
        <p v-if="!opened.name" class="said">{{ say('job.unopened') }}</p>
        <SetAsideLines :aside="aside" />
        <p v-if="opened.away" class="said">
          {{ say('away.job.line') }}
          <button class="outline narrow" @click="put('', false)">{{ say('away.back') }}</button>
        </p>
        <FindField v-if="areas.length > 5" v-model="find" />
        <p v-if="areas.length && !shown.length">{{ say('find.none', { find }) }}</p>
        <div v-if="!areas.length" class="empty">
          <h2>{{ say('job.empty') }}</h2>
        </div>
        <ul>
          <li v-for="area in shown" :key="area.id" class="line">
            <button v-if="clearing" class="outline narrow" @click="put(area.id, true)">{{ say('away.put') }}</button>
            <router-link :to="`/job/${opened.id}/area/${area.id}`" class="row area">
              <span class="net-cell">
                <NetDrawing v-if="area.surveyed" mini :name="area.name" :input="layersOf(props.job, area)" />
              </span>
              <span class="grow">
                <h2>{{ area.name }}</h2>
                <span>{{ say(area.next.why, area.next.args ?? {}) }}</span>
                <span v-if="area.sample" class="sample">{{ say('sample') }}</span>
              </span>
              <strong class="state">{{ say(`next.state.${area.next.state}`) }}</strong>
            </router-link>
          </li>
        </ul>
        <AwayList :away="away" @back="(id) => put(id, false)" />
        <div class="putting">
          <button v-if="areas.length" class="outline narrow" :aria-pressed="clearing" @click="clearing = !clearing">
            {{ say(clearing ? 'away.enough' : 'away.choose') }}
          </button>
          <button v-if="!opened.away" class="outline narrow" @click="put('', true)">{{ say('away.job') }}</button>
        </div>
        <section class="people">
          <h2 class="sub">{{ say('job.people') }}</h2>
          <p v-for="person in opened.people" :key="person.id">
            {{ book.names[person.id] || person.role }}
            <span v-if="book.names[person.id]" class="small">{{ person.role }}</span>
          </p>
          <button class="outline narrow copy" @click="ruling = true">
            {{ say('job.rules', { name: rulesInUse }) }}
          </button>
          <button class="outline narrow copy" @click="writing = true">
            {{ say('job.papers', { currency: opened.papers.currency || say('papers.no_currency') }) }}
          </button>
          <router-link class="outline narrow copy" :to="`/job/${opened.id}/materials`">{{
            say('job.materials')
          }}</router-link>
          <router-link class="outline narrow copy" :to="`/job/${opened.id}/sheets`">{{
            say('job.sheets')
          }}</router-link>
          <a class="outline narrow copy" :href="`/api/jobs/${opened.id}/bundle.json`" download>{{
            say('job.bundle')
          }}</a>
        </section>
      </template>
    </div>
    <NameSheet
      v-if="creating"
      :title="say('job.new_area')"
      :label="say('job.area_name')"
      :action="say('job.new_area')"
      :take="create"
      @close="creating = false"
    >
      <fieldset v-if="patterns.length" class="from">
        <legend>{{ say('job.from') }}</legend>
        <label v-for="name in ['', ...patterns.map((p) => p.name)]" :key="name" class="check">
          <input v-model="from" type="radio" name="from" :value="name" />
          <span>{{ name || say('job.from.bare') }}</span>
        </label>
      </fieldset>
      <label class="field">
        <span>{{ say('job.rooms') }}</span>
        <span class="small">{{ say('job.rooms.line') }}</span>
        <input type="file" accept=".csv,.txt" @change="takeRooms" />
      </label>
      <p v-if="error" class="said" role="alert">{{ error }}</p>
    </NameSheet>
    <PapersSheet v-if="writing && opened" :crew="opened" :papers="opened.papers" @close="writing = false" />
    <RulesSheet v-if="ruling && opened" :job="opened" @close="ruling = false" />
    <template #ledge>
      <TheLedge>
        <template #outline>
          <router-link to="/" class="outline">{{ say('job.back') }}</router-link>
        </template>
        <template #mitre>
          <MitreButton
            v-if="!creating"
            :label="say('job.new_area')"
            :line="say('job.new_area.line')"
            @click="creating = true"
          />
        </template>
      </TheLedge>
    </template>
  </AppFrame>
</template>

<style scoped>
.page {
  height: 100%;
  padding: 12px 24px;
}
.line {
  display: flex;
  align-items: center;
  gap: 12px;
}
.line .area {
  flex: 1;
  min-width: 0;
}
.area {
  min-height: 150px;
  color: inherit;
  text-decoration: none;
}
.area .grow {
  display: grid;
  justify-items: start;
  gap: 6px;
}
.net-cell {
  width: 170px;
  height: 130px;
  flex: none;
}
.state {
  font-size: 23px;
}
.putting {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding: 12px 0;
}
.people {
  padding: 20px 12px;
  display: grid;
  gap: 6px;
}
.copy {
  margin-top: 12px;
  justify-self: start;
}
.from {
  border: 0;
  padding: 0;
  display: grid;
}
.check {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 56px;
}
.check input {
  width: 26px;
  height: 26px;
}
.empty {
  padding: 48px 0;
}
:root.phone .net-cell {
  width: 84px;
  height: 80px;
}
:root.phone .area {
  min-height: 110px;
}
</style>

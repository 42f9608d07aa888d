<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useBook, type Job } from '../../data/book'
import { now as theTime } from '../../data/clock'
import { newId } from '../../data/ids'
import { session } from '../../data/session'
import { reach, version } from '../../data/sync'
import AppFrame from '../../parts/AppFrame.vue'
import MitreButton from '../../parts/MitreButton.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import NameSheet from '../../parts/NameSheet.vue'
import TheLedge from '../../parts/TheLedge.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import LoadingLine from '../../parts/LoadingLine.vue'
import { say } from '../../words/words'
import { setZone } from '../../words/zone'
import type { SetAside } from '../../data/local'
import SetAsideLines from '../../parts/SetAsideLines.vue'
import { found } from '../../data/finding'
import AwayList from './AwayList.vue'
import FindField from './FindField.vue'
import { layersOf } from './layers'
import { remember, remembered, type JobName } from './remembered'

const book = useBook()
const router = useRouter()
const jobs = ref<Job[] | null>(null)
const creating = ref(false)

const aside = ref<SetAside[]>([])

/** Whether a look is under way: before it is over nobody says that nothing is here. */
const looking = ref(false)
let again = false
/** One look at a time; what changed meanwhile is looked at once, after it. */
async function look(): Promise<void> {
  again = true
  if (looking.value) return
  looking.value = true
  try {
    while (again) {
      again = false
      aside.value = await book.asideJobs()
      jobs.value = await book.jobs(theTime())
      remember(jobs.value.filter((job) => !job.away))
      setZone(undefined)
    }
  } finally {
    looking.value = false
  }
}
onMounted(look)
watch(version, look)

async function create(name: string): Promise<void> {
  const jobId = newId()
  const time_zone = Intl.DateTimeFormat().resolvedOptions().timeZone || 'Etc/UTC'
  const by = await book.who({ id: jobId, people: [] })
  if (!by) return
  await book.record({ kind: 'job.opened', jobId, by, body: { name, time_zone } })
  await router.push(`/job/${jobId}`)
}

/** Jobs by name as they were here last, until each was read again: they can be gone to meanwhile. */
const before = remembered()
const rows = computed<(JobName & { job?: Job })[]>(
  () =>
    jobs.value
      ?.filter((job) => !job.away)
      .map((job) => ({ id: job.id, name: job.name, demo: job.demo, areas: job.areas.length, job })) ?? before,
)

const find = ref('')
const shown = computed(() => rows.value.filter((row) => found(row.name, find.value)))
const away = computed(() => jobs.value?.filter((job) => job.away) ?? [])

async function fetchBack(id: string): Promise<void> {
  const job = jobs.value?.find((each) => each.id === id)
  const by = job && (await book.who(job))
  if (!by) return
  const say = { key: 'away.fetched', args: { name: job.name } }
  await book.record({ kind: 'put_away', jobId: id, by, body: { away: false }, say })
}
</script>

<template>
  <AppFrame>
    <template #spine><PlainSpine /></template>
    <template #title
      ><h1>{{ say('jobs.title') }}</h1></template
    >
    <template #line>{{ say('jobs.line') }}</template>
    <div class="page scroll">
      <LoadingLine v-if="!rows.length && (!jobs || looking || reach === 'unknown')" />
      <div v-else-if="!rows.length && reach === 'shut'" class="empty">
        <h2>{{ say('pair.title') }}</h2>
        <p>{{ say('pair.line') }}</p>
        <router-link to="/pair" class="outline">{{ say('pair.go') }}</router-link>
      </div>
      <div v-else-if="!rows.length" class="empty">
        <h2>{{ say('jobs.empty') }}</h2>
        <p>{{ say('jobs.empty.line') }}</p>
      </div>
      <FindField v-if="rows.length > 5" v-model="find" />
      <p v-if="rows.length && !shown.length">{{ say('find.none', { find }) }}</p>
      <ul v-if="rows.length">
        <li v-for="row in shown" :key="row.id">
          <router-link :to="`/job/${row.id}`" class="row job">
            <span class="grow">
              <h2>{{ row.name }}</h2>
              <span class="small">{{ say('jobs.areas', { n: row.areas }) }}</span>
              <span v-if="row.demo" class="sample">{{ say('jobs.demo') }}</span>
            </span>
            <span class="nets">
              <span v-for="area in row.job?.areas.slice(0, 4)" :key="area.id" class="net-cell">
                <NetDrawing v-if="area.surveyed" mini :name="area.name" :input="layersOf(row.id, area)" />
              </span>
            </span>
          </router-link>
        </li>
      </ul>
      <AwayList :away="away" @back="fetchBack" />
      <SetAsideLines :aside="aside" />
      <router-link v-if="session?.shut && session.role === 'owner'" to="/devices" class="outline narrow">{{
        say('devices.title')
      }}</router-link>
    </div>
    <NameSheet
      v-if="creating"
      :title="say('jobs.new')"
      :label="say('jobs.name')"
      :action="say('jobs.create')"
      :take="create"
      @close="creating = false"
    />
    <template #ledge>
      <TheLedge>
        <template #mitre>
          <MitreButton
            v-if="!creating"
            :label="say('jobs.new')"
            :line="say('jobs.new.line')"
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
.job {
  min-height: 150px;
  color: inherit;
  text-decoration: none;
}
.job .grow {
  display: grid;
  justify-items: start;
  gap: 6px;
}
.job .grow {
  min-width: 200px;
}
.nets {
  display: flex;
  justify-content: end;
  gap: 16px;
}
.net-cell {
  flex: 0 1 170px;
  height: 130px;
}
.empty {
  display: grid;
  gap: 12px;
  padding: 48px 0;
}
:root.phone .net-cell {
  flex-basis: 110px;
  height: 90px;
}
:root.phone .net-cell:nth-child(n + 2) {
  display: none;
}
</style>

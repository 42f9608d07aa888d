<script setup lang="ts">
// Who works when: crews with their week and the days that are otherwise, the way between two areas, when the inspector comes, the
// weather ahead, and when what is short arrives.
import { computed, ref } from 'vue'
import { call } from '../../core/core'
import { useBook } from '../../data/book'
import { now as theTime } from '../../data/clock'
import { askJob } from '../../data/folded'
import { newId } from '../../data/ids'
import { sayRefusal } from '../../data/refusal'
import { version } from '../../data/sync'
import { useDraft, without } from '../../data/useDraft'
import { toggled } from '../../data/toggled'
import { useLatest } from '../../data/useLatest'
import AppFrame from '../../parts/AppFrame.vue'
import BackLink from '../../parts/BackLink.vue'
import LoadingLine from '../../parts/LoadingLine.vue'
import MitreButton from '../../parts/MitreButton.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import TheLedge from '../../parts/TheLedge.vue'
import TwoSides from '../../parts/TwoSides.vue'
import { frame } from '../../theme/useFrame'
import { say } from '../../words/words'
import { dayOf, timeOfPlace } from '../../words/zone'
import { useJob } from '../now/useJob'
import WeekHours from './WeekHours.vue'
import WeatherPanel from './WeatherPanel.vue'
import { readWeek, typedWeek, type Shift } from './week'

const props = defineProps<{ job: string }>()
const book = useBook()
const { job } = useJob(() => props.job)
/** What is touched: the id of a crew, "new", "site", or "weather". */
const touched = ref('')
const error = ref('')
const crew = computed(() => job.value?.crews.find((each) => each.crew === touched.value) ?? null)
const USUAL: Shift[] = [
  { days: [1, 2, 3, 4, 5], from: '07:00', to: '12:00' },
  { days: [1, 2, 3, 4, 5], from: '12:30', to: '16:30' },
]

const draft = useDraft(
  () => `crew.${props.job}.${touched.value}`,
  () => {
    const of = crew.value
    if (touched.value === 'site')
      return {
        travel: String(job.value?.site_hours.travel_min ?? 0),
        ...typedWeek(job.value?.site_hours.inspector ?? []),
      }
    return {
      name: of?.name ?? say('crews.new', { n: (job.value?.crews.length ?? 0) + 1 }),
      people: String(of?.people ?? 2),
      licences: (of?.licences ?? []).join(', '),
      members: (of?.members ?? []).join(' '),
      date: '',
      ...typedWeek(of?.shifts ?? USUAL),
    }
  },
)
const typed = computed(() => draft.typed.value)
const members = computed(() => (typed.value.members ?? '').split(' ').filter(Boolean))
const member = (id: string) => draft.type('members', toggled(members.value, id).join(' '))
function touch(what: string): void {
  error.value = ''
  touched.value = touched.value === what ? '' : what
}

async function record(kind: string, body: object, key: string): Promise<boolean> {
  error.value = ''
  if (!job.value) return false
  const by = await book.who(job.value)
  if (!by) return false
  try {
    await book.record({ kind, jobId: props.job, by, body, say: { key } })
    return true
  } catch (refused) {
    error.value = sayRefusal(refused, '. ')
    return false
  }
}
/** Days ahead whose weather was read. */
const ahead = computed(() => (job.value?.weather ?? []).filter((each) => each.date >= dayOf(theTime())))
const sayDay = (each: { date: string }) => say('days.day', { at: `${each.date}T12:00:00` })
const whole = async (field: string, least: number, most: number) =>
  Math.round(
    (await call('units.number', { field, kind: 'number', typed: typed.value[field] ?? '', least, most })).value,
  )

async function keep(): Promise<void> {
  error.value = ''
  try {
    if (touched.value === 'site') {
      const body = { travel_min: await whole('travel', 0, 1440), inspector: readWeek(typed.value) }
      if (!(await record('site.hours', body, 'crews.site.kept'))) return
    } else {
      const licences = (typed.value.licences ?? '').split(',').map((each) => each.trim())
      const body = {
        crew: crew.value?.crew ?? newId(),
        name: (typed.value.name ?? '').trim(),
        people: await whole('people', 1, 50),
        licences: licences.filter(Boolean),
        members: members.value,
        shifts: readWeek(typed.value),
      }
      if (!(await record('crew.set', body, 'crews.kept'))) return
    }
    await draft.drop()
    touched.value = ''
  } catch (refused) {
    error.value = sayRefusal(refused, '. ')
  }
}
async function gone(): Promise<void> {
  if (!crew.value) return
  if (await record('crew.set', { ...without(crew.value, 'days'), away: true }, 'crews.gone')) touched.value = ''
}
/** A day off, or one that is worked at the hours above. */
async function keepDay(off: boolean): Promise<void> {
  if (!crew.value) return
  const hours = off ? [] : readWeek(typed.value).map(({ from, to }) => ({ from, to }))
  const body = { crew: crew.value.crew, date: typed.value.date ?? '', shifts: hours }
  if (await record('crew.day', body, 'crews.day.kept')) void draft.type('date', '')
}

/** What is short, by its sheet, and when it comes. */
const short = useLatest(
  () => [props.job, version.value],
  async () => {
    const { lines } = await askJob(props.job, 'materials.list', { area: '', now: theTime().toISOString() })
    return [
      ...new Map(lines.filter((each) => each.to_buy > 0 && each.sheet).map((each) => [each.sheet, each])).values(),
    ]
  },
)
const deliveries = useDraft(
  () => `deliveries.${props.job}`,
  () => ({}),
)
const comes = (sheet: string) => job.value?.deliveries.find((each) => each.sheet === sheet)?.at
async function keepDelivery(sheet: string): Promise<void> {
  const at = timeOfPlace(deliveries.typed.value[sheet] ?? '')
  await record('delivery.due', { sheet, at: at?.toISOString() ?? '' }, 'crews.delivery.kept')
}
</script>

<template>
  <AppFrame :crew="job ?? undefined">
    <template #spine
      ><PlainSpine :job="props.job" place="waits" :areas="job?.areas.filter((area) => !area.away) ?? []"
    /></template>
    <template #title
      ><h1>{{ say('crews.title') }}</h1></template
    >
    <template #line
      ><BackLink :to="`/job/${props.job}/days`" :name="say('days.title')" /> · {{ say('crews.line') }}</template
    >
    <TwoSides v-if="job" width="460px" :phone="touched ? 'side-alone' : 'list-first'">
      <section>
        <p v-if="!job.crews.length" class="said">{{ say('crews.none') }}</p>
        <button
          v-for="each in job.crews"
          :key="each.crew"
          class="row"
          :class="{ chosen: touched === each.crew }"
          :aria-pressed="touched === each.crew"
          @click="touch(each.crew)"
        >
          <span class="grow">
            <strong>{{ each.name }}</strong>
            <span class="small">{{
              [say('crews.people.n', { n: each.people }), ...each.shifts.map((s) => `${s.from}–${s.to}`)].join(' · ')
            }}</span>
          </span>
        </button>
        <button class="outline narrow add" @click="touch('new')">{{ say('crews.add') }}</button>
      </section>
      <section>
        <h2 class="sub">{{ say('crews.site') }}</h2>
        <button
          class="row"
          :class="{ chosen: touched === 'site' }"
          :aria-pressed="touched === 'site'"
          @click="touch('site')"
        >
          <span class="grow"
            >{{ say('crews.travel') }}: <strong>{{ job.site_hours.travel_min }}</strong>
            <span class="small">
              {{ say('crews.inspector') }}:
              {{
                job.site_hours.inspector?.length
                  ? job.site_hours.inspector.map((s) => `${s.from}–${s.to}`).join(', ')
                  : say('crews.inspector.any')
              }}
            </span></span
          >
        </button>
      </section>
      <section>
        <h2 class="sub">{{ say('weather.title') }}</h2>
        <button
          class="row"
          :class="{ chosen: touched === 'weather' }"
          :aria-pressed="touched === 'weather'"
          @click="touch('weather')"
        >
          <span class="grow">{{
            ahead.length ? say('weather.read', { dates: ahead.map(sayDay) }) : say('weather.none')
          }}</span>
        </button>
      </section>
      <section>
        <h2 class="sub">{{ say('crews.deliveries') }}</h2>
        <p v-if="!short?.length">{{ say('crews.deliveries.none') }}</p>
        <div v-for="each in short ?? []" :key="each.sheet" class="delivery">
          <v-text-field
            type="datetime-local"
            :label="say('crews.delivery', { name: each.name || each.title })"
            :model-value="deliveries.typed.value[each.sheet!] ?? ''"
            @update:model-value="(text: string) => deliveries.type(each.sheet!, text)"
          />
          <button
            class="outline narrow"
            :disabled="!comes(each.sheet!) && !deliveries.typed.value[each.sheet!]"
            @click="keepDelivery(each.sheet!)"
          >
            {{ say('crews.delivery.keep') }}
          </button>
          <span class="small">{{
            comes(each.sheet!) ? say('crews.delivery.at', { at: comes(each.sheet!) }) : say('crews.delivery.not')
          }}</span>
        </div>
      </section>
      <template #side>
        <button v-if="touched && frame !== 'desk' && frame !== 'lying'" class="outline narrow" @click="touched = ''">
          {{ say('crews.title') }}
        </button>
        <WeatherPanel v-if="touched === 'weather'" :job="job" :record="record" />
        <template v-else-if="touched && !draft.ready.value" />
        <template v-else-if="touched === 'site'">
          <h2>{{ say('crews.site') }}</h2>
          <v-text-field
            :model-value="typed.travel ?? ''"
            :label="say('crews.travel')"
            inputmode="numeric"
            maxlength="4"
            autocomplete="off"
            @update:model-value="(text: string) => draft.type('travel', text)"
          />
          <h3 class="sub">{{ say('crews.inspector') }}</h3>
          <WeekHours :typed="typed" @type="draft.type" />
        </template>
        <template v-else-if="touched">
          <h2>{{ typed.name }}</h2>
          <v-text-field
            v-for="field in ['name', 'people', 'licences'] as const"
            :key="field"
            :model-value="typed[field] ?? ''"
            :label="say(`crews.${field}`)"
            :inputmode="field === 'people' ? 'numeric' : undefined"
            maxlength="80"
            autocomplete="off"
            @update:model-value="(text: string) => draft.type(field, text)"
          />
          <div class="wrapped" role="group" :aria-label="say('crews.members')">
            <span class="small">{{ say('crews.members') }}</span>
            <button
              v-for="each in job.people"
              :key="each.id"
              class="outline narrow"
              :aria-pressed="members.includes(each.id)"
              @click="member(each.id)"
            >
              {{ book.names[each.id] || each.role }}
            </button>
          </div>
          <WeekHours :typed="typed" @type="draft.type" />
          <template v-if="crew">
            <h3 class="sub">{{ say('crews.days') }}</h3>
            <p v-if="!crew.days.length" class="small">{{ say('crews.days.none') }}</p>
            <p v-for="each in crew.days" :key="each.date">
              {{
                each.shifts?.length
                  ? say('crews.day.hours', { date: each.date, hours: each.shifts.map((s) => `${s.from}–${s.to}`) })
                  : say('crews.day.off', { date: each.date })
              }}
            </p>
            <v-text-field
              type="date"
              :label="say('crews.day.date')"
              :model-value="typed.date ?? ''"
              @update:model-value="(text: string) => draft.type('date', text)"
            />
            <div class="wrapped">
              <button class="outline narrow" :disabled="!typed.date" @click="keepDay(true)">
                {{ say('crews.day.is_off') }}
              </button>
              <button class="outline narrow" :disabled="!typed.date" @click="keepDay(false)">
                {{ say('crews.day.works') }}
              </button>
            </div>
            <button class="outline narrow" @click="gone">{{ say('crews.away') }}</button>
          </template>
        </template>
        <p v-else class="said">{{ say('crews.line') }}</p>
      </template>
    </TwoSides>
    <LoadingLine v-else />
    <template #ledge>
      <TheLedge :error="error">
        <template #facts>{{ job?.name }}</template>
        <template #mitre>
          <MitreButton
            v-if="touched && touched !== 'weather'"
            :label="say(touched === 'site' ? 'crews.site.keep' : 'crews.keep')"
            @click="keep"
          />
          <MitreButton v-else :label="say('days.open')" @click="$router.push(`/job/${props.job}/days`)" />
        </template>
      </TheLedge>
    </template>
  </AppFrame>
</template>

<style scoped>
.small {
  display: block;
}
.wrapped .outline[aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
}
.add {
  margin-top: 10px;
}
.delivery {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  align-items: start;
  padding-block: 6px;
}
</style>

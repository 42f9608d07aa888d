<script setup lang="ts">
// What a person reads of the weather of a day ahead, day by day: work in the open is laid out by it.
import { computed, ref } from 'vue'
import { call } from '../../core/core'
import type { Job } from '../../data/book'
import { now as theTime } from '../../data/clock'
import { askedBack, readAir } from '../../data/numbers'
import { sayRefusal } from '../../data/refusal'
import { useDraft } from '../../data/useDraft'
import NumberFields from '../../parts/NumberFields.vue'
import OneOf from '../../parts/OneOf.vue'
import { say } from '../../words/words'
import { dayOf } from '../../words/zone'
import { midnights } from './useDays'
import { readWeek, typedWeek } from './week'
import WeekHours from './WeekHours.vue'

const props = defineProps<{ job: Job; record: (kind: string, body: object, key: string) => Promise<boolean> }>()
const AHEAD = 10 // days that a forecast reaches
const STORM = 60 // m/s
const NOON = 12 * 60 * 60_000
const dates = midnights(theTime(), AHEAD)
  .slice(0, -1)
  .map((at) => dayOf(new Date(Date.parse(at) + NOON)))
const date = ref(dates[0]!)
const said = computed(() => props.job.weather.find((each) => each.date === date.value))
const numbers = { coldest: 'coldest_C', warmest: 'warmest_C', humidity: 'rh_percent', wind: 'wind_m_per_s' } as const
const fields = (Object.keys(numbers) as (keyof typeof numbers)[]).map((id) => ({ id, label: say(`weather.${id}`) }))
const draft = useDraft(
  () => `weather.${props.job.id}.${date.value}`,
  () => {
    const of = said.value
    const read = fields.map(({ id }) => [id, of?.[numbers[id]]?.toString() ?? ''])
    const rain = typedWeek((of?.rain ?? []).map((each) => ({ days: [], ...each })))
    return { ...(Object.fromEntries(read) as Record<string, string>), ...rain, from: of?.from ?? '' }
  },
)
const error = ref('')
const asked = ref('')

async function keep(): Promise<void> {
  error.value = asked.value = ''
  const typed = draft.typed.value
  const given = (field: keyof typeof numbers) => !!(typed[field] ?? '').trim()
  try {
    const body: Record<string, unknown> = {
      date: date.value,
      rain: readWeek(typed).map(({ from, to }) => ({ from, to })),
      from: (typed.from ?? '').trim(),
    }
    for (const field of ['coldest', 'warmest'] as const) {
      if (given(field)) body[numbers[field]] = await readAir(field, 'temperature', typed[field])
    }
    if (given('humidity')) body[numbers.humidity] = await readAir('humidity', 'humidity', typed.humidity)
    if (given('wind')) {
      const wind = { field: 'wind', kind: 'number', typed: typed.wind!, least: 0, most: STORM } as const
      body[numbers.wind] = (await call('units.number', wind)).value
    }
    if (await props.record('weather.day', body, 'weather.kept')) await draft.drop()
  } catch (refused) {
    error.value = sayRefusal(refused, '. ')
    asked.value = askedBack(refused)
  }
}
</script>

<template>
  <h2>{{ say('weather.title') }}</h2>
  <p>{{ say('weather.line') }}</p>
  <OneOf
    v-slot="{ option }"
    class="wrapped"
    look="outline narrow"
    :options="dates"
    :picked="date"
    :label="say('weather.date')"
    @pick="(day: string) => (date = day)"
  >
    {{ say('days.day', { at: `${option}T12:00:00` }) }}
  </OneOf>
  <template v-if="draft.ready.value">
    <NumberFields :fields="fields" :typed="draft.typed.value" :asked="asked" @type="draft.type" @enter="keep" />
    <h3 class="sub">{{ say('weather.rain') }}</h3>
    <p v-if="!draft.typed.value.hours" class="small">{{ say('weather.rain.none') }}</p>
    <WeekHours :typed="draft.typed.value" of="weather.rain" @type="draft.type" />
    <v-text-field
      :model-value="draft.typed.value.from ?? ''"
      :label="say('weather.from')"
      maxlength="80"
      autocomplete="off"
      @update:model-value="(text: string) => draft.type('from', text)"
    />
    <p v-if="error" class="said" role="alert">{{ error }}</p>
    <button class="outline" @click="keep">{{ say('weather.keep') }}</button>
  </template>
</template>

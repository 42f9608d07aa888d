<script setup lang="ts">
// One step as it is laid out: what holds its start, its window, how much later it may begin; laid elsewhere by hand.
import { computed, ref } from 'vue'
import { call } from '../../core/core'
import { useBook, type Job } from '../../data/book'
import { sayRefusal } from '../../data/refusal'
import { heldOf, sayHeld } from '../../words/held'
import { moment, say } from '../../words/words'
import { timeOfPlace } from '../../words/zone'
import { titleOf, type Days, type Row, type useDays } from './useDays'

const props = defineProps<{
  job: Job
  row: Row
  days: Days
  plan: ReturnType<typeof useDays>
  crews: readonly { id: string; name: string }[]
}>()
const book = useBook()
const error = ref('')
const start = ref('')
const minutes = ref('')
const HALF = 30 * 60_000

const held = computed(() => sayHeld(heldOf(props.row)))
/** What holds the end of all: where this step is of it, the steps behind it up to the last. */
const behind = computed(() => {
  const at = props.days.chain.indexOf(props.row.id)
  const rowOf = (id: string) => props.days.rows.find((each) => each.id === id)
  const list = props.days.chain.slice(0, Math.max(0, at)).toReversed()
  return at < 0 ? null : list.flatMap((id) => rowOf(id)?.title ?? [])
})
const HEATER = 3 // K
function layThere(): void {
  const at = timeOfPlace(start.value)
  if (at) void props.plan.hold(props.row, at)
}
async function takes(): Promise<void> {
  error.value = ''
  try {
    const { value } = await call('units.number', {
      field: 'minutes',
      kind: 'number',
      typed: minutes.value,
      least: 0,
      most: 129600,
    })
    const by = await book.who(props.job)
    if (!by) return
    await book.record({
      kind: 'step.timed',
      jobId: props.job.id,
      areaId: props.row.area,
      by,
      body: { step: props.row.step, minutes: Math.round(value) },
      say: { key: 'days.minutes.kept' },
    })
    minutes.value = ''
  } catch (refused) {
    error.value = sayRefusal(refused)
  }
}
</script>

<template>
  <section class="panel">
    <h2>{{ titleOf(row) }}</h2>
    <p>{{ row.name }} · {{ crews.find((each) => each.id === row.crew)?.name ?? say('days.alone') }}</p>
    <p class="when">
      <strong>{{ moment(row.start) }}</strong> – <strong>{{ moment(row.end) }}</strong>
    </p>
    <h3 class="sub">{{ say('days.why') }}</h3>
    <p>{{ held }}</p>
    <p v-if="row.opens">
      {{ say('days.opens') }} <strong>{{ moment(row.opens) }}</strong>
    </p>
    <p v-if="row.shuts">
      {{ say('days.shuts') }} <strong>{{ moment(row.shuts) }}</strong>
    </p>
    <p v-if="row.slack_min !== null">
      {{ row.slack_min ? say('days.slack', { hours: row.slack_min / 60 }) : say('days.no_slack') }}
    </p>
    <p v-if="behind?.length">{{ say('days.chain', { names: behind }) }}</p>
    <p v-if="row.weather_unread" class="said">{{ say('days.weather_unread') }}</p>
    <p v-if="row.lacks.length" class="said">{{ say('days.lacks', { what: row.lacks }) }}</p>
    <p class="small">{{ say(row.stated ? 'days.takes.stated' : 'days.takes', { hours: row.minutes / 60 }) }}</p>
    <div class="beside">
      <v-text-field
        v-model="minutes"
        :label="say('days.minutes')"
        inputmode="numeric"
        maxlength="6"
        autocomplete="off"
      />
      <button class="outline narrow" :disabled="!minutes" @click="takes">{{ say('days.minutes.say') }}</button>
    </div>
    <div class="beside">
      <v-text-field v-model="start" :label="say('days.not_before')" type="datetime-local" />
      <button class="outline narrow" :disabled="!start" @click="layThere">{{ say('days.lay_there') }}</button>
    </div>
    <div class="wrapped">
      <button class="outline narrow" @click="plan.hold(row, new Date(Date.parse(row.start) + HALF))">
        {{ say('days.later') }}
      </button>
      <button v-if="row.opens" class="outline narrow" @click="plan.warm(row, HEATER)">
        {{ say('days.try.heater', { k: HEATER, name: row.name }) }}
      </button>
      <button v-if="row.hands && !row.hold && !row.parts" class="outline narrow" @click="plan.split(row)">
        {{ say('days.try.split.this') }}
      </button>
      <button v-if="plan.suppose.value.held?.length" class="outline narrow" @click="plan.release(row)">
        {{ say('days.earlier') }}
      </button>
    </div>
    <p v-if="plan.broken.value" class="said" role="alert">
      {{ row.shuts ? say('days.broken', { title: row.title, shuts: row.shuts }) : say('days.broken.none') }}
    </p>
    <p v-if="error" class="said" role="alert">{{ error }}</p>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 12px;
  grid-template-columns: minmax(0, 1fr);
}
.when {
  font-size: 23px;
}
.beside {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  align-items: end;
}
</style>

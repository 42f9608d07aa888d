<script setup lang="ts">
// A system tried on an area before it is kept, beside the one it was made of or any other: what it takes, how many steps, how
// long and what it costs, and in words what is different.
import { computed, ref } from 'vue'
import { call, type Schemas } from '../../core/core'
import { askJob } from '../../data/folded'
import { useLatest } from '../../data/useLatest'
import ChangeList from '../../parts/ChangeList.vue'
import OneOf from '../../parts/OneOf.vue'
import { money, quantity, say, sayFault, unitName } from '../../words/words'
import type { System } from './useEditor'

const props = defineProps<{
  job: string
  areas: readonly { id: string; name: string }[]
  system: System
  base: System
  library: readonly System[]
}>()
const area = ref(props.areas[0]?.id ?? '')
const otherId = ref('')
const choosing = ref(false)
const other = computed(() => props.library.find((each) => each.id === otherId.value) ?? props.base)

const trials = useLatest(
  () => [area.value, JSON.stringify(props.system), other.value.id],
  async () =>
    area.value
      ? (await askJob(props.job, 'system.try', { area: area.value, systems: [other.value, props.system] })).trials
      : null,
)
const changes = useLatest(
  () => [JSON.stringify(props.system), other.value.id],
  async () => (await call('system.changes', { before: other.value, after: props.system })).changes,
)
type Trial = Schemas['SiteTrial']
const before = computed<Trial | undefined>(() => trials.value?.[0])
const now = computed<Trial | undefined>(() => trials.value?.[1])

const amount = (take?: Trial['takes'][number]) =>
  !take
    ? '–'
    : take.need === null
      ? say('editor.try.missing')
      : `${Math.round(take.need * 10) / 10} ${unitName(take.unit)}`
const rows = computed(() => {
  const [a, b] = [before.value, now.value]
  if (!a || !b) return []
  const takes = [...a.takes, ...b.takes.filter((each) => !a.takes.some((was) => was.id === each.id))]
  const time = (hours: number | null) => (hours === null ? say('editor.try.missing') : quantity(hours, 'h'))
  const hours = (of: Trial) => time(of.hours)
  const cost = (of: Trial) => (of.cost_cents === null ? say('editor.try.missing') : money(of.cost_cents))
  return [
    { name: say('choice.hours'), was: hours(a), is: hours(b) },
    { name: say('editor.try.whole'), was: time(a.whole_h), is: time(b.whole_h) },
    { name: say('choice.cost'), was: cost(a), is: cost(b) },
    { name: say('choice.layers'), was: String(a.layers), is: String(b.layers) },
    { name: say('editor.try.steps'), was: String(a.steps), is: String(b.steps) },
    { name: say('editor.try.holds'), was: String(a.holds), is: String(b.holds) },
    ...takes.map(({ id, name }) => ({
      name,
      was: amount(a.takes.find((each) => each.id === id)),
      is: amount(b.takes.find((each) => each.id === id)),
    })),
  ]
})
</script>

<template>
  <section class="panel">
    <p v-if="!areas.length" class="said">{{ say('editor.try.nowhere') }}</p>
    <OneOf
      v-else
      v-slot="{ option }"
      class="wrapped"
      look="outline narrow"
      :options="areas.map((each) => each.id)"
      :picked="area"
      :label="say('editor.try.area')"
      titled
      @pick="(id: string) => (area = id)"
    >
      {{ areas.find((each) => each.id === option)?.name }}
    </OneOf>
    <button class="row" :aria-expanded="choosing" @click="choosing = !choosing">
      <span class="grow">
        <span class="small beside">{{ say('editor.try.beside') }}</span>
        <strong>{{ other.name }}{{ other.revision && ` · ${other.revision}` }}</strong>
      </span>
      <strong>{{ say(choosing ? 'close' : 'choice.change') }}</strong>
    </button>
    <OneOf
      v-if="choosing"
      v-slot="{ option }"
      look="row"
      :options="library.map((each) => each.id)"
      :picked="other.id"
      :label="say('editor.try.beside')"
      @pick="
        (id: string) => {
          otherId = id
          choosing = false
        }
      "
    >
      <span v-for="each in library.filter((one) => one.id === option)" :key="each.id" class="grow">
        <strong>{{ each.name }}</strong> <span class="small">{{ each.revision }}</span>
      </span>
    </OneOf>
    <p v-for="trial in [before, now].filter((each) => each?.fault)" :key="trial!.system" class="said" role="alert">
      {{ trial!.name }}: {{ sayFault(trial!.fault!) }}
    </p>
    <table v-if="rows.length">
      <thead>
        <tr>
          <td></td>
          <th scope="col" class="small">{{ otherId ? other.name : say('editor.try.was') }}</th>
          <th scope="col" class="small">{{ say('editor.try.now') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.name" :class="{ other: row.was !== row.is }">
          <th scope="row">{{ row.name }}</th>
          <td>{{ row.was }}</td>
          <td>{{ row.is }}</td>
        </tr>
      </tbody>
    </table>
    <ChangeList v-if="changes?.length" :changes="changes" />
    <p class="small">{{ say('choice.advice') }}</p>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 14px;
  grid-template-columns: minmax(0, 1fr);
}
.beside {
  display: block;
}
table {
  border-collapse: collapse;
}
th,
td {
  padding: 8px 6px;
  border-bottom: 1.5px solid var(--line);
  text-align: end;
  vertical-align: baseline;
  overflow-wrap: anywhere;
}
th[scope='row'] {
  text-align: start;
  font-weight: 500;
}
.other td:last-child {
  font-weight: 750;
}
</style>

<script setup lang="ts">
// The bucket card of a chosen share: what the core says to weigh, and in how many buckets.
import { computed, onMounted, ref } from 'vue'
import { call, Refusal } from '../../core/core'
import { useLatest } from '../../data/useLatest'
import { askJob } from '../../data/folded'
import { askedBack, readAir } from '../../data/numbers'
import { sayRefusal } from '../../data/refusal'
import { newId } from '../../data/ids'
import { version } from '../../data/sync'
import { wakeSound } from '../../data/useAlarm'
import { useDraft } from '../../data/useDraft'
import MitreButton from '../../parts/MitreButton.vue'
import NumberFields from '../../parts/NumberFields.vue'
import OneOf from '../../parts/OneOf.vue'
import { fieldName, fixed, say } from '../../words/words'
import { isShut, useArea, type Step } from '../area/useArea'

defineOptions({ inheritAttrs: false })
/** Of a coat of the film by its number, or of another layer of the step; `all` are its places. */
const props = defineProps<{
  number: number
  layer?: string
  all: string[]
  step: Step
  chosen: string[]
  open: string[]
}>()
const emit = defineEmits<{ choose: [ids: string[]]; error: [text: string]; begun: [id: string] }>()
const { look, job, area, record } = useArea()

const air = { id: 'temp_C', label: 'coat.temp', start: '' } as const
const sizes = [
  { id: 'bucket_L', label: 'coat.bucket', start: '30', least: 1, most: 200 },
  { id: 'scale_g', label: 'coat.scale', start: '20', least: 0.1, most: 1000 },
  { id: 'crew_m2_per_h', label: 'coat.crew', start: '10', least: 0.5, most: 200 },
  { id: 'walk_min', label: 'coat.walk', start: '2', least: 0, most: 60 },
] as const
const fields = [air, ...sizes]
const labelled = fields.map(({ id, label }) => ({ id, label: say(label) }))
const asked = ref('')
const temp = ref(0)
const draft = useDraft(
  () => `mix.${area}`,
  () => Object.fromEntries(fields.map((field) => [field.id, field.start])),
)
const faults = ref<Record<string, string>>({})
const codes = ref<Record<string, string>>({})
const ready = ref(false)
onMounted(() => (ready.value = true))

async function numbers(): Promise<Record<string, number> | null> {
  const read: Record<string, number> = {}
  const wrong: Record<string, string> = {}
  let back = ''
  const reading = async (id: string, value: Promise<number>) => {
    try {
      read[id] = await value
    } catch (error) {
      wrong[id] = sayRefusal(error)
      back ||= askedBack(error)
    }
  }
  const texts = draft.typed.value
  await reading(air.id, readAir(air.id, 'temperature', texts[air.id]))
  for (const { id, least, most } of sizes)
    await reading(
      id,
      call('units.number', { field: id, kind: 'number', typed: texts[id] ?? '', least, most }).then((got) => got.value),
    )
  faults.value = wrong
  asked.value = back
  temp.value = read[air.id] ?? 0
  return Object.keys(wrong).length ? null : read
}

/** Figures that its sheet was not read for. */
const lacking = ref<{ sheet: string; names: string[] } | null>(null)
/** Its water goes by the tool. */
const asksTool = ref(false)
const card = useLatest(
  () => [draft.typed.value, props.chosen, version.value],
  async () => {
    const read = await numbers()
    if (!read || !props.chosen.length) return null
    lacking.value = null
    try {
      return await askJob(job, 'logbook.card', {
        area,
        coat: props.number,
        ...(props.layer ? { step: props.step.id, layer: props.layer } : {}),
        surfaces: [...props.chosen],
        temp_C: read.temp_C!,
        bucket_L: read.bucket_L!,
        scale_g: read.scale_g!,
        crew_m2_per_h: read.crew_m2_per_h!,
        walk_min: read.walk_min!,
        ...(draft.typed.value.tool ? { tool: draft.typed.value.tool } : {}),
      })
    } catch (error) {
      const not = error instanceof Refusal ? error.faults.filter((each) => each.key === 'sheet.not_stated') : []
      if (not.length) {
        lacking.value = { sheet: String(not[0]!.args?.id), names: not.map((each) => String(each.args?.number)) }
        return null
      }
      asksTool.value ||= error instanceof Refusal && error.faults.some((each) => each.field === 'tool')
      emit('error', sayRefusal(error, '. '))
      return null
    }
  },
)

const first = computed(() => card.value?.weigh[0])
const onTop = computed(() => card.value?.added.filter((each) => each.bucket === 1) ?? [])
const kg = computed(() => card.value?.series.batches_kg[0] ?? 0)
const next = computed(() => look.value.batches.length + 1)

/** The parts as the scale showed them, where that was not what was asked. */
const otherwise = ref(false)
const weight = async (part: string) =>
  (
    await call('units.number', {
      field: 'kg',
      kind: 'number',
      typed: draft.typed.value[`weighed.${part}`] ?? '',
      least: 0.001,
      most: 5000,
    })
  ).value

async function weighed(): Promise<void> {
  if (!card.value || !first.value) return
  wakeSound()
  const read = await numbers()
  if (!read) return
  const batch = newId()
  const parts: { part: string; kg: number; code?: string }[] = []
  try {
    for (const part of first.value)
      parts.push({
        part: part.part,
        kg: otherwise.value ? await weight(part.part) : part.kg,
        ...(codes.value[part.part] ? { code: codes.value[part.part] } : {}),
      })
  } catch (error) {
    return emit('error', sayRefusal(error, '. '))
  }
  const body = {
    step: props.step.id,
    ...(props.layer ? { layer: props.layer } : {}),
    batch,
    surfaces: [...props.chosen],
    kg: Math.round(kg.value * 1000) / 1000,
    temp_C: read.temp_C,
    bucket_L: read.bucket_L,
    parts,
  }
  if (await record('weighed', body, { key: 'bucket.kept.weighed', args: { n: next.value } })) emit('begun', batch)
}
</script>

<template>
  <section class="mix">
    <div class="beside-key">
      <p class="grow">
        {{
          chosen.length && card
            ? layer
              ? say('mix.share', { n: chosen.length })
              : say('coat.share', { n: chosen.length, area: card.area_m2 })
            : say(layer ? 'work.pick' : 'coat.pick')
        }}
      </p>
      <button class="outline narrow" @click="emit('choose', open.length ? [...open] : [...all])">
        {{ say('coat.all') }}
      </button>
      <button v-if="chosen.length" class="outline narrow" @click="emit('choose', [])">{{ say('coat.none') }}</button>
    </div>
    <NumberFields
      class="fields"
      :fields="labelled"
      :typed="draft.typed.value"
      :asked="asked"
      :wrong="faults"
      @type="draft.type"
    />
    <template v-for="field in fields" :key="field.id">
      <p v-if="faults[field.id] && (draft.typed.value[field.id] || chosen.length)" class="said">
        {{ faults[field.id] }}
      </p>
    </template>
    <OneOf
      v-if="asksTool"
      v-slot="{ option }"
      class="wrapped"
      titled
      look="outline narrow"
      :options="['roller', 'trowel']"
      :picked="draft.typed.value.tool"
      :label="say('mix.tool')"
      @pick="(tool: string) => draft.type('tool', tool)"
    >
      {{ say(`mix.tool.${option}`) }}
    </OneOf>
    <section v-if="lacking">
      <p class="said" role="status">
        {{ say('mix.lacking', { figures: lacking.names.map((each) => fieldName(each)) }) }}
      </p>
      <router-link
        class="outline narrow"
        :to="{ path: `/job/${job}/sheet/${lacking.sheet}/${area}`, query: { ask: lacking.names.join(',') } }"
        >{{ say('mix.read_on') }}</router-link
      >
    </section>
    <template v-if="card">
      <h2 class="sub">
        {{
          card.wft_mm
            ? say('coat.need', { kg: card.need_kg, area: card.area_m2, wet: card.wft_mm })
            : say('mix.need', { kg: card.need_kg })
        }}
      </h2>
      <p v-if="card.outside_range" class="said" role="alert">
        {{ say('coat.outside', { temp, from: card.temp_least_C, to: card.temp_most_C }) }}
      </p>
      <p v-if="!card.series.feasible" class="said" role="alert">
        {{ say('coat.no_time', { temp }) }}
      </p>
      <template v-else>
        <p v-if="card.gauging">
          {{ say('mix.gauging', { kg: card.gauging.bucket_kg }) }}
          <span v-if="card.series.batches_kg.length > 1" class="small">
            {{
              say('mix.gauging.all', {
                kg: card.gauging.all_kg,
                parts: card.gauging.parts.map((each) => `${each.name} ${fixed(each.kg, 2)} kg`).join(' + '),
              })
            }}
          </span>
        </p>
        <ol class="weigh">
          <li v-for="part in first" :key="part.part" class="row">
            <span class="grow">
              <strong>{{ part.name }}</strong>
              <v-text-field
                v-model="codes[part.part]"
                class="code mono"
                :aria-label="`${say('bucket.code')}, ${part.name}`"
                :placeholder="say('bucket.code')"
                maxlength="40"
                autocomplete="off"
              />
            </span>
            <v-text-field
              v-if="otherwise"
              class="code weighed"
              :aria-label="say('mix.weighed', { name: part.name })"
              :model-value="draft.typed.value[`weighed.${part.part}`] ?? ''"
              :placeholder="`${fixed(part.kg, 2)} kg`"
              inputmode="decimal"
              autocomplete="off"
              @update:model-value="draft.type(`weighed.${part.part}`, $event)"
            />
            <strong v-else class="kg">{{ fixed(part.kg, 2) }} kg</strong>
          </li>
          <li v-for="each in onTop" :key="each.key" class="row">
            <span class="grow">
              <strong>{{ each.name }}</strong>
              <span class="small">{{ say('bucket.on_top') }}</span>
            </span>
            <strong class="kg">{{
              each.mL === null ? `${fixed(1000 * each.kg, 0)} g` : `${fixed(each.mL, 0)} mL`
            }}</strong>
          </li>
        </ol>
        <p>
          <strong>{{
            card.series.batches_kg.length === 1
              ? say('coat.batches.one')
              : say('coat.batches', { n: card.series.batches_kg.length })
          }}</strong>: {{ card.series.batches_kg.map((each) => fixed(each, 2)).join(' + ') }} kg,
          {{ say(`coat.governs.${card.greatest.governs}`, { usable: Math.floor(card.greatest.usable_min) }) }}
        </p>
        <p>
          {{
            say(card.pot_from === 'contact' ? 'coat.times' : `coat.times.${card.pot_from}`, {
              mix: card.mix_min,
              stand: card.stand_min,
              pot: Math.floor(card.pot_life_min),
              temp,
            })
          }}
        </p>
        <p v-if="card.mix_rpm">{{ say('mix.rpm', { rpm: card.mix_rpm }) }}</p>
        <p v-if="card.series.surplus_kg > 0.005" class="small">
          {{ say('coat.surplus', { kg: card.series.surplus_kg }) }}
        </p>
        <button class="outline narrow" :aria-pressed="otherwise" @click="otherwise = !otherwise">
          {{ say(otherwise ? 'mix.as_asked' : 'mix.otherwise') }}
        </button>
        <p class="small">{{ say('bucket.weigh.line') }}</p>
      </template>
    </template>
    <Teleport v-if="ready" defer to="#step-mitre">
      <MitreButton
        v-if="card?.series.feasible && !isShut(step)"
        :label="say(otherwise ? 'mix.weigh' : 'coat.weigh', { n: next })"
        :line="layer ? say('mix.weigh.line', { kg }) : say('coat.weigh.line', { kg, area: card.area_m2 })"
        @click="weighed"
      />
    </Teleport>
  </section>
</template>

<style scoped>
.mix {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
}
.mix .fields {
  grid-template-columns: repeat(auto-fit, minmax(96px, 1fr));
  gap: 8px;
}
.fields :deep(.v-label) {
  font-size: 15px;
  white-space: nowrap;
}
.code :deep(input) {
  border-bottom: 1.5px solid var(--edge);
  font-size: inherit;
  font-weight: inherit;
}
.code.weighed {
  flex: 0 0 120px;
}
.kg {
  font-size: 30px;
  font-weight: 720;
}
</style>

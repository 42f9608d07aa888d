<script setup lang="ts">
// What a step asks for before it: a permit, a gas test, people by name, somebody with a licence.
import { computed, ref } from 'vue'
import { call } from '../../core/core'
import { sayRefusal } from '../../data/refusal'
import { toggled } from '../../data/toggled'
import { useDraft } from '../../data/useDraft'
import CheckRow from '../../parts/CheckRow.vue'
import NumberFields from '../../parts/NumberFields.vue'
import OneOf from '../../parts/OneOf.vue'
import SideSheet from '../../parts/SideSheet.vue'
import { optionName, say } from '../../words/words'
import { timeOfPlace } from '../../words/zone'
import { useArea, type Step } from './useArea'

const props = defineProps<{ step: Step; of: 'permit' | 'gas' | 'people' }>()
const emit = defineEmits<{ close: [] }>()
const { look, area, record, nameOf } = useArea()
const draft = useDraft(
  () => `needs.${area}.${props.of}`,
  () => ({}),
)
const error = ref('')
const people = ref<string[]>([])
const holder = ref('')
const typed = computed(() => draft.typed.value)
const gases = (['oxygen', 'explosive'] as const).map((id) => ({ id, label: say(`needs.${id}`) }))
const named = (id: string) => nameOf(id) || (look.value.job.people.find((each) => each.id === id)?.role ?? '')

async function body(): Promise<[string, object]> {
  const percent = async (field: string) =>
    (await call('units.number', { field, kind: 'number', typed: typed.value[field] ?? '', least: 0, most: 100 })).value
  if (props.of === 'gas')
    return [
      'gas.tested',
      {
        oxygen_percent: await percent('oxygen'),
        explosive_percent: await percent('explosive'),
        meter: typed.value.meter ?? '',
      },
    ]
  if (props.of === 'permit')
    return [
      'permit.given',
      {
        permit: props.step.permit,
        number: typed.value.number ?? '',
        giver: typed.value.giver ?? '',
        until: timeOfPlace(typed.value.until ?? '')?.toISOString() ?? '',
      },
    ]
  const licensed = holder.value ? { holder: holder.value, licence: typed.value.licence ?? '' } : {}
  return ['manned', { step: props.step.id, people: people.value, ...licensed }]
}

async function keep(): Promise<void> {
  error.value = ''
  try {
    const [kind, entered] = await body()
    if (!(await record(kind, entered, { key: `needs.kept.${props.of}` }))) return
    await draft.drop()
    emit('close')
  } catch (refused) {
    error.value = sayRefusal(refused)
  }
}
</script>

<template>
  <SideSheet :title="say(`needs.title.${of}`)" @close="emit('close')">
    <p>{{ say(`needs.line.${of}`, { permit: step.permit ? optionName(step.permit) : '' }) }}</p>
    <template v-if="of === 'permit'">
      <v-text-field
        v-for="id in ['number', 'giver']"
        :key="id"
        :label="say(`needs.${id}`)"
        :model-value="typed[id] ?? ''"
        maxlength="120"
        autocomplete="off"
        @update:model-value="draft.type(id, $event)"
      />
      <v-text-field
        :label="say('needs.until')"
        type="datetime-local"
        :model-value="typed.until ?? ''"
        @update:model-value="draft.type('until', $event)"
      />
    </template>
    <template v-else-if="of === 'gas'">
      <NumberFields :fields="gases" :typed="typed" @type="draft.type" @enter="keep" />
      <v-text-field
        :label="say('needs.meter')"
        :model-value="typed.meter ?? ''"
        maxlength="120"
        autocomplete="off"
        @update:model-value="draft.type('meter', $event)"
      />
    </template>
    <template v-else>
      <ul>
        <li v-for="person in look.job.people" :key="person.id">
          <CheckRow
            :label="named(person.id)"
            :checked="people.includes(person.id)"
            @toggle="people = toggled(people, person.id)"
          />
        </li>
      </ul>
      <template v-if="step.licence && people.length">
        <OneOf
          v-slot="{ option }"
          class="wrapped"
          titled
          look="outline narrow"
          :options="people"
          :picked="holder"
          :label="say('needs.holder', { licence: step.licence })"
          @pick="(id: string) => (holder = id)"
        >
          {{ named(option) }}
        </OneOf>
        <v-text-field
          :label="say('needs.licence')"
          :model-value="typed.licence ?? ''"
          maxlength="120"
          autocomplete="off"
          @update:model-value="draft.type('licence', $event)"
        />
      </template>
    </template>
    <p v-if="error" class="said" role="alert">{{ error }}</p>
    <template #action>
      <button class="outline" @click="emit('close')">{{ say('cancel') }}</button>
      <button class="outline" @click="keep">{{ say('needs.keep') }}</button>
    </template>
  </SideSheet>
</template>

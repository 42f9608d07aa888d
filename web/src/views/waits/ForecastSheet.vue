<script setup lang="ts">
// What a person reads of the weather ahead, and from where: work in the open asks it.
import { ref } from 'vue'
import { call } from '../../core/core'
import { askedBack, readAir } from '../../data/numbers'
import { sayRefusal } from '../../data/refusal'
import { useDraft } from '../../data/useDraft'
import NumberFields from '../../parts/NumberFields.vue'
import SideSheet from '../../parts/SideSheet.vue'
import { say } from '../../words/words'
import { timeOfPlace } from '../../words/zone'
import { useArea } from '../area/useArea'

const emit = defineEmits<{ close: [] }>()
const { area, record } = useArea()
const draft = useDraft(
  () => `forecast.${area}`,
  () => ({}),
)
const error = ref('')
const fields = (['coldest', 'wind'] as const).map((id) => ({ id, label: say(`forecast.${id}`) }))
const asked = ref('')
const STORM = 60 // m/s

async function keep(): Promise<void> {
  error.value = asked.value = ''
  try {
    const { coldest, wind: typed = '' } = draft.typed.value
    const read = {
      coldest: await readAir('coldest', 'temperature', coldest),
      wind: (await call('units.number', { field: 'wind', kind: 'number', typed, least: 0, most: STORM })).value,
    }
    const body = {
      dry_until: timeOfPlace(draft.typed.value.until ?? '')?.toISOString() ?? '',
      coldest_C: read.coldest,
      wind_m_per_s: read.wind,
      from: (draft.typed.value.from ?? '').trim(),
    }
    if (!(await record('forecast.read', body, { key: 'forecast.kept' }))) return
    await draft.drop()
    emit('close')
  } catch (refused) {
    error.value = sayRefusal(refused)
    asked.value = askedBack(refused)
  }
}
</script>

<template>
  <SideSheet :title="say('forecast.title')" @close="emit('close')">
    <p>{{ say('forecast.line') }}</p>
    <v-text-field
      :label="say('forecast.dry_until')"
      type="datetime-local"
      :model-value="draft.typed.value.until ?? ''"
      @update:model-value="draft.type('until', $event)"
    />
    <NumberFields :fields="fields" :typed="draft.typed.value" :asked="asked" @type="draft.type" @enter="keep" />
    <v-text-field
      :label="say('forecast.from')"
      :model-value="draft.typed.value.from ?? ''"
      maxlength="80"
      autocomplete="off"
      @update:model-value="draft.type('from', $event)"
    />
    <p v-if="error" class="said" role="alert">{{ error }}</p>
    <template #action>
      <button class="outline" @click="emit('close')">{{ say('cancel') }}</button>
      <button class="outline" @click="keep">{{ say('forecast.keep') }}</button>
    </template>
  </SideSheet>
</template>

<script setup lang="ts">
// Why what was seen, or why a run ended, is no leak: a reason, a name and a photo.
import { ref } from 'vue'
import { keptText } from '../../data/keptText'
import type { Photo } from '../../data/photos'
import PersonChoice from '../../parts/PersonChoice.vue'
import SideSheet from '../../parts/SideSheet.vue'
import { say } from '../../words/words'
import { useArea } from '../area/useArea'
import PhotoRow from '../survey/PhotoRow.vue'

const props = defineProps<{ step: string; of: string }>()
const emit = defineEmits<{ close: [] }>()
const { look, record } = useArea()
const why = keptText(`why.${props.of}`)
const person = ref('')
const photos = ref<Photo[]>([])

async function keep(): Promise<void> {
  const body = { step: props.step, of: props.of, why: why.value.trim(), person: person.value, photos: photos.value }
  if (await record('test.explained', body, { key: 'test.explained.kept' })) {
    why.value = ''
    emit('close')
  }
}
</script>

<template>
  <SideSheet :title="say('test.explain')" @close="emit('close')">
    <p>{{ say('test.explain.line') }}</p>
    <v-text-field v-model="why" :label="say('field.reason')" maxlength="500" autocomplete="off" />
    <PersonChoice v-model="person" :people="look.job.people" :label="say('override.person')" />
    <PhotoRow :photos="photos" @took="(photo) => (photos = [...photos, photo])" />
    <template #action>
      <button class="outline" :disabled="!why.trim() || !person || !photos.length" @click="keep">
        {{ say('test.explain') }}
      </button>
    </template>
  </SideSheet>
</template>

<script setup lang="ts">
// What is only on this device: how much waits, a file of it, and a file taken in.
import { onMounted, ref, watch } from 'vue'
import { useBook } from '../data/book'
import { fileName, saveFile } from '../data/files'
import { local } from '../data/local'
import { saveOnlyHere, takeIn } from '../data/rescue'
import { fullness } from '../data/storage'
import { now } from '../data/clock'
import { outbox, persists, version } from '../data/sync'
import { say, sayFault } from '../words/words'
import { dayOf } from '../words/zone'
import type { Fault } from '../core/core'
import SideSheet from './SideSheet.vue'

const emit = defineEmits<{ close: [] }>()
const book = useBook()
const full = ref(0)
const others = ref({ names: 0, photos: 0 })
const refused = ref<{ what: string; faults: Fault[] }[]>([])
const told = ref('')

async function look(): Promise<void> {
  others.value = {
    names: await local.names.where('waiting').equals(1).count(),
    photos: await local.photos.where('waiting').equals(1).count(),
  }
  const names = await local.names.where('waiting').equals(2).toArray()
  const photos = await local.photos.where('waiting').equals(2).toArray()
  refused.value = [
    ...names.map(({ name, faults = [] }) => ({ what: name, faults })),
    ...photos.map(({ faults = [] }) => ({ what: say('only.photo'), faults })),
  ]
}

watch([outbox, version], look)
onMounted(async () => {
  await look()
  full.value = await fullness()
})

async function save(): Promise<void> {
  const { text, count } = await saveOnlyHere()
  saveFile(fileName(['dusha', 'only-here', dayOf(now())], 'json'), 'application/json', text)
  told.value = say('only.saved', { n: count })
}

async function take(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  const taken = await takeIn(await file.text())
  told.value = taken ? say(taken.refused ? 'only.taken.some' : 'only.taken', { ...taken }) : say('only.no_file')
  await look()
}
</script>

<template>
  <SideSheet :title="say('only.title')" @close="emit('close')">
    <p>{{ say('only.line', { n: book.waiting, names: others.names, photos: others.photos }) }}</p>
    <p v-for="(each, i) in refused" :key="i" class="said">
      {{ each.what }}: {{ each.faults.map(sayFault).join('; ') }}
    </p>
    <p v-if="!persists" class="said">{{ say('only.may_go') }}</p>
    <p v-if="full > 0.9" class="said">{{ say('only.full', { percent: Math.round(full * 100) }) }}</p>
    <button class="outline" @click="save">{{ say('only.save') }}</button>
    <label class="field">
      <span>{{ say('only.take') }}</span>
      <input type="file" accept=".json,application/json" @change="take" />
    </label>
    <p v-if="told" role="status">{{ told }}</p>
  </SideSheet>
</template>

<script setup lang="ts">
// What the server refused: named, with its reason, to be mended or taken out. It blocks
// nothing behind it.
import { ref } from 'vue'
import { call, Refusal } from '../core/core'
import { useBook } from '../data/book'
import { newId } from '../data/ids'
import { local, type LocalEntry } from '../data/local'
import { changed } from '../data/sync'
import { say, sayFault } from '../words/words'
import SideSheet from './SideSheet.vue'

const emit = defineEmits<{ close: [] }>()
const book = useBook()
const texts = ref<Record<string, string>>({})
const errors = ref<Record<string, string>>({})

const textOf = (entry: LocalEntry) => texts.value[entry.id] ?? JSON.stringify(JSON.parse(entry.bytes), null, 1)

async function takeOut(entry: LocalEntry): Promise<void> {
  await local.entries.delete(entry.id)
  changed()
}

async function sendAgain(entry: LocalEntry): Promise<void> {
  try {
    const mended = JSON.parse(textOf(entry)) as { id: string; areaId?: string }
    mended.id = newId() // the refused id may be taken
    await call('logbook.check', { entry: mended })
    await local.transaction('rw', local.entries, async () => {
      await local.entries.delete(entry.id)
      await local.entries.put({
        ...entry,
        id: mended.id,
        areaId: mended.areaId ?? '',
        bytes: JSON.stringify(mended),
        state: 'waiting',
        notBefore: 0,
        faults: [],
      })
    })
    changed()
  } catch (error) {
    const detail = error instanceof Refusal ? error.faults.map(sayFault).join('; ') : String(error)
    errors.value = { ...errors.value, [entry.id]: say('aside.broken', { detail }) }
  }
}
</script>

<template>
  <SideSheet :title="say('aside.title')" @close="emit('close')">
    <p>{{ say('aside.line') }}</p>
    <section v-for="entry in book.aside" :key="entry.id" class="entry">
      <p v-for="fault in entry.faults" :key="fault.key" class="said">{{ sayFault(fault) }}</p>
      <v-textarea
        :label="(JSON.parse(entry.bytes) as { kind: string }).kind"
        rows="9"
        :model-value="textOf(entry)"
        @update:model-value="texts[entry.id] = $event"
      />
      <p v-if="errors[entry.id]" class="said" role="alert">{{ errors[entry.id] }}</p>
      <div class="both">
        <button class="outline narrow" @click="takeOut(entry)">{{ say('aside.out') }}</button>
        <button class="outline narrow" @click="sendAgain(entry)">{{ say('aside.again') }}</button>
      </div>
    </section>
  </SideSheet>
</template>

<style scoped>
.entry {
  display: grid;
  gap: 12px;
}
textarea {
  font: 15px/1.3 var(--mono) !important;
}
.both {
  display: flex;
  justify-content: space-between;
}
</style>

<script setup lang="ts">
// The sheets as they were received: the printed data sheet and the hazard sheet, each with its
// date of printing and its language.
import { ref } from 'vue'
import type { Schemas } from '../../core/core'
import { keepFile, MOST_MB, type Refused } from '../../data/papers'
import { say } from '../../words/words'

type File = Schemas['SheetFile']

const props = defineProps<{ job: string; files: readonly File[]; fixed?: boolean }>()
const emit = defineEmits<{ files: [list: File[]] }>()
const error = ref('')
const KINDS = ['data_sheet', 'hazard_sheet'] as const

async function take(kind: (typeof KINDS)[number], event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const picked = input.files?.[0]
  if (!picked) return
  error.value = ''
  const kept: Schemas['LogbookPhoto'] | Refused = await keepFile(props.job, picked)
  input.value = ''
  if ('refused' in kept) {
    error.value = say(`file.${kept.refused}`, {
      name: picked.name,
      most: MOST_MB,
      mb: Math.ceil(picked.size / 2 ** 20),
    })
    return
  }
  emit('files', [...props.files, { id: kept.id, sha256: kept.sha256, kind, name: picked.name }])
}

function set(i: number, change: Partial<File>): void {
  emit(
    'files',
    props.files.map((file, k) => (k === i ? { ...file, ...change } : file)),
  )
}
</script>

<template>
  <section class="files">
    <h2 class="sub">{{ say('file.title') }}</h2>
    <p v-if="error" class="said" role="alert">{{ error }}</p>
    <div v-for="(file, i) in files" :key="file.id" class="file">
      <a :href="`/api/jobs/${job}/photos/${file.id}`" target="_blank" rel="noopener">{{ file.name }}</a>
      <span class="small">{{ say(`file.${file.kind}`) }}</span>
      <template v-if="!fixed">
        <v-text-field
          :label="say('sheet.printed')"
          type="date"
          :model-value="file.printed ?? ''"
          @update:model-value="set(i, { printed: $event })"
        />
        <v-text-field
          :label="say('sheet.language')"
          :model-value="file.language ?? ''"
          maxlength="20"
          @update:model-value="set(i, { language: $event })"
        />
        <button
          class="outline narrow"
          @click="
            emit(
              'files',
              files.filter((_, k) => k !== i),
            )
          "
        >
          {{ say('file.away') }}
        </button>
      </template>
      <span v-else class="small">{{ [file.printed, file.language].filter(Boolean).join(' · ') }}</span>
    </div>
    <template v-if="!fixed">
      <label v-for="kind in KINDS" :key="kind" class="field">
        <span>{{ say(`file.attach.${kind}`) }}</span>
        <input type="file" accept="application/pdf,image/jpeg,image/png" @change="take(kind, $event)" />
      </label>
      <p class="small">{{ say('file.line', { most: MOST_MB }) }}</p>
    </template>
  </section>
</template>

<style scoped>
.files {
  display: grid;
  gap: 12px;
}
.file {
  display: grid;
  gap: 6px;
  padding-bottom: 12px;
  border-bottom: 1.5px solid var(--line);
}
a {
  color: inherit;
  font-weight: 700;
  overflow-wrap: anywhere;
}
</style>

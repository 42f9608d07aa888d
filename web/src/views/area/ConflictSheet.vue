<script setup lang="ts">
// Two versions made from the same one: both are kept and a person chooses which stands.
import { ref, watch } from 'vue'
import { local } from '../../data/local'
import SideSheet from '../../parts/SideSheet.vue'
import { moment, say } from '../../words/words'
import { useArea } from './useArea'

const emit = defineEmits<{ close: [] }>()
const { look, record, nameOf } = useArea()

interface Version {
  id: string
  kind: string
  at: string
  by: string
  body: Record<string, unknown>
  all: string[]
}
const versions = ref<Version[]>([])

watch(
  look,
  async (l) => {
    const conflict = l.conflicts[0]
    if (!conflict) return emit('close')
    const entries = await local.entries.bulkGet(conflict.entries)
    versions.value = entries.flatMap((entry) =>
      entry ? [{ ...(JSON.parse(entry.bytes) as Omit<Version, 'all'>), all: conflict.entries }] : [],
    )
  },
  { immediate: true },
)

async function keep(version: Version): Promise<void> {
  await record(version.kind, { ...version.body, from: version.all }, { key: 'survey.kept' })
}
</script>

<template>
  <SideSheet :title="say('conflict.title')" @close="emit('close')">
    <p>{{ say('conflict.line', { kind: versions[0]?.kind }) }}</p>
    <div v-for="version in versions" :key="version.id" class="row">
      <span class="grow">
        <strong>{{ moment(version.at) }}</strong> {{ nameOf(version.by) }}
      </span>
      <button class="outline narrow" @click="keep(version)">{{ say('conflict.keep', { at: version.at }) }}</button>
    </div>
  </SideSheet>
</template>

<script setup lang="ts">
// A system as it is laid: its ways, the order of its work, and in what it differs from the revision before it.
import { call, type Schemas } from '../../core/core'
import { useLatest } from '../../data/useLatest'
import SideSheet from '../../parts/SideSheet.vue'
import WaysList from '../../parts/WaysList.vue'
import { say } from '../../words/words'

type System = Schemas['SystemSystem']

const props = defineProps<{ system: System; before?: System }>()
const emit = defineEmits<{ close: []; save: [] }>()

const made = useLatest(
  () => props.system,
  () => call('system.order', { system: props.system }),
)
const changes = useLatest(
  () => props.before,
  async () =>
    props.before ? (await call('system.changes', { before: props.before, after: props.system })).changes : [],
)
function saysOf({ key, args = {} }: Schemas['SystemChange']): string {
  if (key !== 'way') return say(`system.change.${key}`, args)
  const { school, from, to } = args as Record<string, string>
  const way = (name?: string) => (name ? say(`school.${school}.${name}`) : '–')
  return say('system.change.way', { school: say(`school.${school}`), from: way(from), to: way(to) })
}
</script>

<template>
  <SideSheet :title="system.name" @close="emit('close')">
    <p class="small">
      {{ [system.chemistry ? say(`chemistry.${system.chemistry}`) : '', system.revision].filter(Boolean).join(' · ') }}
    </p>
    <span v-if="system.sample" class="sample">{{ say('sample') }}</span>
    <section v-if="changes?.length">
      <h2 class="sub">{{ say('system.changed') }}</h2>
      <ul>
        <li v-for="(change, i) in changes" :key="i">{{ saysOf(change) }}</li>
      </ul>
    </section>
    <template v-if="made">
      <WaysList :ways="made.ways" />
      <section>
        <h2 class="sub">{{ say('system.order') }}</h2>
        <ol>
          <li v-for="stage in made.stages" :key="stage.id">
            <strong>{{ stage.title }}</strong>
            <p v-for="step in stage.steps" :key="step.id">{{ step.title }}</p>
          </li>
        </ol>
      </section>
    </template>
    <template #action>
      <button class="outline" @click="emit('save')">{{ say('sheet.out.json') }}</button>
    </template>
  </SideSheet>
</template>

<style scoped>
section {
  padding-top: 18px;
}
ol li {
  padding-bottom: 8px;
}
</style>

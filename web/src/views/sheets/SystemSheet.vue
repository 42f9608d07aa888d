<script setup lang="ts">
// A system as it is laid: its ways, the order of its work, and in what it differs from the revision before it.
import { call, type Schemas } from '../../core/core'
import { useLatest } from '../../data/useLatest'
import ChangeList from '../../parts/ChangeList.vue'
import SideSheet from '../../parts/SideSheet.vue'
import WaysList from '../../parts/WaysList.vue'
import { say } from '../../words/words'

type System = Schemas['SystemSystem']

const props = defineProps<{ job: string; system: System; before?: System }>()
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
</script>

<template>
  <SideSheet :title="system.name" @close="emit('close')">
    <p class="small">
      {{ [system.chemistry ? say(`chemistry.${system.chemistry}`) : '', system.revision].filter(Boolean).join(' · ') }}
    </p>
    <span v-if="system.sample" class="sample">{{ say('sample') }}</span>
    <ChangeList v-if="changes?.length" :changes="changes" />
    <template v-if="made">
      <WaysList :ways="made.ways" />
      <section>
        <h2 class="sub">{{ say('system.order') }}</h2>
        <ol>
          <li v-for="stage in made.stages" :key="stage.id">
            <strong>{{ stage.title }}</strong>
            <p v-for="step in stage.steps" :key="step.id" :class="{ small: step.mends }">
              {{ step.title }}<template v-if="step.mends">, {{ say('system.mends') }}</template>
            </p>
          </li>
        </ol>
      </section>
    </template>
    <template #action>
      <router-link class="outline" :to="`/job/${job}/system/${system.id}`">{{ say('editor.open') }}</router-link>
      <a class="outline" :href="`/api/jobs/${job}/systems/${system.id}/system.pdf`" target="_blank" rel="noopener">{{
        say('editor.pdf')
      }}</a>
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

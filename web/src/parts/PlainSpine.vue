<script setup lang="ts">
// The spine where no area is open: bare mesh, or a job's areas as little nets at the stage
// they are in; with the two places that look across them.
import type { Job } from '../data/book'
import NetDrawing from '../drawing/NetDrawing.vue'
import { say } from '../words/words'
import TheMark from './TheMark.vue'
import ThePlaces from './ThePlaces.vue'

defineProps<{ job?: string; place?: 'now' | 'waits'; areas?: Job['areas'] }>()
</script>

<template>
  <div class="plain">
    <TheMark />
    <nav v-if="areas?.length" class="areas scroll" :aria-label="say('spine.areas')">
      <router-link v-for="area in areas" :key="area.id" :to="`/job/${job}/area/${area.id}`" class="area">
        <span class="net">
          <NetDrawing
            v-if="area.surveyed"
            mini
            :name="area.name"
            :input="{ job: job ?? '', area: area.id, layers: [] }"
          />
        </span>
        <span class="name">
          <strong>{{ area.name }}</strong>
          <span class="small">{{ area.stage?.title ?? say('stage.done') }}</span>
        </span>
      </router-link>
    </nav>
    <div v-else class="mesh" aria-hidden="true" />
    <ThePlaces v-if="job" :job="job" :place="place" class="places" />
  </div>
</template>

<style scoped>
.plain {
  height: 100%;
  display: flex;
  flex-direction: column;
  gap: 18px;
  padding: 20px 0 14px;
}
.plain > :first-child {
  margin-inline-start: 14px;
}
.mesh {
  flex: 1;
  width: 42px;
  margin-inline-start: 15px;
  border: 1.5px solid var(--edge);
  background:
    linear-gradient(90deg, transparent 11px, var(--stone3) 11px 30px, transparent 30px),
    radial-gradient(circle at 4px 4px, var(--edge) 1.1px, transparent 1.4px) 1px 0 / 7px 7px,
    var(--sheet);
}
.areas {
  flex: 1;
  min-height: 0;
  padding: 0 10px 0 14px;
}
.area {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 74px;
  color: inherit;
  text-decoration: none;
  line-height: 1.15;
}
.net {
  flex: none;
  width: 44px;
  height: 56px;
}
.name {
  display: grid;
  min-width: 0;
}
.name .small {
  font-size: 15px;
}
:root.lying .name {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
}
:root.narrow .plain {
  flex-direction: row;
  padding: 0 8px 0 0;
  align-items: center;
  gap: 8px;
}
:root.narrow .mesh {
  width: auto;
  height: 42px;
}
:root.narrow .areas {
  display: none;
}
:root.narrow .places {
  margin-inline-start: auto;
  padding: 0;
}
</style>

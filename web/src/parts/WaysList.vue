<script setup lang="ts">
// How a system is worked: each matter with its way.
import { say } from '../words/words'

defineProps<{ ways: Record<string, string> }>()
</script>

<template>
  <section>
    <h2 class="sub">{{ say('school.title') }}</h2>
    <dl>
      <template v-for="(way, name) in ways" :key="name">
        <dt class="small">{{ say(`school.${name}`) }}</dt>
        <dd>
          {{ say(`school.${name}.${way}`) }}
          <span class="small">{{ say(`school.${name}.${way}.why`) }}</span>
        </dd>
      </template>
    </dl>
  </section>
</template>

<style scoped>
dd .small {
  display: block;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 16px;
}
</style>

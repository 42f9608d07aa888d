<script setup lang="ts">
/** Big numbers with small units, in a row. */
defineProps<{ facts: { value: string; unit?: string; name: string }[] }>()
</script>

<template>
  <dl class="facts">
    <div v-for="fact in facts" :key="fact.name">
      <dd>
        <strong>{{ fact.value }}</strong><span v-if="fact.unit"> {{ fact.unit }}</span>
      </dd>
      <dt>{{ fact.name }}</dt>
    </div>
  </dl>
</template>

<style scoped>
.facts {
  display: flex;
  gap: 26px;
  overflow: hidden;
}
.facts div {
  display: grid;
  flex: none;
}
strong {
  font-size: 30px;
  font-weight: 720;
  letter-spacing: -0.02em;
  line-height: 1;
}
dt {
  font-size: 16px;
  color: var(--ink2);
  line-height: 1.1;
}
:root.phone .facts {
  gap: 16px;
}
:root.phone strong {
  font-size: 20px;
}
</style>

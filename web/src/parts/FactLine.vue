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
  flex-wrap: wrap;
  gap: 4px 26px;
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
  gap: 4px 16px;
}
:root.phone .facts div:nth-child(n + 4) {
  display: none;
}
:root.phone strong {
  font-size: 20px;
}
</style>

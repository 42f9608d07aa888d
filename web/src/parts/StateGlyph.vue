<script setup lang="ts">
// The states of a window as a basin in section: low, full, half and falling, dry; empty and dashed where
// it is not known.
defineProps<{ state: string }>()
</script>

<template>
  <svg viewBox="0 0 28 28" width="30" height="30" aria-hidden="true" class="glyph">
    <rect v-if="state === 'too early'" x="4" y="18" width="20" height="7" fill="var(--stone3)" />
    <rect v-else-if="state === 'open'" x="4" y="5" width="20" height="20" fill="var(--water7)" />
    <rect v-else-if="state === 'closing'" x="4" y="13" width="20" height="12" fill="var(--amber3)" />
    <path v-else-if="state !== 'not known'" d="M8 9l12 12M20 9L8 21" stroke="var(--plum7)" stroke-width="3" />
    <path v-if="state === 'too early'" d="M9 12l5-5 5 5" fill="none" stroke="var(--ink)" stroke-width="2.4" />
    <path v-if="state === 'closing'" d="M9 5l5 5 5-5" fill="none" stroke="var(--ink)" stroke-width="2.4" />
    <path
      d="M3 3v22h22V3"
      fill="none"
      stroke="var(--ink)"
      stroke-width="2.6"
      :stroke-dasharray="state === 'not known' ? '4 4' : undefined"
    />
  </svg>
</template>

<style scoped>
.glyph {
  flex: none;
}
</style>

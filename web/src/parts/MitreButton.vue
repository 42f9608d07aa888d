<script setup lang="ts">
// The one primary action of a screen: it ends in a cut, as a band is cut for a corner.
defineProps<{ label: string; line?: string; disabled?: boolean }>()
</script>

<template>
  <button class="mitre mitred" :disabled="disabled">
    <span class="face">
      <strong>{{ label }}</strong>
      <span v-if="line">{{ line }}</span>
    </span>
  </button>
</template>

<style scoped>
.mitre {
  flex: none;
  min-width: 200px;
  max-width: 320px;
  min-height: 74px;
  padding: 0;
}
.face {
  display: grid;
  align-content: center;
  min-height: 74px;
  padding: 6px 44px 6px 22px;
  line-height: 1.2;
}
strong {
  font-size: 23px;
  font-weight: 720;
}
.face span {
  font-size: 16px;
  font-weight: 550;
}
.mitre:disabled {
  background: var(--line);
  color: var(--ink2);
}
.mitre:disabled .face {
  background: var(--ground);
}
.mitre:focus-visible .face {
  box-shadow: inset 0 0 0 6px var(--lime-ink);
}
.mitre:active .face {
  transform: translateY(1px);
}
:root.phone .mitre {
  flex: 1;
  min-width: 0;
}
:root.slim .mitre {
  flex-basis: 100%;
}
:root.phone .face {
  padding-inline-start: 14px;
}
:root.phone strong {
  font-size: 20px;
}
</style>

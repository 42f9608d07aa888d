<script setup lang="ts">
import { onErrorCaptured, ref, type Ref } from 'vue'
import PersonSheet from './parts/PersonSheet.vue'
import PinSheet from './parts/PinSheet.vue'
import { Refusal } from './core/core'
import { useBook } from './data/book'
import { askingPin } from './data/pin'
import { useAlarm } from './data/useAlarm'
import { sayRefusal } from './data/refusal'
import { useClock } from './data/useClock'
import './theme/useFrame'
import './theme/useTheme'
import { say } from './words/words'

defineProps<{ newVersion: Ref<(() => void) | null> }>()

const book = useBook()
const broken = ref('')
const { rang, dismiss } = useAlarm(useClock())

/** What was refused and nobody else said. */
const refused = ref('')

onErrorCaptured((error) => {
  if (error instanceof Refusal) {
    refused.value = sayRefusal(error)
    return false
  }
  console.error(error)
  broken.value = error.message
  return false
})
const reload = () => location.reload()
</script>

<template>
  <v-app class="house">
    <div v-if="broken" class="broken" role="alert">
      <h1>{{ say('error.title') }}</h1>
      <p class="mono">{{ broken }}</p>
      <button class="outline" @click="reload">{{ say('error.again') }}</button>
    </div>
    <router-view v-else />
    <PinSheet v-if="askingPin" :asking="askingPin" />
    <PersonSheet v-if="book.askingWho" :asking="book.askingWho" />
    <div v-if="rang.length" class="rang" role="alert">
      <p v-for="alarm in rang" :key="`${alarm.due}${alarm.key}`">{{ say(alarm.key, alarm.args) }}</p>
      <button class="outline narrow" @click="dismiss">{{ say('alarm.heard') }}</button>
    </div>
    <div v-if="refused" class="rang" role="alert">
      <p>{{ refused }}</p>
      <button class="outline narrow" @click="refused = ''">{{ say('alarm.heard') }}</button>
    </div>
    <button v-if="newVersion.value" class="update outline" @click="newVersion.value?.()">
      {{ say('update.ready') }} · {{ say('update.now') }}
    </button>
  </v-app>
</template>

<style scoped>
.broken {
  padding: 64px;
  display: grid;
  gap: 24px;
  justify-items: start;
}
.rang {
  position: fixed;
  inset: 12px auto auto 50%;
  transform: translateX(-50%);
  z-index: 40;
  display: flex;
  align-items: center;
  gap: 20px;
  padding: 10px 20px;
  background: var(--ink);
  color: var(--ground);
  font-weight: 650;
}
.rang .outline {
  background: var(--ground);
}
.update {
  position: fixed;
  inset: auto 24px 100px auto;
  background: var(--sheet);
  z-index: 30;
}
.house :deep(.v-application__wrap) {
  height: 100%;
  min-height: 0;
}
</style>

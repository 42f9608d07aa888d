<script setup lang="ts">
import { onErrorCaptured, ref, type Ref } from 'vue'
import PersonSheet from './parts/PersonSheet.vue'
import { useBook } from './data/book'
import './theme/useTheme'
import { say } from './words/words'

defineProps<{ newVersion: Ref<(() => void) | null> }>()

const book = useBook()
const broken = ref('')

onErrorCaptured((error) => {
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
    <PersonSheet v-if="book.askingWho" :asking="book.askingWho" />
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

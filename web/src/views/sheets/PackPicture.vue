<script setup lang="ts">
// The printed sheet as a picture, beside the figures that are read off it.
import { onBeforeUnmount, ref, watch } from 'vue'
import { photoUrl } from '../../data/photos'
import { say } from '../../words/words'

const props = defineProps<{ job: string; files: readonly { id: string; name: string }[] }>()
const isPicture = (name: string) => /\.(jpe?g|png)$/i.test(name)
const url = ref('')
const free = () => (url.value.startsWith('blob:') ? URL.revokeObjectURL(url.value) : undefined)
watch(
  () => props.files.find((file) => isPicture(file.name))?.id,
  async (id) => {
    const next = id ? await photoUrl(props.job, id) : ''
    free()
    url.value = next
  },
  { immediate: true },
)
onBeforeUnmount(free)
</script>

<template>
  <a v-if="url" :href="url" target="_blank" rel="noopener"><img :src="url" :alt="say('file.picture')" /></a>
</template>

<style scoped>
img {
  display: block;
  width: 100%;
  max-height: 420px;
  object-fit: contain;
  object-position: top left;
  border: 1.5px solid var(--line);
}
</style>

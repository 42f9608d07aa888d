<script setup lang="ts">
import { onBeforeUnmount, ref, watch } from 'vue'
import { keepPhoto, photoUrl, type Photo } from '../../data/photos'
import { say } from '../../words/words'
import { useArea } from '../area/useArea'

const props = defineProps<{ photos: Photo[] }>()
const emit = defineEmits<{ took: [photo: Photo] }>()
const { job } = useArea()

const urls = ref<string[]>([])
const error = ref('')

function release(those: string[]): void {
  for (const url of those) if (url.startsWith('blob:')) URL.revokeObjectURL(url)
}
watch(
  () => props.photos,
  async (photos, _before, onCleanup) => {
    let latest = true
    onCleanup(() => (latest = false))
    const next = await Promise.all(photos.map((photo) => photoUrl(job, photo.id)))
    if (!latest) return release(next)
    release(urls.value)
    urls.value = next
  },
  { immediate: true },
)
onBeforeUnmount(() => release(urls.value))

async function take(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  const photo = await keepPhoto(job, file)
  error.value = photo ? '' : say('photo.unreadable')
  if (photo) emit('took', photo)
}
</script>

<template>
  <div class="photos">
    <img v-for="(url, i) in urls" :key="url" :src="url" :alt="say('photo.alt', { n: i + 1 })" />
    <label class="field">
      <span>{{ say('photo.take') }}</span>
      <input type="file" accept="image/*" capture="environment" @change="take" />
    </label>
    <p v-if="error" class="said" role="alert">{{ error }}</p>
  </div>
</template>

<style scoped>
.photos {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
img {
  width: 112px;
  height: 84px;
  object-fit: cover;
  border: 1.5px solid var(--ink);
}
</style>

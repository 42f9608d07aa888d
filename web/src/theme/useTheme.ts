import { useLocalStorage } from '@vueuse/core'
import { computed, watchEffect } from 'vue'
import { vuetify } from './vuetify'

/** Switched by hand; the first time it follows the device. */
const kept = useLocalStorage<'dark' | 'light' | ''>('theme', '')
export const dark = computed(() =>
  kept.value ? kept.value === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches,
)

watchEffect(() => {
  document.documentElement.classList.toggle('dark', dark.value)
  void vuetify.theme.change(dark.value ? 'dark' : 'light')
})

export function switchTheme(): void {
  kept.value = dark.value ? 'light' : 'dark'
}

import { ref, watchEffect } from 'vue'
import { vuetify } from './vuetify'

const kept = localStorage.getItem('theme')

/** Switched by hand; the first time it follows the device. */
export const dark = ref(kept ? kept === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches)

watchEffect(() => {
  document.documentElement.classList.toggle('dark', dark.value)
  void vuetify.theme.change(dark.value ? 'dark' : 'light')
})

export function switchTheme(): void {
  dark.value = !dark.value
  localStorage.setItem('theme', dark.value ? 'dark' : 'light')
}

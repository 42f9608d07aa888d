import '@fontsource-variable/atkinson-hyperlegible-next/index.css'
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css'
import './theme/tokens.css'
import './theme/base.css'
import './drawing/net.css'
import './drawing/plain.css'
import { registerSW } from 'virtual:pwa-register'
import { createApp, ref } from 'vue'
import App from './App.vue'
import { startSync } from './data/sync'
import { router } from './router'
import { installTheme } from './theme/vuetify'
import { askLanguages, languageOf, speak } from './words/language'

await speak(languageOf())
void askLanguages()

const newVersion = ref<(() => void) | null>(null)

const app = createApp(App, { newVersion })
installTheme(app)
app.use(router)
app.mount('#app')

const update = registerSW({
  onNeedRefresh: () => (newVersion.value = () => void update()),
  onOfflineReady: () => (document.documentElement.dataset.offline = 'ready'),
})
void navigator.serviceWorker?.ready.then(() => (document.documentElement.dataset.offline = 'ready'))
startSync()

import { PiniaColada } from '@pinia/colada'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import { watchKept } from './api/keptPages'
import { watchTyping } from './shell/keys'
import './shell/theme'
import './styles.css'
import { locale } from './wording'

document.documentElement.lang = locale.slice(0, 2)
watchTyping(window)
watchKept(window)
createApp(App)
  .use(createPinia())
  .use(PiniaColada, { queryOptions: { staleTime: 5_000 } })
  .use(router)
  .mount('#app')

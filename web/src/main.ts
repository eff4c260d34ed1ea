import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { config } from 'zod'
import App from './App.vue'
import { router } from './router'
import { typeOverChoices } from './shared/type-over'
import { vuetify } from './theme'
import './style.css'

// The page's content policy forbids making code from text, so Zod need not try.
config({ jitless: true })

typeOverChoices()
createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app')

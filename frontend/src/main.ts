import 'vuetify/styles/core'
import './styles/regimes.css'
import './styles/base.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import { vuetify } from './vuetify'

// an own page for when the application is away; where a browser keeps none, its own is shown
if ('serviceWorker' in navigator) void navigator.serviceWorker.register('/sw.js').catch(() => {})

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app')

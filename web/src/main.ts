import '@fontsource-variable/bricolage-grotesque/wght.css'
import '@fontsource-variable/spline-sans/wght.css'
import './theme/studio.css'
import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import PrimeVue from 'primevue/config'
import ConfirmationService from 'primevue/confirmationservice'
import ToastService from 'primevue/toastservice'
import { createApp } from 'vue'
import StudioApp from './StudioApp.vue'
import { ApiError } from './api/client'
import { i18n, readIn } from './i18n'
import { router } from './router'
import { benchPreset } from './theme/preset'
import { tooltip } from './theme/tooltip'

const nonce = document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce

// An answer that says why will not change its mind; a lost connection may.
const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      retry: (count, error) => !(error instanceof ApiError && error.status > 0) && count < 3,
    },
  },
})

// Texts are read as soon as a view is loaded.
await readIn(navigator.languages)

createApp(StudioApp)
  .use(i18n)
  .use(createPinia())
  .use(router)
  .use(VueQueryPlugin, { queryClient: queries })
  .use(PrimeVue, {
    theme: { preset: benchPreset, options: { darkModeSelector: '.dark', cssLayer: false } },
    csp: { nonce },
  })
  .use(ToastService)
  .use(ConfirmationService)
  .directive('tooltip', tooltip)
  .mount('#app')

if (import.meta.env.PROD && 'serviceWorker' in navigator)
  // Without one all goes on as before.
  void navigator.serviceWorker.register('/service-worker.js').catch(() => undefined)

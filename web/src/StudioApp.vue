<script setup lang="ts">
import ConfirmDialog from 'primevue/confirmdialog'
import Toast from 'primevue/toast'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import UndoToast from './shell/UndoToast.vue'
import { useTheme } from './theme/useTheme'

useTheme()

/** Who is signed in is asked before there is anything to show; on a slow line that takes a while. */
const ready = ref(false)
void useRouter()
  .isReady()
  .finally(() => (ready.value = true))
</script>

<template>
  <p v-if="!ready" class="opening" role="status">{{ $t('shell.opening') }}</p>
  <RouterView />
  <ConfirmDialog :style="{ width: '28rem' }" :breakpoints="{ '720px': '94vw' }" />
  <Toast position="bottom-right" />
  <UndoToast />
</template>

<style scoped>
/* Only who waits sees it. */
.opening {
  margin: 40vh 0 0;
  text-align: center;
  color: var(--ink-soft);
  animation: come 0.2s 0.4s both;
}
@keyframes come {
  from {
    opacity: 0;
  }
}
</style>

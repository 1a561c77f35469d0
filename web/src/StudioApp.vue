<script setup lang="ts">
import ConfirmDialog from 'primevue/confirmdialog'
import Toast from 'primevue/toast'
import UndoToast from './shell/UndoToast.vue'
import { useTheme } from './theme/useTheme'

useTheme()
</script>

<template>
  <RouterView />
  <ConfirmDialog :style="{ width: '28rem' }" :breakpoints="{ '720px': '94vw' }" />
  <Toast position="bottom-right" />
  <UndoToast />
</template>

import { useColorMode } from '@vueuse/core'

/** Light, dark, or what the device says; remembered in this browser. */
export function useTheme() {
  return useColorMode({ storageKey: 'jundle-theme', emitAuto: true, disableTransition: false })
}

import Tooltip from 'primevue/tooltip'
import type { ObjectDirective } from 'vue'

const primeTooltip = Tooltip as unknown as ObjectDirective<HTMLElement, string | undefined>

/** PrimeVue's tooltip, which shows for the mouse, shown for the keyboard as well. */
export const tooltip: ObjectDirective<HTMLElement, string | undefined> = {
  ...primeTooltip,
  mounted(element, ...rest) {
    primeTooltip.mounted?.(element, ...rest)
    element.addEventListener('focus', () => {
      if (element.matches(':focus-visible')) element.dispatchEvent(new MouseEvent('mouseenter'))
    })
    element.addEventListener('blur', () => element.dispatchEvent(new MouseEvent('mouseleave')))
  },
}

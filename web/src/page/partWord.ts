import { i18n, t } from '@/i18n'

/** What a part of a block or of the look is called in the name of a step, like "corners"; words stay as they are. */
export const partWord = (part: string) => (i18n.global.te(`parts.${part}`) ? t(`parts.${part}`) : part)

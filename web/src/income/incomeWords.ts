import type { PaymentView } from '@/api/client'
import { t } from '@/i18n'

const STATES: Record<PaymentView['state'], string> = {
  begun: t('income.begun'),
  paid: t('income.paid'),
  failed: t('income.failed'),
  given_back: t('income.givenBack'),
  part_given_back: t('income.partGivenBack'),
}

/** How a payment stands. */
export const stateWords = ({ state }: PaymentView) => STATES[state]

/** Whether anything of it can be given back. */
export const canGiveBack = ({ kept }: PaymentView) => kept.minor > 0

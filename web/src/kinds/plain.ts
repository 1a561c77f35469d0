import { t } from '@/i18n'

/** The choice of a plain address, for kinds that lead to one destination. */
export const PLAIN = {
  label: t('kinds.plainAddressOnThePage'),
  hint: t('kinds.forPartnersWhoseTermsForbid'),
}

/** What is said at a figure that rests on what browsers tell. */
export const MAY_BE_LOW = t('kinds.thePageCarriesThePlain')

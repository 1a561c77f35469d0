import { t } from '@/i18n'

/** What classes of device are called. */
export const DEVICES = {
  phone: t('readings.phone'),
  tablet: t('readings.tablet'),
  desktop: t('readings.desktop'),
}

import { createI18n } from 'vue-i18n'
import english from './locales/en.json'

/** The other languages, each a file of its own that is loaded when somebody reads it. */
const others = import.meta.glob<typeof english>(['./locales/*.json', '!./locales/en.json'], {
  import: 'default',
})

export const i18n = createI18n({
  legacy: false,
  locale: 'en',
  fallbackLocale: 'en',
  messages: { en: english } as Record<string, typeof english>,
})

/** A text of the studio by its key, in the language of whoever reads it. */
export const { t } = i18n.global

/** How that language writes numbers and dates, as a BCP 47 tag. Days come before months in the studio’s English. */
export const formatsOf = (locale = i18n.global.locale.value) => (locale === 'en' ? 'en-GB' : locale)

/** Goes on in the first of these languages that there is a catalogue of; where there is none, in English. */
export async function readIn(languages: readonly string[]) {
  for (const language of languages) {
    const [locale] = language.split('-') as [string]
    const load = others[`./locales/${locale}.json`]
    if (load) i18n.global.setLocaleMessage(locale, await load())
    if (!i18n.global.availableLocales.includes(locale)) continue
    i18n.global.locale.value = locale
    document.documentElement.lang = locale
    return
  }
}

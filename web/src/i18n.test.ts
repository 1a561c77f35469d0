// @vitest-environment happy-dom
import { afterEach, describe, expect, it } from 'vitest'
import { counted } from './figures'
import { formatsOf, i18n, readIn, t } from './i18n'
import english from './locales/en.json'

const keys = Object.entries(english).flatMap(([area, texts]) =>
  Object.keys(texts).map((key) => `${area}.${key}`),
)

afterEach(() => readIn(['en']))

describe('the texts of the studio', () => {
  it('can all be said', () => {
    for (const key of keys) expect(t(key, 2), key).not.toMatch(/[|@]|^$/)
  })

  it('are read in the first language there is a catalogue of', async () => {
    await readIn(['tlh', 'en-GB', 'de'])
    expect([i18n.global.locale.value, formatsOf(), document.documentElement.lang]).toEqual([
      'en',
      'en-GB',
      'en',
    ])
  })

  it('take another language, with its own plurals and numbers, from a catalogue alone', async () => {
    const german = { counts: { visit: '{n} Besuch | {n} Besuche' } }
    i18n.global.setLocaleMessage('de', german as unknown as typeof english)
    await readIn(['de-AT', 'en'])
    expect([1, 1204].map((n) => counted(n, 'visit'))).toEqual(['1 Besuch', '1.204 Besuche'])
    expect(t('arrange.addABlock'), 'English where there is no other').toBe('Add a block')
  })
})

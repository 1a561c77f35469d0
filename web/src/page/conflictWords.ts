import type { Block, Document } from '@/api/client'
import { t } from '@/i18n'
import type { ConflictWords } from '@/saving/editing'
import { isRecord, same } from '@/saving/json'
import { merge } from '@/saving/merge'
import { valueAt } from '@/saving/places'
import { titleOf } from './blockWords'

const PARTS: Record<string, string> = {
  header: t('page.topOfThePage'),
  icons: t('page.profileIcons'),
  footer: t('page.endOfThePage'),
  look: t('common.look'),
  tagging: t('page.tagsOfClicksGoingOut'),
  language: t('page.language'),
  translations: t('page.translations'),
  sharing: t('page.sharing'),
  codes: t('page.trackingCodes'),
  when: t('page.times'),
  gate: t('page.gate'),
}

const FIELDS: Record<string, string> = {
  title: t('page.fieldTitle'),
  name: t('page.fieldName'),
  line: t('page.fieldLine'),
  text: t('page.fieldText'),
  html: t('page.fieldText'),
  words: t('page.fieldText'),
  address: t('page.fieldAddress'),
  picture: t('page.fieldPicture'),
  cover: t('page.fieldPicture'),
  lead: t('page.fieldPicture'),
  alt: t('page.fieldAlt'),
  style: t('page.fieldLook'),
  when: t('page.fieldTimes'),
  hours: t('page.fieldTimes'),
  to: t('page.fieldSources'),
  gate: t('page.fieldGate'),
  amount: t('page.fieldPrice'),
  amounts: t('page.fieldPrice'),
  price: t('page.fieldPrice'),
  currency: t('page.fieldPrice'),
  shown: t('page.fieldShown'),
}

/** What each side has at each place, for somebody who has to choose. */
export function conflictWords(
  places: string[],
  base: Document,
  mine: Document,
  theirs: Document,
): ConflictWords[] {
  // A row is named as it will be called, also where only the other side changed that.
  const named = merge(base, mine, theirs).value
  return places.map((place) => {
    const [was, here, there] = [base, mine, theirs].map((document) => valueAt(document, place))
    return { name: nameOf(place, named, base), mine: sideWords(was, here), theirs: sideWords(was, there) }
  })
}

function nameOf(place: string, named: Document, base: Document) {
  const [part = '', key = '', ...rest] = place.split('/')
  if (part !== 'blocks') return withField(PARTS[part] ?? part, [key, ...rest])
  const block = valueAt(named, `blocks/${key}`) ?? valueAt(base, `blocks/${key}`)
  return withField(`“${titleOf(block as Block)}”`, rest)
}

/** A name, with the word for the innermost field that has one. A look is named as a whole. */
function withField(name: string, fields: string[]) {
  const field = fields.find((each) => each === 'style') ?? fields.findLast((each) => FIELDS[each])
  return field && name !== PARTS.look ? `${name}, ${FIELDS[field]}` : name
}

/** What one side made of it. */
export function sideWords(was: unknown, is: unknown): string {
  if (is === undefined) return t('page.deleted')
  const texts = changedTexts(was, is)
  return texts.length > 0 ? texts.slice(0, 3).join(', ') : t('page.changed')
}

/** The texts in a value that were not in it before. */
function changedTexts(was: unknown, is: unknown): string[] {
  if (same(was, is)) return []
  if (typeof is === 'string') return is.trim() ? [`“${shorten(is)}”`] : [t('page.emptied')]
  if (typeof is === 'boolean') return [is ? t('page.on') : t('page.off')]
  if (Array.isArray(is))
    return is.flatMap((each, i) => changedTexts(Array.isArray(was) ? was[i] : undefined, each))
  if (!isRecord(is)) return []
  return Object.entries(is)
    .filter(([field]) => field !== 'key' && field !== 'kind')
    .flatMap(([field, value]) =>
      field === 'shown' && !same(isRecord(was) ? was.shown : undefined, value)
        ? [value ? t('page.shown') : t('page.hidden')]
        : changedTexts(isRecord(was) ? was[field] : undefined, value),
    )
}

const shorten = (text: string) => (text.length > 60 ? `${text.slice(0, 60)}…` : text)

import type { Block, Document } from '@/api/client'
import { t } from '@/i18n'
import type { ConflictWords } from '@/saving/editing'
import { isRecord, same } from '@/saving/json'
import { valueAt } from '@/saving/places'
import { titleOf } from './blockWords'

const PARTS: Record<string, string> = {
  header: t('page.topOfThePage'),
  icons: t('page.profileIcons'),
  footer: t('page.endOfThePage'),
  look: t('common.look'),
  tagging: t('page.tagsOfClicksGoingOut'),
  language: t('page.language'),
}

/** What stands at each place on either side, for somebody who has to choose. */
export function conflictWords(
  places: string[],
  base: Document,
  mine: Document,
  theirs: Document,
): ConflictWords[] {
  return places.map((place) => {
    const [was, here, there] = [base, mine, theirs].map((document) => valueAt(document, place))
    return {
      name: nameOf(place, was ?? here ?? there),
      mine: sideWords(was, here),
      theirs: sideWords(was, there),
    }
  })
}

function nameOf(place: string, value: unknown) {
  const [part = '', field] = place.split('/')
  if (part === 'blocks') return `“${titleOf(value as Block)}”`
  return field && !isRecord(value) && part !== 'look'
    ? `${PARTS[part] ?? part}, ${field}`
    : (PARTS[part] ?? part)
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

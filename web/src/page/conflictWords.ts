import type { Block, Document } from '@/api/client'
import type { ConflictWords } from '@/saving/editing'
import { isRecord, same } from '@/saving/json'
import { valueAt } from '@/saving/places'
import { titleOf } from './blockWords'

const PARTS: Record<string, string> = {
  header: 'Top of the page',
  icons: 'Profile icons',
  footer: 'End of the page',
  look: 'Look',
  tagging: 'Tags of clicks going out',
  language: 'Language',
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
  if (is === undefined) return 'deleted'
  const texts = changedTexts(was, is)
  return texts.length > 0 ? texts.slice(0, 3).join(', ') : 'changed'
}

/** The texts in a value that were not in it before. */
function changedTexts(was: unknown, is: unknown): string[] {
  if (same(was, is)) return []
  if (typeof is === 'string') return is.trim() ? [`“${shorten(is)}”`] : ['emptied']
  if (typeof is === 'boolean') return [is ? 'on' : 'off']
  if (Array.isArray(is))
    return is.flatMap((each, i) => changedTexts(Array.isArray(was) ? was[i] : undefined, each))
  if (!isRecord(is)) return []
  return Object.entries(is)
    .filter(([field]) => field !== 'key' && field !== 'kind')
    .flatMap(([field, value]) =>
      field === 'shown' && !same(isRecord(was) ? was.shown : undefined, value)
        ? [value ? 'shown' : 'hidden']
        : changedTexts(isRecord(was) ? was[field] : undefined, value),
    )
}

const shorten = (text: string) => (text.length > 60 ? `${text.slice(0, 60)}…` : text)

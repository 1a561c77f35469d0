import type { PageSummary, RoleInReach } from '@/api/client'
import { t } from '@/i18n'
import { nameOf } from '@/pages/standing'

const WORDS = { runs: t('team.runs'), edits: t('team.edits'), reads: t('team.reads') }

/** What somebody may do, and with what, in words. */
export function roleWords({ role, whole, pages }: RoleInReach, known: PageSummary[]) {
  if (whole) return role === 'runs' ? WORDS.runs : t('team.onAllPages', { role: WORDS[role] })
  const names = pages
    .map((id) => known.find((page) => page.id === id))
    .map((page) => (page ? nameOf(page) : '–'))
  return t('team.onPages', { role: WORDS[role], pages: names.join(', ') })
}

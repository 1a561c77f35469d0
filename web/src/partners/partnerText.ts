import type { PartnerComparison } from '@/api/client'
import { count } from '@/figures'
import { t } from '@/i18n'

/** By what part of the larger count the two differ, like "−12 %". */
export const shareText = (share: number) =>
  `${share > 0 ? '+' : share < 0 ? '−' : '±'}${Math.round(100 * Math.abs(share))}\u00a0%`

/** What is to be sent to a partner: which days differ by more than is normal, with both counts. */
export function partnerText(of: PartnerComparison, page: string): string {
  const marked = of.lines.flatMap((line) =>
    line.days
      .filter(({ marked }) => marked)
      .map(({ date, ours, theirs, share }) =>
        t('partners.textLine', {
          date,
          subject: line.subject,
          ours: count(ours),
          theirs: count(theirs),
          share: shareText(share),
        }),
      ),
  )
  const opening = t('partners.textOpening', {
    page,
    from: of.from,
    to: of.to,
    tolerance: Math.round(100 * of.tolerance),
  })
  if (marked.length === 0) return `${opening}\n\n${t('partners.textNone')}`
  return [opening, '', ...marked, '', t('partners.textClosing')].join('\n')
}

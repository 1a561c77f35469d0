import { t } from '@/i18n'
import type { Lane } from '@/sourceColours'

/** What came from a source, with the source's name and colour beside it. */
export function fromSource<From extends { source: string }>(from: From, lanes: Lane[]) {
  const lane = lanes.find(({ id }) => id === from.source)
  const name = lane?.name ?? (from.source.replace(/^[a-z]+:/, '') || t('common.untagged'))
  return { ...from, name, colour: lane?.colour ?? 'var(--line-strong)' }
}

import type { ReadingsView } from '@/api/client'
import { count, counted } from '@/figures'
import { t } from '@/i18n'
import { UNTAGGED, type Lane } from '@/sourceColours'

/** From how many clicks on it says anything where most of them came from. Common practice, no single source. */
const ENOUGH = 10
/** How many places are named when no one has most. */
const NAMED = 3

/** The button that was pressed most, and where those clicks came from. */
export function strongestButton(view: ReadingsView, lanes: Lane[]) {
  const [row] = [...view.blocks].sort((a, b) => b.total.clicks - a.total.clicks)
  if (!row || row.total.clicks === 0) return undefined
  const { clicks } = row.total
  const shares = lanes
    .map(({ id, name }) => ({
      id,
      name: id === UNTAGGED ? t('arrange.untagged') : t('arrange.from', { name }),
      clicks: row.bySource[id]?.clicks ?? 0,
    }))
    .filter((each) => each.clicks > 0)
    .sort((a, b) => b.clicks - a.clicks)
  const [first] = shares
  const mostly = clicks >= ENOUGH && first && first.id !== UNTAGGED && first.clicks * 2 > clicks
  return {
    title: view.titles.find((each) => each.block === row.block)?.title,
    clicks,
    from: mostly ? t('arrange.mostly', { name: first.name }) : spread(shares, clicks),
  }
}

function spread(shares: { name: string; clicks: number }[], clicks: number) {
  const named = shares.slice(0, NAMED)
  const rest = clicks - named.reduce((sum, each) => sum + each.clicks, 0)
  const words = named.map((each) => `${count(each.clicks)} ${each.name}`)
  return [...words, ...(rest > 0 ? [counted(rest, 'other')] : [])].join(', ')
}

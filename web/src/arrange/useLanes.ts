import { useQuery } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { readingsQuery } from '@/api/queries'
import { lanes as lanesOf } from '@/sourceColours'

/** The from lanes of Arrange: what each row is drawn from. */
export function useLanes(pageId: () => string, range: Ref<string>) {
  const { data: readings } = useQuery(readingsQuery(pageId, range))
  const rows = computed(() => readings.value?.blocks ?? [])
  const byBlock = computed(() => new Map(rows.value.map((row) => [row.block, row])))
  const lanes = computed(() =>
    lanesOf(readings.value?.sources ?? [], (id) => (readings.value?.bySource[id]?.visits ?? 0) > 0),
  )
  /** The largest cell of the table; what the tints are measured against. */
  const most = computed(() =>
    Math.max(1, ...rows.value.flatMap((row) => Object.values(row.bySource).map((cell) => cell.clicks))),
  )
  const widestRate = computed(() =>
    Math.max(
      0.02,
      ...rows.value.filter((row) => row.total.rate.of > 0).map((row) => row.total.rate.interval.high),
    ),
  )

  /** What the lanes of a row are drawn from. */
  const figuresOf = (key: string) => ({
    figures: byBlock.value.get(key),
    lanes: lanes.value,
    most: most.value,
    widestRate: widestRate.value,
    enough: readings.value?.missing === 0,
    today: readings.value?.today?.blocks[key],
  })

  return { readings, lanes, figuresOf }
}

/** The ranges that figures can be read for, as the server names them. */
export const RANGES = [
  { value: '7d', label: 'Last 7 days' },
  { value: '28d', label: 'Last 28 days' },
  { value: '90d', label: 'Last 90 days' },
  { value: 'month', label: 'This month' },
  { value: 'all', label: 'From the beginning' },
]

/** The five campaign tags that the trade shares, in the order in which they are written. */
export const TAGS = [
  { field: 'source', name: 'utm_source', label: 'Source', example: 'studio_letter', says: 'where it is put' },
  { field: 'medium', name: 'utm_medium', label: 'Medium', example: 'email', says: 'what kind of place that is' },
  { field: 'campaign', name: 'utm_campaign', label: 'Campaign', example: 'spring_firing', says: 'what it is part of' },
  { field: 'term', name: 'utm_term', label: 'Term', example: 'bowls', says: 'a word it was bought for' },
  { field: 'content', name: 'utm_content', label: 'Content', example: 'top_button', says: 'which of several links' },
] as const // prettier-ignore

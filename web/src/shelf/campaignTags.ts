/** The five campaign tags that the trade shares, in the order in which they are written. */
export const TAGS = [
  { field: 'source', name: 'utm_source', label: 'Source', example: 'studio_letter', description: 'where it is put' },
  { field: 'medium', name: 'utm_medium', label: 'Medium', example: 'email', description: 'what kind of place that is' },
  { field: 'campaign', name: 'utm_campaign', label: 'Campaign', example: 'spring_firing', description: 'what it is part of' },
  { field: 'term', name: 'utm_term', label: 'Term', example: 'bowls', description: 'a word it was bought for' },
  { field: 'content', name: 'utm_content', label: 'Content', example: 'top_button', description: 'which of several links' },
] as const // prettier-ignore

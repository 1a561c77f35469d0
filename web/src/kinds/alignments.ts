export const ALIGNMENTS = [
  { value: 'left', label: 'Left' },
  { value: 'centre', label: 'In the middle' },
] as const

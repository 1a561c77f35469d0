import { api, take } from '@/api/client'
import type { components } from '@/api/generated/schema'

export type LinkFileReading = components['schemas']['LinkFileReading']
export type Mapping = LinkFileReading['mapping']

/** Reads a file of links, with its columns as they are said to be; keeps what is new where asked to. */
export const readLinkFile = (file: File, said: { mapping?: Mapping; label?: string; keep?: boolean }) =>
  take(
    api.POST('/api/link-files', {
      params: { query: { ...said.mapping, label: said.label || undefined, keep: said.keep } },
      body: file as unknown as string,
      bodySerializer: (body: unknown) => body as Blob,
      headers: { 'Content-Type': 'application/octet-stream' },
    }),
  )

import { api, take } from '@/api/client'

/** Makes a page of a file that one was taken along in, JSON or zip. */
export const takePageIn = (file: File, address: string) =>
  take(
    api.POST('/api/page-files', {
      params: { query: address ? { address } : {} },
      body: file as unknown as string,
      bodySerializer: (body: unknown) => body as Blob,
      headers: { 'Content-Type': 'application/octet-stream' },
    }),
  )

import { api, take } from '@/api/client'

type UploadPath = '/api/pictures' | '/api/icons' | '/api/films' | '/api/files'

/** Sends a file as it is; what comes back says what was kept of it. */
export function upload<P extends UploadPath>(path: P, file: Blob) {
  return take(
    api.POST(path, {
      // The contract says "binary"; the client hands it on as it is.
      body: file as unknown as string,
      bodySerializer: (body: unknown) => body as Blob,
      headers: { 'Content-Type': 'application/octet-stream' },
    } as never),
  ) as Promise<Kept[P]>
}

interface Kept {
  '/api/pictures': import('@/api/generated/schema').components['schemas']['Original']
  '/api/icons': import('@/api/generated/schema').components['schemas']['Icon']
  '/api/films': import('@/api/generated/schema').components['schemas']['KeptFile']
  '/api/files': import('@/api/generated/schema').components['schemas']['KeptFile']
}
